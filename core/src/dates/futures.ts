import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import type { RandomGenerator } from "pure-rand/types/RandomGenerator";
import { logNormalCdf } from "../numerics/normal";
import { nearestRank } from "../numerics/quantile";
import { fail, succeed, type Result } from "../result";
import { addDays } from "./calendar";

export interface DailyUse {
  /** L. */
  readonly mean: number;
  readonly sd: number;
}

export const DEFAULT_PATHS = 4000;
/** A future ends here: five years on, nobody can say. */
export const LONGEST_DAYS = 1826;
/** From here on a future goes week by week, so that its cost is bounded. */
const BY_DAYS_UNTIL = 98;

export interface Chance {
  /** Even, above 0 and below 1. */
  readonly uniform: () => number;
  /** Standard normal. */
  readonly normal: () => number;
}

/** Chance that comes the same again for the same seed. */
export function chance(seed: number): Chance {
  const random = xoroshiro128plus(seed);
  return { uniform: () => uniform(random), normal: normalSource(random) };
}

const uniform = (random: RandomGenerator) => ((random.next() >>> 0) + 0.5) / 4294967296;

/** Standard normal deviates, two at a time (Box and Muller 1958). */
function normalSource(random: RandomGenerator): () => number {
  // In an array: a number that a closure changes is made anew each time.
  const spare = Float64Array.of(NaN);
  return () => {
    const kept = spare[0]!;
    if (!Number.isNaN(kept)) {
      spare[0] = NaN;
      return kept;
    }
    const radius = Math.sqrt(-2 * Math.log(uniform(random)));
    const angle = 2 * Math.PI * uniform(random);
    spare[0] = radius * Math.sin(angle);
    return radius * Math.cos(angle);
  };
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

/** Work to come: the first days one by one, then whole weeks, so that a future's cost is bounded. */
export class WorkToCome {
  private readonly first: readonly DailyUse[];
  private readonly week: DailyUse;
  /** Share of a week that is used up by the end of each of its days. */
  private readonly usedBy: readonly number[];

  /**
   * @param weekdays use by weekday, Monday first
   * @param firstWeekday 0 for Monday: the first day to come
   * @param known use of the days to come that is known better, by their number from 0
   */
  constructor(weekdays: readonly DailyUse[], firstWeekday: number, known: ReadonlyMap<number, DailyUse> = new Map()) {
    const usual = (day: number) => weekdays[(firstWeekday + day) % 7]!;
    this.first = Array.from({ length: BY_DAYS_UNTIL }, (_, day) => known.get(day) ?? usual(day));
    const days = weekdays.map((_, day) => cutNormal(usual(day)));
    const mean = days.reduce((sum, day) => sum + day.mean, 0);
    this.week = { mean, sd: Math.sqrt(days.reduce((sum, day) => sum + day.variance, 0)) };
    let sum = 0;
    this.usedBy = days.map((day) => (sum += day.mean) / mean);
  }

  /** Whether any water is used on any day. */
  get isAny(): boolean {
    return this.week.mean > 0 || this.first.some((day) => day.mean > 0);
  }

  /**
   * The day on which so many litres are gone, at most `LONGEST_DAYS`.
   * @param pace how much more than usual this future works
   */
  dayOfEnd(litres: number, pace: number, normal: () => number): number {
    const drawn = ({ mean, sd }: DailyUse) => (sd === 0 ? pace * mean : pace * Math.max(0, mean + sd * normal()));
    let left = litres;
    for (let day = 0; day < BY_DAYS_UNTIL; day += 1) {
      left -= drawn(this.first[day]!);
      if (left <= 0) return day;
    }
    if (this.week.mean <= 0) return LONGEST_DAYS;
    for (let day = BY_DAYS_UNTIL; day < LONGEST_DAYS; day += 7) {
      const used = drawn(this.week);
      if (used >= left) {
        const within = this.usedBy.findIndex((share) => share * used >= left);
        return Math.min(LONGEST_DAYS, day + (within < 0 ? 6 : within));
      }
      left -= used;
    }
    return LONGEST_DAYS;
  }
}

/** ISO dates of the 10, 50 and 90 % points. */
export interface DepletionAnswer {
  readonly early: string;
  readonly likely: string;
  readonly late: string;
}

/** The dates of simulated futures' days, ascending; a fault where the likely one lies beyond five years. */
export function datesOf(days: Int32Array, start: string): Result<DepletionAnswer> {
  if (nearestRank(days, 0.5) >= LONGEST_DAYS)
    return fail("too-long", "At this use the charge lasts more than five years: too far away for a date.", "daily");
  const dateAt = (share: number) => addDays(start, nearestRank(days, share));
  return succeed({ early: dateAt(0.1), likely: dateAt(0.5), late: dateAt(0.9) });
}

export const NO_USE = fail("no-use", "No water is used on any day, so there is no date.", "daily");
