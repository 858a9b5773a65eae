import type { ThreeOf } from "../life/life-range";
import { WATER_UNCERTAINTY } from "../ledger/water-used";
import { NORMAL_90 } from "../numerics/quantile";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, within, type Result } from "../result";
import type { DemandItem } from "./asked";

export type { DemandItem };

export interface DemandInput {
  readonly items: readonly DemandItem[];
  /** Twelve factors on the usual week, January first (default all 1). */
  readonly season?: readonly number[];
}

export interface Demand {
  /** L in a usual week; the ends are 10 and 90 %. */
  readonly week: ThreeOf<number>;
  /** L in a year. */
  readonly year: ThreeOf<number>;
  /** L a week in the month with the most and in that with the least work, above 0. */
  readonly busiest: number;
  readonly quietest: number;
  /** Jobs in a year, of the items that count jobs; 0 without any. */
  readonly jobsPerYear: number;
}

export const WEEKS_A_YEAR = 52;

const perWeek: Readonly<{ [kind in DemandItem["by"]]: (item: Extract<DemandItem, { by: kind }>) => number }> = {
  jobs: (item) => item.perWeek * item.litresEach,
  rinse: (item) => item.perWeek * item.minutes * item.flow,
  tank: (item) => item.volume * item.changeShare * item.changesPerWeek + 7 * item.evaporation,
  total: (item) => item.litresPerWeek,
};

/**
 * Litres a week of one kind of work. @example weeklyLitres({ by: "jobs", perWeek: 20, litresEach: 60, quality: "guessed" }) // 1200
 */
export const weeklyLitres = (item: DemandItem): number => perWeek[item.by](item as never);

const count = { name: "The number a week", unit: "", from: 0, to: 10_000 };
const ITEM_RANGES = {
  perWeek: count,
  litresEach: { ...RANGES.litres, name: "The water of a job" },
  minutes: { name: "The minutes", unit: "min", from: 0, to: 10_000 },
  flow: RANGES.flow,
  volume: { ...RANGES.litres, name: "The tank" },
  changeShare: RANGES.share,
  changesPerWeek: count,
  evaporation: { ...RANGES.litres, name: "The evaporation" },
  litresPerWeek: { ...RANGES.litres, name: "The water of a week" },
};

const MONTHS = 12;

function checkDemand({ items, season }: DemandInput): Result<true> {
  for (const [i, item] of items.entries()) {
    const checked = within(`items.${i}`, checkRanges(item as object, ITEM_RANGES as object));
    if (!checked.ok) return checked;
  }
  if (season === undefined) return { ok: true, value: true };
  const good =
    season.length === MONTHS && season.every((factor) => Number.isFinite(factor) && factor >= 0 && factor <= 20);
  if (good && season.some((factor) => factor > 0)) return { ok: true, value: true };
  return fail("season", "A season is twelve factors from 0 to 20, January first, and not all of them 0.", "season");
}

/**
 * Water that the work takes, with the spread that metered, timed and guessed figures bring: each kind errs as one, the
 * kinds apart from each other.
 *
 * @returns a fault for a figure outside its range, or no work at all
 * @example demand({ items: [{ by: "jobs", perWeek: 20, litresEach: 60, quality: "timed" }] }) // 1,200 L a week, 969 to 1,431
 */
export function demand(input: DemandInput): Result<Demand> {
  const checked = checkDemand(input);
  if (!checked.ok) return checked;
  const { items, season = Array<number>(MONTHS).fill(1) } = input;
  const byQuality = { metered: 0, timed: 0, guessed: 0 };
  for (const item of items) byQuality[item.quality] += weeklyLitres(item);
  const usual = byQuality.metered + byQuality.timed + byQuality.guessed;
  if (!(usual > 0)) return fail("no-demand", "Enter some work that takes water.", "items");
  const sd = Math.hypot(
    ...(["metered", "timed", "guessed"] as const).map((quality) => WATER_UNCERTAINTY[quality] * byQuality[quality]),
  );
  const reach = NORMAL_90 * sd;
  const week = { low: usual - reach, typical: usual, high: usual + reach };
  const mean = season.reduce((sum, factor) => sum + factor, 0) / MONTHS;
  const inYear = (litres: number) => litres * mean * WEEKS_A_YEAR;
  const jobs = items.reduce((sum, item) => sum + (item.by === "jobs" || item.by === "rinse" ? item.perWeek : 0), 0);
  return finite({
    week,
    year: { low: inYear(week.low), typical: inYear(week.typical), high: inYear(week.high) },
    busiest: usual * Math.max(...season),
    quietest: usual * Math.min(...season.filter((factor) => factor > 0)),
    jobsPerYear: jobs * mean * WEEKS_A_YEAR,
  });
}
