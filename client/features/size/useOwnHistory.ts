import { GRADE_CAPACITIES, smallerSide, xQuantile, type CapacityRange, type Grade } from "@winter-bead/core";
import { useMemo } from "react";
import { useRigs } from "../rack/useRigs";

/** What the owner's charges hold, in terms of this resin: every ended charge taught, whatever its grade. */
export function useOwnHistory(grade: Grade): CapacityRange | undefined {
  const { rigs } = useRigs();
  return useMemo(() => {
    const owner = rigs
      .flatMap(({ assessment }) => [...(assessment?.owners?.values() ?? [])])
      .find(({ taught }) => taught > 0);
    if (!owner) return undefined;
    const at = (share: number) => smallerSide(GRADE_CAPACITIES[grade]) * Math.exp(xQuantile(owner.capacity, share));
    return { low: at(0.1), median: at(0.5), high: at(0.9) };
  }, [rigs, grade]);
}
