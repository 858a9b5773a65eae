import { capacityRange, type CapacityRange, type Grade } from "@winter-bead/core";
import { useMemo } from "react";
import { useRigs } from "../run/useRigs";

/** The owner's capacity with this resin, from a rig that has ended charges of it. */
export function useOwnHistory(grade: Grade): CapacityRange | undefined {
  const { rigs } = useRigs();
  return useMemo(() => {
    const taught = rigs.find(
      (view) => (view.assessment?.lessons?.ended.length ?? 0) > 0 && view.assessment?.standing?.charge.grade === grade,
    );
    return taught?.assessment?.lessons && capacityRange(taught.assessment.lessons.grid);
  }, [rigs, grade]);
}
