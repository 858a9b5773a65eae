import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import type { Vessel } from "../vessel/vessel.record";

/** Where one vessel of a crew is, and what is in it. */
export interface Whereabouts {
  readonly vessel: Vessel;
  /** The rig that it hangs in; in the pool where there is none. */
  readonly rig?: Rig;
  /** The charge in it that was not ended. */
  readonly charge?: Charge;
  /** The end of the last one, where there is none now. */
  readonly emptySince?: string;
}

/** Every vessel that is not retired, those in the pool first, by name. */
export function whereabouts(
  vessels: readonly Vessel[],
  rigs: readonly Rig[],
  charges: readonly Charge[],
): readonly Whereabouts[] {
  const hangsIn = (id: string) =>
    rigs.find(
      ({ retiredOn, stages }) =>
        retiredOn === undefined && stages.some((stage) => stage.kind === "resin" && stage.vesselId === id),
    );
  return vessels
    .filter(({ retiredOn }) => retiredOn === undefined)
    .map((vessel): Whereabouts => {
      const rig = hangsIn(vessel.id);
      const own = charges.filter(({ vesselId }) => vesselId === vessel.id);
      const charge = own.find(({ ended }) => ended === undefined);
      const emptySince = own
        .flatMap(({ ended }) => (ended ? [ended.at] : []))
        .sort()
        .pop();
      return {
        vessel,
        ...(rig ? { rig } : {}),
        ...(charge ? { charge } : emptySince ? { emptySince } : {}),
      };
    })
    .sort(
      (a, b) => Number(a.rig !== undefined) - Number(b.rig !== undefined) || a.vessel.name.localeCompare(b.vessel.name),
    );
}
