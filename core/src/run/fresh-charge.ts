import { chargeBelief, markOf, tight, type ChargeBelief, type Mark } from "../belief/charge-belief";
import { scaledTo, shareOfFeed } from "../belief/weigh";
import type { OwnerBelief } from "../belief/owner";
import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import type { Vessel } from "../vessel/vessel.record";
import { chargeCondition, chargeMeq, gradeCapacityOf, limitOf, sidesOf } from "./hydraulics";
import type { Event, PlainBed } from "./in-place";
import type { Ahead } from "./in-series";
import { leakMarkOf, markInPlace } from "./marks";
import { FRESH_SD } from "../ledger/water-used";
import type { WorkedStanding } from "./standing";

/** Resin that a refill would put in. */
export type Filling = Pick<Charge, "grade" | "resinLitres" | "packing" | "stored">;

/** A charge that nobody has read yet, and the mark that it runs to. */
export interface Fresh {
  readonly belief: ChargeBelief;
  readonly mark: Mark;
  readonly plain: PlainBed;
}

export interface FreshFacts {
  readonly rig: Pick<Rig, "use">;
  readonly vessel: Vessel;
  /** The charge that stands there now, as it is believed. */
  readonly worked: WorkedStanding;
  readonly owner: OwnerBelief;
}

/**
 * What a fresh charge would hold, believed as this owner's charges are.
 * @param ahead beds that would stand before it
 */
export function freshCharge({ rig, vessel, worked, owner }: FreshFacts, filling: Filling, ahead: Ahead = []): Fresh {
  const { standing: where, belief } = worked;
  const asCharge = { ...where.charge, ...filling } as Charge;
  const meq = 1000 * filling.resinLitres * gradeCapacityOf(asCharge) * chargeCondition(asCharge);
  const asScale = (meq / chargeMeq(where.charge)) * belief.scale.meq;
  const fresh = tight(chargeBelief(owner, FRESH_SD, [], scaledTo(asScale, belief.scale)));
  const plain = { ...worked.plain, meq: asScale, sides: sidesOf(asCharge) };
  const place = (mark: Mark, event: Event) => markInPlace(mark, fresh, plain, ahead, event);
  const toLeak = where.feedMeetsLimit || rig.use === "aquarium" ? leakMarkOf(fresh) : undefined;
  const limit = limitOf(vessel);
  const mark = toLeak
    ? place(toLeak, "leak")
    : place(markOf(limit, where.feed.typical, fresh), shareOfFeed(limit, where.feed.typical));
  return { belief: fresh, mark, plain };
}
