import { addDays, daysBetween, weekdayOf } from "./calendar";
import type { DailyUse } from "./depletion";

/** Weeks of history that count as recent. */
export const RECENT_WEEKS = 8;

/**
 * Mean and spread of litres by weekday over the last eight weeks, or since the first day if that is later. Idle days count as 0.
 *
 * @param days litres of each worked day, by ISO date; a date may come twice
 * @param today ISO date; today is left out, since it isn't over
 */
export function recentDailyUse(
  days: readonly { readonly date: string; readonly litres: number }[],
  today: string,
): readonly DailyUse[] {
  const totals = new Map<string, number>();
  for (const { date, litres } of days) totals.set(date, (totals.get(date) ?? 0) + litres);
  const first = [...totals.keys()].sort()[0];
  const oldest = addDays(today, -7 * RECENT_WEEKS);
  const from = first === undefined || first < oldest ? oldest : first;
  const byWeekday: number[][] = Array.from({ length: 7 }, () => []);
  const span = daysBetween(from, today);
  for (let i = 0; i < span; i += 1) {
    const date = addDays(from, i);
    byWeekday[weekdayOf(date)]!.push(totals.get(date) ?? 0);
  }
  if (span <= 0 && totals.has(today)) byWeekday[weekdayOf(today)]!.push(totals.get(today)!);
  return byWeekday.map(meanAndSpread);
}

function meanAndSpread(litres: readonly number[]): DailyUse {
  if (litres.length === 0) return { mean: 0, sd: 0 };
  const mean = litres.reduce((sum, each) => sum + each, 0) / litres.length;
  const squares = litres.reduce((sum, each) => sum + (each - mean) ** 2, 0);
  return { mean, sd: litres.length > 1 ? Math.sqrt(squares / (litres.length - 1)) : 0 };
}
