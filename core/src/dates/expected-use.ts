import { addDays, daysBetween, weekdayOf } from "./calendar";

/** Water of one day, as it was logged. */
export interface DrawnWater {
  /** ISO date. */
  readonly date: string;
  readonly litres: number;
}

/** What is known of a rig's work besides its log. */
export interface StatedWork {
  /** L of one job. */
  readonly litresPerJob: number;
  readonly jobsPerWeek?: number;
}

/** Water to expect by weekday. */
export interface ExpectedUse {
  /** Mean litres of each weekday, Monday first. */
  readonly weekdays: readonly number[];
  /** Mean litres of a day on which water was logged; absent before the first. */
  readonly dayWithWater?: number;
  /** Weeks from the first to the last day with water. */
  readonly weeksLogged: number;
}

/** Chance that a weekday is worked before it is known, Monday first: planning assumptions. */
export const WORKED = [1, 1, 1, 1, 1, 0.3, 0.1] as const;
const WORKED_A_WEEK = WORKED.reduce((sum, each) => sum + each, 0);
/** Days of work that what is believed beforehand counts like. */
const PRIOR_DAYS = 2;
/** Older work is of another season. */
const RECENT_DAYS = 7 * 12;

/**
 * Litres to expect by weekday, from all days between the first and the last with water (silence after the last is not rest),
 * each weekday drawn towards the usual work-day while it is little known.
 *
 * @param days litres of worked days, by ISO date; a date may come twice
 * @example expectedUse([{ date: "2027-03-01", litres: 100 }], { litresPerJob: 40 }).weekdays[1] // 100: not a day of rest
 */
export function expectedUse(days: readonly DrawnWater[], { litresPerJob, jobsPerWeek }: StatedWork): ExpectedUse {
  const byDate = new Map<string, number>();
  for (const { date, litres } of days) if (litres > 0) byDate.set(date, (byDate.get(date) ?? 0) + litres);
  const dates = [...byDate.keys()].sort();
  const stated = jobsPerWeek === undefined ? undefined : jobsPerWeek * litresPerJob;
  if (dates.length === 0) {
    const workday = stated === undefined ? litresPerJob : stated / WORKED_A_WEEK;
    return { weekdays: WORKED.map((p) => p * workday), weeksLogged: 0 };
  }
  const last = dates[dates.length - 1]!;
  const oldest = addDays(last, 1 - RECENT_DAYS);
  const from = dates[0]! < oldest ? oldest : dates[0]!;
  const litres = Array<number>(7).fill(0);
  const counts = Array<number>(7).fill(0);
  let workdays = stated === undefined ? 0 : WORKED_A_WEEK;
  for (let date = from; date <= last; date = addDays(date, 1)) {
    const weekday = weekdayOf(date);
    const drawn = byDate.get(date) ?? 0;
    litres[weekday]! += drawn;
    counts[weekday]! += 1;
    workdays += drawn > 0 ? 1 : WORKED[weekday]!;
  }
  const sum = litres.reduce((total, each) => total + each, 0);
  const workday = (sum + (stated ?? 0)) / workdays;
  const all = [...byDate.values()];
  return {
    weekdays: WORKED.map((p, i) => (litres[i]! + PRIOR_DAYS * p * workday) / (counts[i]! + PRIOR_DAYS)),
    dayWithWater: all.reduce((total, each) => total + each, 0) / all.length,
    weeksLogged: (daysBetween(dates[0]!, last) + 1) / 7,
  };
}

/** A day whose work is known beforehand; 0 litres is a day off. */
export interface KnownWork {
  /** ISO date. */
  readonly on: string;
  readonly litres: number;
}

/** Litres to expect on a day: what is booked, else what the weekday usually takes. */
export function expectedOn(date: string, { weekdays }: ExpectedUse, bookings: ReadonlyMap<string, number>): number {
  return bookings.get(date) ?? weekdays[weekdayOf(date)]!;
}

/** Litres that have probably gone through since the last log. */
export interface SinceLog {
  /** Days since the last log, or since the filling where that is later. */
  readonly days: number;
  readonly litres: number;
  /** Standard deviation of the litres. */
  readonly sd: number;
}

/** Planning assumptions: share by which a usual week errs, and a day. */
export const PACE_SD = 0.3;
export const DAY_SD = 0.5;

/**
 * What may have gone since the last log: the expected use of the days strictly between it and today.
 *
 * @param since ISO date of the last visit with water, or of the filling where that is later
 * @example sinceLastLog("2027-03-11", "2027-03-19", use, new Map()).litres // 566 at 110 L a workday
 */
export function sinceLastLog(
  since: string,
  today: string,
  use: ExpectedUse,
  bookings: ReadonlyMap<string, number>,
): SinceLog {
  const days = Math.max(0, daysBetween(since, today));
  let [litres, squares] = [0, 0];
  for (let i = 1; i < days; i += 1) {
    const expected = expectedOn(addDays(since, i), use, bookings);
    litres += expected;
    squares += expected * expected;
  }
  return { days, litres, sd: Math.hypot(PACE_SD * litres, DAY_SD * Math.sqrt(squares)) };
}
