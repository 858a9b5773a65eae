import { leastSquares3 } from "../numerics/least-squares";
import { NORMAL_90 } from "../numerics/quantile";
import { fail, finite, type Result } from "../result";
import { SETTLED_WITHIN, TAP_PRIOR } from "./tap-beliefs";

/** A feed reading, whoever took it. */
export interface TapReading {
  /** Milliseconds since 1970. */
  readonly at: number;
  readonly ec25: number;
}

export interface SeasonMonth {
  /** 1 to 12. */
  readonly month: number;
  readonly low: number;
  readonly typical: number;
  readonly high: number;
}

/** How a tap changes over the year. */
export interface Season {
  /** Half the way from the lowest to the highest time of the year, as a share of the typical. */
  readonly swing: number;
  /** Day of the year with the highest feed, 1 to 365. */
  readonly peakDay: number;
  readonly months: readonly SeasonMonth[];
}

export interface TapRange {
  /** Days with a reading: several in one day count once. */
  readonly days: number;
  readonly readings: number;
  /** µS/cm; 10 % of days lie below. */
  readonly low: number;
  readonly typical: number;
  /** µS/cm; 10 % of days lie above. */
  readonly high: number;
  /** Spread of the days about the typical over the year, as a share (standard deviation of the logarithm). */
  readonly spread: number;
  /** What of it is left once the season is taken out. */
  readonly scatter: number;
  /** Further days that would settle the typical to 5 % either way, at 90 %. */
  readonly moreDays: number;
  /** Change a month, as a share of the typical, beyond the season; absent with fewer than five days or under two weeks. */
  readonly drift?: { readonly perMonth: number; readonly clear: boolean };
  /** Absent until readings span most of a year. */
  readonly season?: Season;
}

const NORMAL_95 = 1.6448536269514722;
const DAY = 86_400_000;
const YEAR_IN_DAYS = 365.25;
const SEASON_NEEDS = { days: 12, span: 300 } as const;
const DRIFT_NEEDS = { days: 5, span: 14 } as const;
/** Days that a drift is looked for in, the latest: every pair of them is compared. */
const DRIFT_DAYS = 120;
/** Two-sided 95 % point of the normal distribution. */
const CLEAR = 1.96;
const MONTH_IN_DAYS = YEAR_IN_DAYS / 12;

/** One day's readings as one: day number and mean logarithm. */
interface DayMean {
  readonly day: number;
  readonly log: number;
}

function byDay(readings: readonly TapReading[]): DayMean[] {
  const days = new Map<number, number[]>();
  for (const { at, ec25 } of readings) {
    const day = Math.floor(at / DAY);
    days.set(day, [...(days.get(day) ?? []), Math.log(ec25)]);
  }
  return [...days]
    .map(([day, logs]) => ({ day, log: logs.reduce((sum, log) => sum + log, 0) / logs.length }))
    .sort((a, b) => a.day - b.day);
}

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

/** Spread of residuals, drawn towards what is believed beforehand (scaled inverse chi-squared prior, Gelman et al. 2013). */
function spreadOf(residuals: readonly number[]): number {
  const squares = residuals.reduce((sum, residual) => sum + residual ** 2, 0);
  const freedom = TAP_PRIOR.days + residuals.length - 1;
  return Math.sqrt((TAP_PRIOR.days * TAP_PRIOR.spread ** 2 + squares) / freedom);
}

/** Sen's slope per day with the Mann-Kendall test (Mann 1945; Sen 1968): one odd reading moves it little. */
function driftOf(all: readonly DayMean[]): TapRange["drift"] {
  const days = all.slice(-DRIFT_DAYS);
  const span = days.length < 2 ? 0 : days[days.length - 1]!.day - days[0]!.day;
  if (days.length < DRIFT_NEEDS.days || span < DRIFT_NEEDS.span) return undefined;
  const slopes: number[] = [];
  let rises = 0;
  for (let i = 0; i < days.length; i += 1) {
    for (let j = i + 1; j < days.length; j += 1) {
      const rise = days[j]!.log - days[i]!.log;
      slopes.push(rise / (days[j]!.day - days[i]!.day));
      rises += Math.sign(rise);
    }
  }
  slopes.sort((a, b) => a - b);
  const n = days.length;
  const deviation = Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18);
  const score = Math.max(0, Math.abs(rises) - 1) / deviation;
  const median = slopes[Math.floor(slopes.length / 2)]!;
  return { perMonth: Math.expm1(median * MONTH_IN_DAYS), clear: score > CLEAR };
}

interface Harmonic {
  readonly level: number;
  readonly cosine: number;
  readonly sine: number;
}

const angleOf = (day: number) => (2 * Math.PI * (day % YEAR_IN_DAYS)) / YEAR_IN_DAYS;
const harmonicAt = ({ level, cosine, sine }: Harmonic, day: number) =>
  level + cosine * Math.cos(angleOf(day)) + sine * Math.sin(angleOf(day));

/** Least squares of a yearly wave through the days' logarithms. */
function fitHarmonic(days: readonly DayMean[]): Harmonic | undefined {
  const span = days.length < 2 ? 0 : days[days.length - 1]!.day - days[0]!.day;
  if (days.length < SEASON_NEEDS.days || span < SEASON_NEEDS.span) return undefined;
  const solution = leastSquares3(
    days.map(({ day }) => [1, Math.cos(angleOf(day)), Math.sin(angleOf(day))] as const),
    days.map(({ log }) => log),
  );
  if (!solution) return undefined;
  const [level, cosine, sine] = solution;
  return { level, cosine, sine };
}

/** Day numbers count from 1 January 1970; the drawn year starts on 1 January. */
const firstOfMonth = (month: number) => Date.UTC(2025, month - 1, 15) / DAY;

function seasonOf(wave: Harmonic, spread: number, days: number): Season | undefined {
  const height = Math.hypot(wave.cosine, wave.sine);
  if (height < CLEAR * spread * Math.sqrt(2 / days)) return undefined;
  const reach = NORMAL_90 * spread;
  const months = Array.from({ length: 12 }, (_, i) => {
    const typical = harmonicAt(wave, firstOfMonth(i + 1));
    return {
      month: i + 1,
      low: Math.exp(typical - reach),
      typical: Math.exp(typical),
      high: Math.exp(typical + reach),
    };
  });
  const newYear = angleOf(Date.UTC(2025, 0, 1) / DAY);
  const peak = Math.atan2(wave.sine, wave.cosine) - newYear;
  const peakShare = (peak / (2 * Math.PI) + 2) % 1;
  return { swing: Math.sinh(height), peakDay: 1 + Math.floor(peakShare * 365), months };
}

/**
 * What a tap's readings say: low, typical, high, drift, season, and how many more days would settle it. The range is the
 * middle 80 % of days to come, on the logarithm, its spread drawn towards a tenth while days are few; once there is a season
 * it is that of the whole year, whenever the readings were taken.
 *
 * @returns µS/cm at 25 °C; the fault `no-readings` without any
 * @example tapRange([{ at: Date.parse("2027-03-01"), ec25: 424 }]) // typical 424, 354 to 508, 9 more days
 */
export function tapRange(readings: readonly TapReading[]): Result<TapRange> {
  const usable = readings.filter(({ ec25 }) => ec25 > 0);
  if (usable.length === 0) return fail("no-readings", "There is no reading of this tap yet.");
  const days = byDay(usable);
  const average = mean(days.map(({ log }) => log));
  const wave = fitHarmonic(days);
  const rest = wave ? days.map(({ day, log }) => ({ day, log: log - harmonicAt(wave, day) })) : days;
  const season = wave && seasonOf(wave, spreadOf(rest.map(({ log }) => log)), days.length);
  const level = season ? wave.level : average;
  const scatter = spreadOf(season ? rest.map(({ log }) => log) : days.map(({ log }) => log - average));
  const spread = season ? Math.hypot(scatter, Math.hypot(wave.cosine, wave.sine) * Math.SQRT1_2) : scatter;
  const reach = NORMAL_90 * spread * Math.sqrt(1 + 1 / days.length);
  const drift = driftOf(season ? rest : days);
  const wanted = Math.ceil(((NORMAL_95 * scatter) / Math.log1p(SETTLED_WITHIN)) ** 2);
  return finite({
    days: days.length,
    readings: usable.length,
    low: Math.exp(level - reach),
    typical: Math.exp(level),
    high: Math.exp(level + reach),
    spread,
    scatter,
    moreDays: Math.max(0, wanted - days.length),
    ...(drift ? { drift } : {}),
    ...(season ? { season } : {}),
  });
}
