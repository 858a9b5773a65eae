import { daysBetween } from "../dates/calendar";
import { WATER_UNCERTAINTY, type WaterQuality } from "../ledger/water-used";

/** Litres of one worked day, as they were logged. */
export interface LoggedDay {
  /** ISO date. */
  readonly date: string;
  readonly litres: number;
  readonly quality: WaterQuality;
}

export interface LoggedDemand {
  readonly litresPerWeek: number;
  /** Weeks of log that it rests on. */
  readonly weeks: number;
  /** The kind of figure that most of the litres rest on. */
  readonly quality: WaterQuality;
  /** Twelve factors on the usual week, January first, once the log spans a year. */
  readonly season?: readonly number[];
}

const YEAR = 360;
const DAYS_PER_MONTH = 365.25 / 12;
const QUALITIES = Object.keys(WATER_UNCERTAINTY) as WaterQuality[];

function seasonOf(days: readonly LoggedDay[], perDay: number): readonly number[] {
  const months = Array<number>(12).fill(0);
  const years = new Map<number, Set<string>>();
  for (const { date, litres } of days) {
    const month = Number(date.slice(5, 7)) - 1;
    months[month] = months[month]! + litres;
    years.set(month, (years.get(month) ?? new Set()).add(date.slice(0, 4)));
  }
  return months.map((litres, month) => litres / Math.max(1, years.get(month)?.size ?? 1) / DAYS_PER_MONTH / perDay);
}

/**
 * Demand out of the log: litres a week since the first day, today left out, and the months' shares once there is a year.
 *
 * @returns undefined with less than a week of log or no water in it
 * @example loggedDemand([{ date: "2027-03-01", litres: 420, quality: "metered" }], "2027-03-15") // 210 L a week, 2 weeks
 */
export function loggedDemand(days: readonly LoggedDay[], today: string): LoggedDemand | undefined {
  const past = days.filter(({ date }) => date < today);
  const first = past.map(({ date }) => date).sort()[0];
  const total = past.reduce((sum, { litres }) => sum + litres, 0);
  const span = first === undefined ? 0 : daysBetween(first, today);
  if (span < 7 || total <= 0) return undefined;
  const of = (quality: WaterQuality) =>
    past.filter((day) => day.quality === quality).reduce((sum, { litres }) => sum + litres, 0);
  return {
    litresPerWeek: (7 * total) / span,
    weeks: span / 7,
    quality: QUALITIES.reduce((most, each) => (of(each) > of(most) ? each : most)),
    ...(span >= YEAR ? { season: seasonOf(past, total / span) } : {}),
  };
}
