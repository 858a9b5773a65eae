import { clockNow } from "../data/clock";
import { LITRES_PER_US_GALLON, roundedOutward, US_UNITS, type Scale } from "@winter-bead/core";
import { format } from "date-fns/format";
import type { Settings } from "../data/settings";
import { dayMonth, dayMonthYear, monthYear, noonOf, weekdayDay } from "./dates";

export type Units = Settings["units"];

const digitsOf = (most: number) => new Intl.NumberFormat("en-US", { maximumSignificantDigits: most });
const THREE = digitsOf(3);
const SEVEN = digitsOf(7);

/** Three significant digits, thousands apart; more would be false precision. @example threeDigits(1672.6) // "1,670" */
export function threeDigits(value: number): string {
  if (value === 0) return "0";
  const rounded = Number(value.toPrecision(3));
  return THREE.format(rounded);
}

/** A share in percent, two digits. @example percent(0.0774) // "7.7" */
export const percent = (share: number) => THREE.format(Number((100 * share).toPrecision(2)));

/** Enough digits to work the formula again. */
export const sixDigits = (value: number) => (value === 0 ? "0" : SEVEN.format(Number(value.toPrecision(7))));

export interface Shown {
  readonly text: string;
  readonly unit: string;
}

type Quantity = "volume" | "flow" | "length" | "pressure" | "weight" | "temperature" | "resinVolume";

const METRIC_UNIT: Readonly<Record<Quantity, string>> = {
  volume: "L",
  flow: "L/min",
  length: "mm",
  pressure: "kPa",
  weight: "kg",
  temperature: "°C",
  resinVolume: "L",
};

export const unitOf = (quantity: Quantity, units: Units) =>
  units === "us" ? US_UNITS[quantity].shown : METRIC_UNIT[quantity];
export const toShown = (quantity: Quantity, value: number, units: Units) =>
  units === "us" ? US_UNITS[quantity].toShown(value) : value;
export const toInternal = (quantity: Quantity, value: number, units: Units) =>
  units === "us" ? US_UNITS[quantity].toInternal(value) : value;

/** A quantity in the user's units, unit beside it. */
export const shown = (quantity: Quantity, value: number, units: Units): Shown => ({
  text: threeDigits(toShown(quantity, value, units)),
  unit: unitOf(quantity, units),
});

/** Litres as `1,310 L` or `346 US gal`. */
export function litres(value: number, units: Units): string {
  const { text, unit } = shown("volume", value, units);
  return `${text} ${unit}`;
}

/** A range as `1,050 to 1,600 L`, rounded outward; one number when both ends read the same. */
export function litresRange(low: number, high: number, units: Units): string {
  const range = volumeRange(low, high, units);
  return range.low === range.high ? `${range.low} ${range.unit}` : `${range.low} to ${range.high} ${range.unit}`;
}

/** Both ends of a range of litres in the user's units, rounded outward; the same text twice where they read the same. */
export function volumeRange(low: number, high: number, units: Units) {
  const unit = unitOf("volume", units);
  const [a, b] = [low, high].map((value) => shown("volume", value, units).text) as [string, string];
  if (a === b) return { low: a, high: b, unit };
  const range = roundedOutward(toShown("volume", low, units), toShown("volume", high, units));
  return { low: SEVEN.format(range.low), high: SEVEN.format(range.high), unit };
}

export const perGallon = {
  symbol: "gal",
  name: "Litres in a US gallon",
  value: LITRES_PER_US_GALLON,
  unit: "L/US gal",
} as const;

/** What stands beside a reading: `ppm NaCl`, `ppm 442`, `µS/cm`. */
export function scaleUnit(scale: Scale): string {
  if (scale === "ec") return "µS/cm";
  if (typeof scale === "number") return `ppm ×${scale}`;
  return `ppm ${{ nacl: "NaCl", "442": "442", kcl: "KCl" }[scale]}`;
}

/** The day of a moment where this device is, ISO. */
export const localDate = (milliseconds: number) => format(milliseconds, "yyyy-MM-dd");

const dayMs = 86_400_000;

/** A date near today in words: `today`, `tomorrow`, `Thu 3 Dec`, `late Jan 2027`. */
export function dateInWords(iso: string, today: string): string {
  const days = Math.round((Date.parse(iso) - Date.parse(today)) / dayMs);
  if (days <= 0) return "today";
  if (days === 1) return "tomorrow";
  const local = noonOf(iso);
  if (days < 45) return weekdayDay(local);
  const third = local.getDate() <= 10 ? "early" : local.getDate() <= 20 ? "mid" : "late";
  return `${third} ${monthYear(local)}`;
}

/** A day that was or is set, with its year where that is not this one's. @example dayOf("2026-10-28", "2026-11-27") // "28 Oct" */
export const dayOf = (iso: string, today = localDate(clockNow())) =>
  (iso.slice(0, 4) === today.slice(0, 4) ? dayMonth : dayMonthYear)(noonOf(iso));

/** The day of a moment, here. @example dayOfMoment("2026-10-28T12:00:00.000Z") // "28 Oct" */
export const dayOfMoment = (iso: string) => dayOf(localDate(Date.parse(iso)));

/** When something was seen: `today 8:10`, `Fri 20 Nov`. */
export function momentInWords(milliseconds: number, now: number): string {
  if (localDate(milliseconds) === localDate(now)) return `today ${format(milliseconds, "H:mm")}`;
  return (now - milliseconds > 300 * dayMs ? dayMonthYear : weekdayDay)(milliseconds);
}

/** What was typed as a number: comma or point, thousands ignored; undefined when it is none. */
export function typedNumber(text: string): number | undefined {
  const plain = text
    .trim()
    .replace(/\s/g, "")
    .replace(/,(?=\d{3}(\D|$))/g, "")
    .replace(",", ".");
  if (plain === "" || !/^-?\d*\.?\d+$|^-?\d+\.$/.test(plain)) return undefined;
  const value = Number(plain);
  return Number.isFinite(value) ? value : undefined;
}

/** @example capital("first leak falls") // "First leak falls" */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
