import { capacityWeights, chargeAt, curveOf, inTurn, loadAtShare, type LeftQuestion } from "../belief/charge-belief";
import { xQuantile } from "../belief/grids";
import { passedBy, type Carried } from "../front/in-turn";
import { byLoad } from "../front/product-curve";
import type { ThreeOf } from "../life/life-range";
import { nearestRank } from "../numerics/quantile";
import type { Prices } from "../plan/prices";
import { PACKING_FACTORS } from "../resin/storage";
import type { Rig } from "../rig/rig.record";
import { freshCharge, type Filling } from "./fresh-charge";
import { drawnLeft, threeBehind, type Ahead } from "./in-series";
import { aheadOf, leadOf, type WorkedBed, type WorkedTrain } from "./train";

/**
 * What can be done with a lead that gives way: change it now, change it once it is near exhausted while the lag guards, use
 * all up, or change all.
 */
export type TrainAct = "rotate" | "run-lead" | "run-out" | "replace-all";

/** What one act would give. */
export interface ActWorth {
  readonly act: TrainAct;
  /** L from now until the train's last bed reaches its mark, the act and nothing more being done. */
  readonly litres: ThreeOf<number>;
  /** Of a lead that is run to near exhaustion: when it is, and the chance that the train's mark comes before. */
  readonly runsUntil?: { readonly litres: number; readonly days?: number; readonly risk: number };
  /** Days that the middle of these last, at the usual water; absent where none is used. */
  readonly days?: number;
  /** Charges put in. */
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

/**
 * meq that a charge can still take until it is spent, by the middle of its belief.
 * @param after L from now
 */
function stillHolds(
  { worked: { belief, question } }: WorkedBed,
  after: number,
): { readonly meq: number; readonly whole: number } {
  const whole = belief.scale.meq * Math.exp(xQuantile(capacityWeights(belief), 0.5));
  return { meq: Math.max(0, whole - question.used - (after * question.feed.median) / 100), whole };
}

const more = (litres: number, { low, typical, high }: ThreeOf<number>): ThreeOf<number> => ({
  low: litres + low,
  typical: litres + typical,
  high: litres + high,
});

/** Of its feed: a lead that lets so much through is near exhausted. */
const GIVEN = 0.8;

const DRAWS = 200;

/** A lead run to near exhaustion: L until then, in the middle of many futures, and in how many the train's mark comes before. */
function leadRun(lead: WorkedBed, last: WorkedBed): { readonly litres: number; readonly risk: number } | undefined {
  const { worked } = last;
  const { mark, belief, question } = worked;
  if (!mark) return undefined;
  const feed = question.feed.median;
  const untils = new Float64Array(DRAWS);
  let before = 0;
  for (let i = 0; i < DRAWS; i += 1) {
    const [place, other] = [(i + 0.5) / DRAWS, ((i + 1) * Math.SQRT2) % 1];
    const drawn = chargeAt(belief, other);
    const spent = litresUntilGiven(lead.worked, place, curveOf(belief, drawn));
    const bed = { belief, used: question.used, loads: question.loads };
    if (drawnLeft(bed, mark, worked.ahead, drawn, () => place, feed) < spent) before += 1;
    untils[i] = spent;
  }
  return { litres: nearestRank(untils.sort(), 0.5), risk: before / DRAWS };
}

/** L until a drawn lead lets four fifths of its feed through. */
function litresUntilGiven({ belief, question }: WorkedBed["worked"], place: number, curve: number): number {
  const drawn = chargeAt(belief, place, Math.min(curve, belief.scale.curves.length - 1));
  return Math.max(0, ((loadAtShare(belief, drawn, GIVEN) - question.used) * 100) / question.feed.median);
}

/** The beds behind a lead with what came through it in so many litres. */
function afterRun(lead: WorkedBed, others: readonly WorkedBed[], litres: number): Ahead {
  const { belief, question } = lead.worked;
  const meq = (litres * question.feed.median) / 100;
  const passed = (of: Carried, curve: number) => {
    const drawn = chargeAt(belief, 0.5, Math.min(curve, belief.scale.curves.length - 1));
    const used = (each: Carried) => (each === "seen" || !question.loads ? question.used : question.loads[each][curve]!);
    const bed = [[inTurn(belief, drawn, used)]];
    return passedBy(meq, bed, of) - passedBy(0, bed, of);
  };
  return others.map(({ worked }, i) => {
    const bed = aheadOf(worked);
    if (i > 0) return [bed];
    const { loads, used } = bed;
    const added = loads && byLoad((of) => loads[of].map((each, curve) => each + passed(of, curve)));
    return [{ ...bed, used: used + passed("seen", 0), loads: added }];
  });
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
  const thrown = (of: readonly WorkedBed[], after = 0) => ({
    litres: of.reduce((sum, bed) => sum + (100 * stillHolds(bed, after).meq) / where.feed.typical, 0),
    money: of.reduce((sum, bed) => {
      const { meq, whole } = stillHolds(bed, after);
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
  const inDays = (litres: number) => (week > 0 ? { days: (7 * litres) / week } : {});
  const worth = (act: TrainAct, litres: ThreeOf<number>, emptied: readonly WorkedBed[]): ActWorth => ({
    act,
    litres,
    ...inDays(litres.typical),
    fillings: emptied.length,
    money: emptied.reduce((sum, bed) => sum + fillingOf(bed), 0),
    thrownAway: thrown(emptied),
  });
  const asTheyStand = (rig.use === "aquarium" ? where.leak : undefined) ??
    where.left ?? { low: 0, typical: 0, high: 0 };
  const run = leadRun(lead, last);
  // What is thrown away of a lead that is run on is what it then still holds.
  const ofRun = ({ litres, risk }: { readonly litres: number; readonly risk: number }) => ({
    runsUntil: { litres, ...inDays(litres), risk },
    thrownAway: thrown([lead], litres),
  });
  return [
    worth("rotate", behind(others.map(({ worked }) => [aheadOf(worked)])), [lead]),
    ...(run && run.litres > 0
      ? [{ ...worth("run-lead", more(run.litres, behind(afterRun(lead, others, run.litres))), [lead]), ...ofRun(run) }]
      : []),
    worth("run-out", asTheyStand, []),
    worth("replace-all", behind(freshAhead), beds),
  ];
}
