import { chargeBelief, markAtThroughput, markOf, tight, type ChargeBelief, type Mark } from "../belief/charge-belief";
import { scaledTo } from "../belief/weigh";
import type { OwnerBelief } from "../belief/owner";
import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import type { Vessel } from "../vessel/vessel.record";
import { chargeCondition, gradeCapacityOf, limitOf } from "./hydraulics";
import { FRESH_SD } from "../ledger/water-used";
import type { WorkedStanding } from "./standing";

/** Resin that a refill would put in. */
export type Filling = Pick<Charge, "grade" | "resinLitres" | "packing" | "stored">;

/** A charge that nobody has read yet, and the mark that it runs to. */
export interface Fresh {
  readonly belief: ChargeBelief;
  readonly mark: Mark;
}

export interface FreshFacts {
  readonly rig: Pick<Rig, "use">;
  readonly vessel: Vessel;
  /** The charge that stands there now, as it is believed. */
  readonly worked: WorkedStanding;
  readonly owner: OwnerBelief;
}

/** What a fresh charge would hold, believed as this owner's charges are. */
export function freshCharge({ rig, vessel, worked, owner }: FreshFacts, filling: Filling): Fresh {
  const { standing: where, belief } = worked;
  const asCharge = { ...where.charge, ...filling } as Charge;
  const meq = 1000 * filling.resinLitres * gradeCapacityOf(asCharge) * chargeCondition(asCharge);
  const fresh = tight(chargeBelief(owner, FRESH_SD, [], scaledTo(meq, belief.scale)));
  const mark =
    where.leak && rig.use === "aquarium"
      ? markAtThroughput(where.leak.throughputs, fresh)
      : markOf(limitOf(vessel), where.feed.typical, fresh);
  return { belief: fresh, mark };
}
