import { capacityWeights, type LeftQuestion } from "../belief/charge-belief";
import { xQuantile } from "../belief/grids";
import type { ThreeOf } from "../life/life-range";
import type { Prices } from "../plan/prices";
import { PACKING_FACTORS } from "../resin/storage";
import type { Rig } from "../rig/rig.record";
import { freshCharge, type Filling } from "./fresh-charge";
import { threeBehind, type Ahead } from "./in-series";
import { aheadOf, leadOf, type WorkedBed, type WorkedTrain } from "./train";

/** What can be done with a lead that gives way: change it now, use it up while the lag guards, or change all. */
export type TrainAct = "rotate" | "run-out" | "replace-all";

/** What one act would give. */
export interface ActWorth {
  readonly act: TrainAct;
  /** L until the train's last bed reaches its mark, nothing more being done. */
  readonly litres: ThreeOf<number>;
  /** Days that the middle of these last, at the usual water; absent where none is used. */
  readonly days?: number;
  /** Charges put in now. */
  readonly fillings: number;
  /** Money for them: resin and work. */
  readonly money: number;
  /** L that the emptied resin could still have treated, and the money for that. */
  readonly thrownAway: { readonly litres: number; readonly money: number };
}

/** What usually goes into a vessel: as its charge of now, settled where that was poured from a bag. */
const again = ({ worked }: WorkedBed): Filling => {
  const { grade, resinLitres, packing } = worked.standing.charge;
  return { grade, resinLitres, packing: PACKING_FACTORS[packing] === 1 ? packing : "settled" };
};

/** meq that a charge can still take until it is spent, by the middle of its belief. */
function stillHolds({ worked: { belief, question } }: WorkedBed): { readonly meq: number; readonly whole: number } {
  const whole = belief.scale.meq * Math.exp(xQuantile(capacityWeights(belief), 0.5));
  return { meq: Math.max(0, whole - question.used), whole };
}

/**
 * What each act would give in litres, days and money: the lag to the front with fresh resin behind it, nothing yet, or all
 * filled anew. Every bed as it is believed, the fresh ones as this owner's charges are.
 *
 * @returns nothing of a train of one, or of beds that do not change places
 */
export function trainWorth(
  { beds }: Pick<WorkedTrain, "beds">,
  rig: Pick<Rig, "use">,
  prices: Prices,
  minutes: number,
): readonly ActWorth[] {
  const lead = leadOf(beds);
  const last = beds[beds.length - 1];
  if (!lead || !last) return [];
  const others = beds.slice(1);
  const { standing: where, question } = last.worked;
  const fillingOf = (bed: WorkedBed) =>
    bed.worked.standing.charge.resinLitres * prices.resin[bed.worked.standing.charge.grade] +
    (minutes * prices.wage) / 60;
  const week = where.use.weekdays.reduce((sum, each) => sum + each, 0);
  const thrown = (of: readonly WorkedBed[]) => ({
    litres: of.reduce((sum, bed) => sum + (100 * stillHolds(bed).meq) / where.feed.typical, 0),
    money: of.reduce((sum, bed) => {
      const { meq, whole } = stillHolds(bed);
      const { charge } = bed.worked.standing;
      return sum + (meq / whole) * charge.resinLitres * prices.resin[charge.grade];
    }, 0),
  });
  const filledIn = (bed: WorkedBed, ahead: Ahead) =>
    freshCharge({ rig, vessel: bed.vessel, worked: bed.worked, owner: bed.owner }, again(bed), ahead);
  const unused: LeftQuestion = { used: 0, feed: question.feed, sinceLog: question.sinceLog };
  const behind = (ahead: Ahead) => {
    const { belief, mark } = filledIn(lead, ahead);
    return threeBehind(belief, mark, ahead, unused);
  };
  const freshAhead = others.reduce<Ahead>((ahead, bed) => {
    const { belief, plain } = filledIn(bed, ahead);
    return [...ahead, [{ belief, used: 0, plain }]];
  }, []);
  const worth = (act: TrainAct, litres: ThreeOf<number>, emptied: readonly WorkedBed[]): ActWorth => ({
    act,
    litres,
    ...(week > 0 ? { days: (7 * litres.typical) / week } : {}),
    fillings: emptied.length,
    money: emptied.reduce((sum, bed) => sum + fillingOf(bed), 0),
    thrownAway: thrown(emptied),
  });
  return [
    worth("rotate", behind(others.map(({ worked }) => [aheadOf(worked)])), [lead]),
    worth("run-out", where.left ?? { low: 0, typical: 0, high: 0 }, []),
    worth("replace-all", behind(freshAhead), beds),
  ];
}
