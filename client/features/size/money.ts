import { LITRES_PER_US_GALLON } from "@winter-bead/core";
import type { Units } from "../../ui/format";

/** What a thousand of is priced: litres, or US gallons. */
export const perThousand = (units: Units): string => (units === "us" ? "For 1000 US gal" : "For 1000 L");
/** Times as much as 1000 L. */
export const thousandOf = (units: Units): number => (units === "us" ? LITRES_PER_US_GALLON : 1);

/** Money with its currency, whole from a hundred on. @example money(1116.6, "EUR") // "€1,117" */
export function money(value: number, currency: string): string {
  const digits = Math.abs(value) < 100 && value !== Math.round(value) ? 2 : 0;
  const format = { minimumFractionDigits: digits, maximumFractionDigits: digits };
  try {
    return new Intl.NumberFormat("en-US", { style: "currency", currency, ...format }).format(value);
  } catch {
    return `${value.toLocaleString("en-US", format)} ${currency}`;
  }
}

/** Whole money, for parts that add up. @example wholeMoney(12.4, "EUR") // "€12" */
export const wholeMoney = (value: number, currency: string): string => money(Math.round(value), currency);

/** A range of money. @example moneyRange(757, 1487, "EUR") // "€757 to €1,487" */
export const moneyRange = (low: number, high: number, currency: string): string =>
  `${wholeMoney(low, currency)} to ${wholeMoney(high, currency)}`;

const DAYS_A_YEAR = 365.25;
/** From here on a person speaks of years. */
const IN_YEARS_FROM = 500;

const tidy = (value: number) => (value < 10 ? Number(value.toPrecision(2)) : Math.round(value)).toLocaleString("en-US");

const DAYS_A_MONTH = 30.44;

/** Days between refills, as a person would say it. @example days(146.5) // "147 days" */
export const days = (value: number): string =>
  value < IN_YEARS_FROM ? `${tidy(value)} days` : `${tidy(value / DAYS_A_YEAR)} years`;

/** @example daysRange(12.1, 18.4) // "12 to 18 days" @example daysRange(325, 1130) // "11 to 37 months" */
export function daysRange(low: number, high: number): string {
  // A range that spans both kinds of words is told in the one between them.
  if (low < IN_YEARS_FROM && high >= IN_YEARS_FROM)
    return `${Math.floor(low / DAYS_A_MONTH)} to ${Math.ceil(high / DAYS_A_MONTH)} months`;
  const [from, to] = [days(low), days(high)];
  if (from === to) return from;
  const unit = to.split(" ")[1]!;
  return from.endsWith(unit) ? `${from.replace(` ${unit}`, "")} to ${to}` : `${from} to ${to}`;
}

/** Minutes of a year, in hours once there are some. @example minutesInWords(7.1) // "7 min" */
export const minutesInWords = (minutes: number): string =>
  minutes < 100 ? `${tidy(minutes)} min` : `${tidy(minutes / 60)} h`;
