import { RANGE_10_90_IN_SD } from "../numerics/quantile";
import type { CapacityRange } from "../ledger/own-capacity";
import type { ThreeOf } from "../life/life-range";
import { checkRanges, RANGES } from "../ranges";
import { fail, succeed, within, type Result } from "../result";
import { addDays, isIsoDate, weekdayOf } from "./calendar";
import { chance, datesOf, DEFAULT_PATHS, NO_USE, WorkToCome, type DailyUse, type DepletionAnswer } from "./futures";

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

function triangular(u: number, { low, typical, high }: ThreeOf<number>): number {
  if (high === low) return low;
  const turn = (typical - low) / (high - low);
  return u < turn
    ? low + Math.sqrt(u * (high - low) * (typical - low))
    : high - Math.sqrt((1 - u) * (high - low) * (high - typical));
}

/**
 * Days from the start on which the limit falls, one a simulated future, ascending; by Monte Carlo with a seed. A future ends
 * at `LONGEST_DAYS`, whatever comes in.
 */
export function depletionDays(input: DepletionInput): Result<Int32Array> {
  const checked = checkInput(input);
  if (!checked.ok) return checked;
  const { capacityLeft, daily, load, start, paths = DEFAULT_PATHS, seed = 1 } = input;
  const work = new WorkToCome(daily, weekdayOf(start));
  if (!work.isAny) return NO_USE;
  const { uniform, normal } = chance(seed);
  const sd = Math.log(capacityLeft.high / capacityLeft.low) / RANGE_10_90_IN_SD;
  const days = new Int32Array(paths);
  for (let path = 0; path < paths; path += 1) {
    const capacity = capacityLeft.median * Math.exp(sd * normal());
    days[path] = work.dayOfEnd(capacity / triangular(uniform(), load), 1, normal);
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
  return days.ok ? datesOf(days.value, input.start) : days;
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
