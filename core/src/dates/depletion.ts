import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import type { RandomGenerator } from "pure-rand/types/RandomGenerator";
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
/** Simulated days in one call; more would not be an answer worth waiting for. */
const MOST_SIMULATED_DAYS = 2e7;

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

/** Mean of a normal cut at 0, by its own rough bound: enough to tell how long a run gets. */
const meanUse = (daily: readonly DailyUse[]) => daily.reduce((sum, day) => sum + day.mean + 0.1 * day.sd, 0) / 7;

function simulateDay(left: number, daily: readonly DailyUse[], weekday: number, normal: () => number): number {
  let remaining = left;
  for (let day = 0; ; day += 1) {
    const use = daily[(weekday + day) % 7]!;
    const litres = use.sd === 0 ? use.mean : Math.max(0, use.mean + use.sd * normal());
    remaining -= litres;
    if (remaining <= 0) return day;
  }
}

/** Days from the start on which the limit falls, one a simulated future, ascending; by Monte Carlo with a seed. */
export function depletionDays(input: DepletionInput): Result<Int32Array> {
  const checked = checkInput(input);
  if (!checked.ok) return checked;
  const { capacityLeft, daily, load, start, paths = DEFAULT_PATHS, seed = 1 } = input;
  const perDay = meanUse(daily);
  if (perDay <= 0) return fail("no-use", "No water is used on any day, so there is no date.", "daily");
  if ((capacityLeft.high / load.low / perDay) * paths > MOST_SIMULATED_DAYS) {
    return fail("too-long", "At this use the charge would last for many years: too far away for a date.", "daily");
  }
  const random = xoroshiro128plus(seed);
  const normal = normalSource(random);
  const sd = Math.log(capacityLeft.high / capacityLeft.low) / RANGE_10_90_IN_SD;
  const weekday = weekdayOf(start);
  const days = new Int32Array(paths);
  for (let path = 0; path < paths; path += 1) {
    const capacity = capacityLeft.median * Math.exp(sd * normal());
    days[path] = simulateDay(capacity / triangular(uniform(random), load), daily, weekday, normal);
  }
  return succeed(days.sort());
}

/**
 * Day the limit falls, as an early, a likely and a late date (10, 50, 90 %, nearest rank): capacity lognormal, feed
 * triangular and drawn once a future, daily use normal cut at 0 (Metropolis and Ulam 1949, the Monte Carlo method).
 *
 * @example depletion({ capacityLeft: { median: 17500, low: 16100, high: 19000 }, daily, load, start: "2027-03-01", seed: 7 })
 */
export function depletion(input: DepletionInput): Result<DepletionAnswer> {
  const days = depletionDays(input);
  if (!days.ok) return days;
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
