const MS_PER_DAY = 86_400_000;
/** On average over four years. */
export const DAYS_IN_MONTH = 30.4375;

const utc = (date: string) => Date.parse(`${date}T00:00:00Z`);

/** Whether a text is a real calendar day, ISO 8601 `YYYY-MM-DD`. @example isIsoDate("2027-02-30") // false */
export function isIsoDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const time = utc(text);
  return !Number.isNaN(time) && new Date(time).toISOString().startsWith(text);
}

/** @example addDays("2027-02-27", 3) // "2027-03-02" */
export const addDays = (date: string, days: number) =>
  new Date(utc(date) + days * MS_PER_DAY).toISOString().slice(0, 10);

/** Whole days from one date to another. */
export const daysBetween = (from: string, to: string) => Math.round((utc(to) - utc(from)) / MS_PER_DAY);

/** 0 for Monday to 6 for Sunday. @example weekdayOf("2027-03-01") // 0 */
export const weekdayOf = (date: string) => (new Date(utc(date)).getUTCDay() + 6) % 7;
