import type { Charge } from "../resin/charge.record";
import type { Arrangement } from "../rig/arrangement.record";
import type { Rig } from "../rig/rig.record";
import { Trains } from "../rig/trains";
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

/** What tells where a crew's vessels are. */
export interface WhereaboutsFacts {
  readonly vessels: readonly Vessel[];
  readonly rigs: readonly Rig[];
  readonly arrangements: readonly Arrangement[];
  readonly charges: readonly Charge[];
  /** Milliseconds since 1970. */
  readonly now: number;
}

/** Every vessel that is not retired, those in the pool first, by name. */
export function whereabouts({ vessels, rigs, arrangements, charges, now }: WhereaboutsFacts): readonly Whereabouts[] {
  const trains = new Trains(arrangements);
  const hangsIn = (id: string) => {
    const rigId = trains.rigOf(id, now);
    return rigs.find((rig) => rig.id === rigId && rig.retiredOn === undefined);
  };
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
