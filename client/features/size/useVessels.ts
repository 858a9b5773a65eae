import type { VesselSize } from "@winter-bead/core";
import { GENERIC_SIZES, sizeOf } from "@winter-bead/core/src/sizing";
import { useMemo } from "react";
import { inUse } from "../../data/in-use";
import { useRecords } from "../../data/store";

/** Vessels to choose from: the crew's own first, then the generic sizes. */
export function useVessels(): readonly VesselSize[] {
  const { records } = useRecords("vessels");
  return useMemo(() => {
    const generic = GENERIC_SIZES.map(sizeOf);
    const own = inUse(records).map((vessel) => ({ ...sizeOf(vessel), own: true }));
    const names = new Set(own.map(({ name }) => name));
    return [...own, ...generic.filter(({ name }) => !names.has(name))];
  }, [records]);
}
