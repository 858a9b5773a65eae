import { chargeAt, loadAtMark } from "../belief/charge-belief";
import type { OwnerBelief } from "../belief/owner";
import { addDays, daysBetween, weekdayOf } from "../dates/calendar";
import { DAY_SD } from "../dates/expected-use";
import { chance } from "../dates/futures";
import { nearestRank } from "../numerics/quantile";
import type { ThreeOf } from "../life/life-range";
import { freshCharge, type Filling, type Fresh } from "../run/fresh-charge";
import type { WorkedStanding } from "../run/standing";
import { drawLeft, elsewhere, noLaterThanTrend, paceSd } from "../run/standing-dates";
import type { Rig } from "../rig/rig.record";
import type { Vessel } from "../vessel/vessel.record";
import type { BookedDay } from "../work/booked-work";

/** Days that are looked ahead. */
export const DAYS_AHEAD = 35;
/** Futures that are drawn. */
export const PATHS = 1000;
const SEED = 23;
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

/** What is emptied at a rotation. */
export interface Lead {
  readonly vessel: Vessel;
  readonly worked: WorkedStanding;
}

/** Of a train: what it leaves as a whole, or what its lead alone does, which asks for rotation. */
export type Watched = "train" | "lead";

export interface ForecastInput {
  readonly rig: Rig;
  readonly vessel: Vessel;
  readonly worked: WorkedStanding;
  readonly owner: OwnerBelief;
  /** The first vessel of a train, where others stand behind it; then `vessel` is the last, and a refill is a rotation. */
  readonly lead?: Lead;
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
  /** L left in the evening to the mark. */
  readonly left: ThreeOf<number>;
  /** The same as a share of a fresh charge's middle. */
  readonly share: ThreeOf<number>;
  /** Chance that it has run out before the day's work, and by its evening. */
  readonly outBefore: number;
  readonly outBy: number;
  /** Futures, of `PATHS`, in which it has run out by its evening. */
  readonly outFutures: number;
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

const three = (values: Float64Array): ThreeOf<number> => {
  const sorted = values.slice().sort();
  return { low: nearestRank(sorted, 0.1), typical: nearestRank(sorted, 0.5), high: nearestRank(sorted, 0.9) };
};

/** The futures of a vessel, or of a train: its lead first, then those behind it. Each array holds one figure of all. */
interface Futures {
  readonly left: Float64Array;
  /** L that those behind the lead can take after it. */
  readonly behind: Float64Array;
  /** µS/cm of the feed, and how much more than usual it works. */
  readonly feed: Float64Array;
  readonly pace: Float64Array;
  readonly spares: Uint8Array;
  /** 1 of one that has run out. */
  readonly out: Uint8Array;
}

const noFutures = (): Futures => ({
  ...{ left: new Float64Array(PATHS), behind: new Float64Array(PATHS) },
  ...{ feed: new Float64Array(PATHS), pace: new Float64Array(PATHS) },
  ...{ spares: new Uint8Array(PATHS), out: new Uint8Array(PATHS) },
});

type DrawFresh = (of: Fresh, feed: number) => number;

/** What one day did to all futures. */
interface DaySums {
  /** Futures that have run out before the day's work, and by its evening. */
  readonly outBefore: number;
  readonly outBy: number;
  /** L of all futures: without water, and left in the morning. */
  readonly short: number;
  readonly morning: number;
}

/** Hangs a fresh charge in: of a train the lag leads with what it has left, and the fresh one stands behind it. */
function hangIn({ left, behind, out }: Futures, i: number, filled: number, isTrain: boolean): void {
  left[i] = isTrain ? behind[i]! : filled;
  if (isTrain) behind[i] = filled;
  out[i] = 0;
}

/** Takes every future through one day. @param evening gets what is left of each */
function liveDay(
  futures: Futures,
  mean: number,
  draws: {
    readonly normal: () => number;
    readonly fresh: DrawFresh;
    readonly spare: Fresh;
    readonly isTrain: boolean;
    readonly watched: Watched;
  },
  refill: Fresh | undefined,
  evening: Float64Array,
): DaySums {
  let [outBefore, outBy, short, morning] = [0, 0, 0, 0];
  const { normal, fresh, spare, isTrain } = draws;
  const { left, behind, feed, pace, spares, out } = futures;
  // What stands behind a lead is not the lead's.
  const counted = draws.watched === "lead" ? 0 : 1;
  for (let i = 0; i < PATHS; i += 1) {
    if (refill) hangIn(futures, i, fresh(refill, feed[i]!), isTrain);
    const use = pace[i]! * Math.max(0, mean + DAY_SD * mean * normal());
    outBefore += out[i]!;
    morning += left[i]! + counted * behind[i]!;
    const past = Math.max(0, use - left[i]!);
    left[i] = Math.max(0, left[i]! - use);
    const missing = Math.max(0, past - counted * behind[i]!);
    behind[i] = Math.max(0, behind[i]! - past);
    if (missing > 0 && spares[i]! > 0) {
      spares[i]! -= 1;
      left[i] = Math.max(0, fresh(spare, feed[i]!) - missing);
      out[i] = 0;
    } else if (missing > 0) {
      out[i] = 1;
      short += missing;
    }
    outBy += out[i]!;
    evening[i] = left[i]! + counted * behind[i]!;
  }
  return { outBefore, outBy, short, morning };
}

/**
 * A vessel day by day: what is left in the evening, and the odds that it runs out before work that is booked. Futures are
 * drawn from the same belief as its dates (Metropolis and Ulam 1949, the Monte Carlo method); a refill draws a fresh charge
 * as this owner's charges scatter.
 */
export function forecast(input: ForecastInput, watched: Watched = "train"): Forecast {
  const { worked, lead, today, days = DAYS_AHEAD, work, filling, refills = [], whatIf = {} } = input;
  const { standing: where, mark, question, firstDay } = worked;
  const { uniform, normal } = chance(SEED);
  const sd = paceSd(where);
  const spare = freshCharge(input, filling);
  const fresh: DrawFresh = (of, feed) => (loadAtMark(of.belief, of.mark, chargeAt(of.belief, uniform())) * 100) / feed;
  const freshLitres = new Float64Array(PATHS);
  const futures = noFutures();
  for (let i = 0; i < PATHS; i += 1) {
    const place = (i + uniform()) / PATHS;
    const { feed, left } = mark
      ? drawLeft(worked, mark, place, normal)
      : { feed: question.feed.median * Math.exp(question.feed.sd * normal()), left: 0 };
    freshLitres[i] = fresh(spare, feed);
    futures.left[i] = left;
    // Of a lead until it is spent.
    futures.behind[i] = lead ? leadLeft(lead, place, feed) : Infinity;
    futures.feed[i] = feed;
    futures.pace[i] = Math.exp(sd * normal());
    futures.spares[i] = whatIf.spare ? 1 : 0;
  }
  noLaterThanTrend(futures.left, worked);
  for (let i = 0; i < PATHS; i += 1) {
    const left = futures.left[i]!;
    const first = Math.min(left, futures.behind[i]!);
    futures.left[i] = first;
    futures.behind[i] = left - first;
    futures.out[i] = (watched === "lead" ? first : left) <= 0 ? 1 : 0;
  }
  const isTrain = lead !== undefined;
  const ofFresh = three(freshLitres);
  // A whole train holds as many charges as it has vessels: two stand for all behind the lead.
  const whole = (isTrain && watched === "train" ? 2 : 1) * ofFresh.typical;
  const asShare = (litres: number) => Math.min(1, litres / whole);
  const known = new Map(work.map((day) => [day.on, day]));
  const byDay = new Map(refills.map((refill) => [refill.on, freshCharge(input, refill.filling)]));
  const evening = new Float64Array(PATHS);
  const ahead = Array.from({ length: days }, (_, d): DayAhead => {
    const on = addDays(today, d);
    const booked = known.get(on);
    // What was logged today is gone already.
    const isOver = daysBetween(firstDay, on) < 0;
    const litres = (whatIf.waterShare ?? 1) * (isOver ? 0 : (booked?.litres ?? where.use.weekdays[weekdayOf(on)]!));
    const refill = byDay.get(on);
    const sums = liveDay(futures, litres, { normal, fresh, spare, isTrain, watched }, refill, evening);
    const left = three(evening);
    return {
      on,
      litres,
      left,
      share: { low: asShare(left.low), typical: asShare(left.typical), high: asShare(left.high) },
      outBefore: sums.outBefore / PATHS,
      outBy: sums.outBy / PATHS,
      outFutures: sums.outBy,
      short: sums.short / PATHS,
      morning: sums.morning / PATHS,
      refilled: refill !== undefined,
    };
  });
  return { days: ahead, fresh: ofFresh };
}

/** L until a lead is spent in one future, by the same feed as its train. */
function leadLeft({ worked: { belief, mark, question } }: Lead, place: number, feed: number): number {
  if (!mark) return 0;
  const load = loadAtMark(belief, mark, chargeAt(belief, elsewhere(place, 0)));
  return Math.max(0, ((load - question.used) * 100) / feed - question.sinceLog.median);
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
