import {
  chargeAt,
  chargeBelief,
  loadAtMark,
  markAtThroughput,
  markOf,
  tight,
  type ChargeBelief,
  type Mark,
} from "../belief/charge-belief";
import type { OwnerBelief } from "../belief/owner";
import { addDays, daysBetween, weekdayOf } from "../dates/calendar";
import { chance } from "../dates/futures";
import type { ThreeOf } from "../life/life-range";
import { limitOf, gradeCapacityOf, chargeCondition } from "../run/lessons";
import type { WorkedStanding } from "../run/standing";
import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import type { Vessel } from "../vessel/vessel.record";
import type { BookedDay } from "../work/booked-work";

/** Days that are looked ahead. */
export const DAYS_AHEAD = 35;
/** Futures that are drawn. */
export const PATHS = 1000;
const SEED = 23;
/** Planning assumptions, as for dates: how far a future's pace is off in the first week, and a day's use. */
const PACE_SD = 0.3;
const DAY_SHARE = 0.5;
/** Spread of a load nobody has put on yet. */
const FRESH_SD = 0.03;

/** Resin that a refill would put in. */
export type Filling = Pick<Charge, "grade" | "resinLitres" | "packing" | "stored">;

/** A refill on a day, before that day's work. */
export interface RefillOn {
  /** ISO date. */
  readonly on: string;
  readonly filling: Filling;
}

/** What might be otherwise. */
export interface WhatIf {
  /** Water of a job beside the usual: 0.8 for a lower flow. */
  readonly waterShare?: number;
  /** A spare vessel stands filled, and is hung in when the first runs out. */
  readonly spare?: boolean;
}

export interface ForecastInput {
  readonly rig: Rig;
  readonly vessel: Vessel;
  readonly worked: WorkedStanding;
  readonly owner: OwnerBelief;
  /** ISO date of the first day shown. */
  readonly today: string;
  readonly days?: number;
  /** What is known of the work to come. */
  readonly work: readonly BookedDay[];
  /** What usually goes into this vessel. */
  readonly filling: Filling;
  /** In the order of their days. */
  readonly refills?: readonly RefillOn[];
  readonly whatIf?: WhatIf;
}

/** One day to come of one vessel. */
export interface DayAhead {
  /** ISO date. */
  readonly on: string;
  /** L to be expected. */
  readonly litres: number;
  /** What is booked, or known otherwise; absent where only the log tells. */
  readonly known?: BookedDay;
  /** L left in the evening to the mark. */
  readonly left: ThreeOf<number>;
  /** The same as a share of a fresh charge's middle. */
  readonly share: ThreeOf<number>;
  /** Chance that it has run out before the day's work, and by its evening. */
  readonly outBefore: number;
  readonly outBy: number;
  /** Mean litres of this day's work for which there is no water, and of what is left in the morning. */
  readonly short: number;
  readonly morning: number;
  /** It is refilled before the day's work. */
  readonly refilled: boolean;
}

export interface Forecast {
  readonly days: readonly DayAhead[];
  /** L of a fresh charge to its limit: low, typical, high. */
  readonly fresh: ThreeOf<number>;
}

interface Fresh {
  readonly belief: ChargeBelief;
  readonly mark: Mark;
}

/** What a fresh charge would hold, believed as this owner's charges are. */
function freshCharge({ rig, vessel, worked, owner }: ForecastInput, filling: Filling): Fresh {
  const { standing: where, belief } = worked;
  const asCharge = { ...where.charge, ...filling } as Charge;
  const meq = 1000 * filling.resinLitres * gradeCapacityOf(asCharge) * chargeCondition(asCharge);
  const logPromised = belief.scale.logPromised + Math.log(meq / belief.scale.meq);
  const fresh = tight(chargeBelief(owner, FRESH_SD, [], { ...belief.scale, meq, logPromised }));
  const mark =
    where.leak && rig.use === "aquarium"
      ? markAtThroughput(where.leak.throughput, fresh)
      : markOf(limitOf(vessel), where.feed.typical, fresh);
  return { belief: fresh, mark };
}

const at = (sorted: Float64Array, share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
const three = (values: Float64Array): ThreeOf<number> => {
  const sorted = values.slice().sort();
  return { low: at(sorted, 0.1), typical: at(sorted, 0.5), high: at(sorted, 0.9) };
};

/** One future of a vessel. */
interface Path {
  left: number;
  /** µS/cm of the feed, and how much more than usual it works. */
  readonly feed: number;
  readonly pace: number;
  spares: number;
  out: boolean;
}

/**
 * A vessel day by day: what is left in the evening, and the odds that it runs out before work that is booked. Futures are
 * drawn from the same belief as its dates (Metropolis and Ulam 1949, the Monte Carlo method); a refill draws a fresh charge
 * as this owner's charges scatter.
 */
export function forecast(input: ForecastInput): Forecast {
  const { worked, today, days = DAYS_AHEAD, work, filling, refills = [], whatIf = {} } = input;
  const { standing: where, belief, mark, question, firstDay } = worked;
  const { uniform, normal } = chance(SEED);
  const paceSd = PACE_SD / Math.sqrt(1 + where.use.weeksLogged);
  const usual = freshCharge(input, filling);
  const drawFresh = (fresh: Fresh, place: number, feed: number) =>
    (loadAtMark(fresh.belief, fresh.mark, chargeAt(fresh.belief, place)) * 100) / feed;
  const freshLitres = new Float64Array(PATHS);
  const paths: Path[] = Array.from({ length: PATHS }, (_, i) => {
    const place = (i + uniform()) / PATHS;
    const feed = question.feed.median * Math.exp(question.feed.sd * normal());
    const gone = Math.max(0, question.sinceLog.median + question.sinceLog.sd * normal());
    const load = mark ? loadAtMark(belief, mark, chargeAt(belief, place)) : 0;
    const left = mark ? Math.max(0, ((load - question.used) * 100) / feed - gone) : 0;
    freshLitres[i] = drawFresh(usual, uniform(), feed);
    return { left, feed, pace: Math.exp(paceSd * normal()), spares: whatIf.spare ? 1 : 0, out: left <= 0 };
  });
  const fresh = three(freshLitres);
  const known = new Map(work.map((day) => [day.on, day]));
  const byDay = new Map(refills.map((refill) => [refill.on, freshCharge(input, refill.filling)]));
  const evening = new Float64Array(PATHS);
  const ahead = Array.from({ length: days }, (_, d): DayAhead => {
    const on = addDays(today, d);
    const booked = known.get(on);
    // What was logged today is gone already.
    const isOver = daysBetween(firstDay, on) < 0;
    const mean = (whatIf.waterShare ?? 1) * (isOver ? 0 : (booked?.litres ?? where.use.weekdays[weekdayOf(on)]!));
    const refill = byDay.get(on);
    let [outBefore, outBy, short, morning] = [0, 0, 0, 0];
    paths.forEach((path, i) => {
      if (refill) {
        path.left = drawFresh(refill, uniform(), path.feed);
        path.out = false;
      }
      const use = path.pace * Math.max(0, mean + DAY_SHARE * mean * normal());
      if (path.out) outBefore += 1;
      morning += path.left;
      let missing = Math.max(0, use - path.left);
      path.left = Math.max(0, path.left - use);
      if (missing > 0 && path.spares > 0) {
        path.spares -= 1;
        path.left = Math.max(0, drawFresh(usual, uniform(), path.feed) - missing);
        missing = 0;
        path.out = false;
      }
      if (missing > 0) path.out = true;
      if (path.out) outBy += 1;
      short += missing;
      evening[i] = path.left;
    });
    const left = three(evening);
    const asShare = (litres: number) => Math.min(1, litres / fresh.typical);
    return {
      on,
      litres: mean,
      ...(booked ? { known: booked } : {}),
      left,
      share: { low: asShare(left.low), typical: asShare(left.typical), high: asShare(left.high) },
      outBefore: outBefore / PATHS,
      outBy: outBy / PATHS,
      short: short / PATHS,
      morning: morning / PATHS,
      refilled: refill !== undefined,
    };
  });
  return { days: ahead, fresh };
}

/** From this chance on a day is marked: one in twenty. */
export const MARKED_FROM = 0.05;

/** The first day with work for which there may be no water. */
export const firstShortDay = (days: readonly DayAhead[]): DayAhead | undefined =>
  days.find((day) => day.litres > 0 && day.outBy >= MARKED_FROM);

/** A chance as it is spoken. @example oddsWords(0.34) // "1 in 3" */
export function oddsWords(chance: number): string {
  if (chance >= 0.95) return "almost surely";
  if (chance >= 0.71) return "3 in 4";
  if (chance >= 0.58) return "2 in 3";
  if (chance < 0.01) return "less than 1 in 100";
  const times = 1 / chance;
  const round = times < 10 ? Math.round(times) : times < 40 ? 5 * Math.round(times / 5) : 10 * Math.round(times / 10);
  return `1 in ${round}`;
}
