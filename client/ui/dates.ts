/** Days as the user's own locale writes them: one form everywhere. */
const locale = globalThis.navigator?.language ?? "en-GB";

const former = (options: Intl.DateTimeFormatOptions) => {
  const format = new Intl.DateTimeFormat(locale, options);
  return (moment: Date | number): string => format.format(moment);
};

/** @example dayMonth(new Date("2026-11-30T12:00")) // "30 Nov" in British English, "Nov 30" in American */
export const dayMonth = former({ day: "numeric", month: "short" });
/** @example weekdayDay(…) // "Mon 30 Nov" */
export const weekdayDay = former({ weekday: "short", day: "numeric", month: "short" });
/** @example dayMonthYear(…) // "30 Nov 2026" */
export const dayMonthYear = former({ day: "numeric", month: "short", year: "numeric" });
/** @example monthYear(…) // "Nov 2026" */
export const monthYear = former({ month: "short", year: "numeric" });
/** @example monthShortYear(…) // "Nov 26" */
export const monthShortYear = former({ month: "short", year: "2-digit" });
/** @example timeOfDay(…) // "14:05" */
export const timeOfDay = former({ hour: "numeric", minute: "2-digit" });
export const monthLong = former({ month: "long" });
export const weekdayLong = former({ weekday: "long" });
export const weekdayShort = former({ weekday: "short" });

/** Noon of an ISO day where this device is: no day shifts by the hour. */
export const noonOf = (iso: string) => new Date(`${iso}T12:00:00`);
