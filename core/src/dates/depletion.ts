import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import type { RandomGenerator } from "pure-rand/types/RandomGenerator";
import { logNormalCdf } from "../numerics/normal";
import { nearestRank, RANGE_10_90_IN_SD } from "../numerics/quantile";
import type { CapacityRange } from "../ledger/own-capacity";
import type { ThreeOf } from "../life/life-range";
import { checkRanges, RANGES } from "../ranges";
import { fail, succeed, within, type Result } from "../result";
import { addDays, isIsoDate, weekdayOf } from "./calendar";

export interface DailyUse {
  /** L. */
  readonly mean: number;
  readonly sd: number;
}

export interface DepletionInput {
  /** meq. */
  readonly capacityLeft: CapacityRange;
  /** Litres used on each weekday, Monday first. */
  readonly daily: readonly DailyUse[];
  /** meq/L. */
  readonly load: ThreeOf<number>;
  /** ISO date; that day's work counts. */
  readonly start: string;
  /** Simulated futures (default 4,000; 100 to 100,000). */
  readonly paths?: number;
  readonly seed?: number;
}

/** ISO dates of the 10, 50 and 90 % points. */
export interface DepletionAnswer {
  readonly early: string;
  readonly likely: string;
  readonly late: string;
}

export const DEFAULT_PATHS = 4000;
/** A future ends here: five years on, nobody can say. */
export const LONGEST_DAYS = 1826;
/** From here on a future goes week by week, so that its cost is bounded. */
const BY_DAYS_UNTIL = 98;

const uniform = (random: RandomGenerator) => ((random.next() >>> 0) + 0.5) / 4294967296;

/** Standard normal deviates, two at a time (Box and Muller 1958). */
function normalSource(random: RandomGenerator): () => number {
  let spare = NaN;
  return () => {
    if (!Number.isNaN(spare)) {
      const kept = spare;
      spare = NaN;
      return kept;
    }
    const radius = Math.sqrt(-2 * Math.log(uniform(random)));
    const angle = 2 * Math.PI * uniform(random);
    spare = radius * Math.sin(angle);
    return radius * Math.cos(angle);
  };
}

function triangular(u: number, { low, typical, high }: ThreeOf<number>): number {
  if (high === low) return low;
  const turn = (typical - low) / (high - low);
  return u < turn
    ? low + Math.sqrt(u * (high - low) * (typical - low))
    : high - Math.sqrt((1 - u) * (high - low) * (high - typical));
}

function checkInput(input: DepletionInput): Result<true> {
  const capacity = within(
    "capacityLeft",
    checkRanges(input.capacityLeft, { low: RANGES.meq, median: RANGES.meq, high: RANGES.meq }),
  );
  if (!capacity.ok) return capacity;
  const load = within("load", checkRanges(input.load, { low: RANGES.load, typical: RANGES.load, high: RANGES.load }));
  if (!load.ok) return load;
  if (input.daily.length !== 7) return fail("not-a-week", "Give the use of seven days, Monday first.", "daily");
  for (const [i, day] of input.daily.entries()) {
    const checked = within(`daily.${i}`, checkRanges(day, { mean: RANGES.dailyLitres, sd: RANGES.dailyLitres }));
    if (!checked.ok) return checked;
  }
  if (!isIsoDate(input.start)) return fail("not-a-date", "The start must be a real date such as 2027-03-01.", "start");
  const { low, median, high } = input.capacityLeft;
  if (low > median || median > high)
    return fail("range-not-ordered", "The capacity's low, median and high must rise in that order.", "capacityLeft");
  const { load: feed } = input;
  if (feed.low > feed.typical || feed.typical > feed.high)
    return fail("range-not-ordered", "The load's low, typical and high must rise in that order.", "load");
  return succeed(true);
}

/** Mean and variance of a normal that is cut at 0: what one day really takes. */
function cutNormal({ mean, sd }: DailyUse): { readonly mean: number; readonly variance: number } {
  if (sd === 0) return { mean, variance: 0 };
  const z = mean / sd;
  const above = Math.exp(logNormalCdf(z));
  const density = Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI);
  const cut = mean * above + sd * density;
  const square = (mean * mean + sd * sd) * above + mean * sd * density;
  return { mean: cut, variance: Math.max(0, square - cut * cut) };
}

/** A whole week's use, and the share of it that is used up by the end of each day. */
interface WeekUse {
  readonly mean: number;
  readonly sd: number;
  readonly usedBy: readonly number[];
}

function weekUse(daily: readonly DailyUse[], firstWeekday: number): WeekUse {
  const days = daily.map((_, day) => cutNormal(daily[(firstWeekday + day) % 7]!));
  const mean = days.reduce((sum, day) => sum + day.mean, 0);
  const sd = Math.sqrt(days.reduce((sum, day) => sum + day.variance, 0));
  let sum = 0;
  return { mean, sd, usedBy: days.map((day) => (sum += day.mean) / mean) };
}

/** The day on which a charge of so many litres gives out, at most `LONGEST_DAYS`: day by day at first, then week by week. */
function dayOfEnd(
  litres: number,
  daily: readonly DailyUse[],
  weekday: number,
  week: WeekUse,
  normal: () => number,
): number {
  let left = litres;
  for (let day = 0; day < BY_DAYS_UNTIL; day += 1) {
    const use = daily[(weekday + day) % 7]!;
    left -= use.sd === 0 ? use.mean : Math.max(0, use.mean + use.sd * normal());
    if (left <= 0) return day;
  }
  for (let day = BY_DAYS_UNTIL; day < LONGEST_DAYS; day += 7) {
    const used = week.sd === 0 ? week.mean : Math.max(0, week.mean + week.sd * normal());
    if (used >= left) {
      const within = week.usedBy.findIndex((share) => share * used >= left);
      return Math.min(LONGEST_DAYS, day + (within < 0 ? 6 : within));
    }
    left -= used;
  }
  return LONGEST_DAYS;
}

/**
 * Days from the start on which the limit falls, one a simulated future, ascending; by Monte Carlo with a seed. A future ends
 * at `LONGEST_DAYS`, whatever comes in.
 */
export function depletionDays(input: DepletionInput): Result<Int32Array> {
  const checked = checkInput(input);
  if (!checked.ok) return checked;
  const { capacityLeft, daily, load, start, paths = DEFAULT_PATHS, seed = 1 } = input;
  const weekday = weekdayOf(start);
  const week = weekUse(daily, weekday);
  if (week.mean <= 0) return fail("no-use", "No water is used on any day, so there is no date.", "daily");
  const random = xoroshiro128plus(seed);
  const normal = normalSource(random);
  const sd = Math.log(capacityLeft.high / capacityLeft.low) / RANGE_10_90_IN_SD;
  const days = new Int32Array(paths);
  for (let path = 0; path < paths; path += 1) {
    const capacity = capacityLeft.median * Math.exp(sd * normal());
    days[path] = dayOfEnd(capacity / triangular(uniform(random), load), daily, weekday, week, normal);
  }
  return succeed(days.sort());
}

/**
 * Day the limit falls, as an early, a likely and a late date (10, 50, 90 %, nearest rank): capacity lognormal, feed
 * triangular and drawn once a future, daily use normal cut at 0 (Metropolis and Ulam 1949, the Monte Carlo method). A late
 * date at five years means "then or later".
 *
 * @returns a fault where no water is used, or the likely day lies beyond five years
 * @example depletion({ capacityLeft: { median: 17500, low: 16100, high: 19000 }, daily, load, start: "2027-03-01", seed: 7 })
 */
export function depletion(input: DepletionInput): Result<DepletionAnswer> {
  const days = depletionDays(input);
  if (!days.ok) return days;
  if (nearestRank(days.value, 0.5) >= LONGEST_DAYS)
    return fail("too-long", "At this use the charge lasts more than five years: too far away for a date.", "daily");
  const dateAt = (share: number) => addDays(input.start, nearestRank(days.value, share));
  return succeed({ early: dateAt(0.1), likely: dateAt(0.5), late: dateAt(0.9) });
}

/**
 * Latest day to order resin: the early date less the days a delivery takes.
 * @example orderBy("2027-04-12", 5) // "2027-04-07"
 */
export const orderBy = (early: string, deliveryDays: number) => addDays(early, -deliveryDays);

/** Chance of running out before a day: share of futures whose limit falls earlier. */
export function chanceOfRunningOutBefore(days: Int32Array, daysFromStart: number): number {
  let earlier = 0;
  for (const day of days) if (day < daysFromStart) earlier += 1;
  return earlier / days.length;
}
