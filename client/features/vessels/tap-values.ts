import type { Scale, Tap } from "@winter-bead/core";
import { toInternal, toShown, typedNumber, type Units } from "../../ui/format";

/** A tap as typed, its place with it. */
export interface TapValues {
  siteId: string;
  siteName: string;
  name: string;
  low: string;
  typical: string;
  high: string;
  scale: string;
  temperature: string;
  ph: string;
  alkalinity: string;
  silica: string;
}

/** Chosen when the tap is in a place not yet known. */
export const NEW_SITE = "new";
const text = (value: number | undefined) => (value === undefined ? "" : String(Number(value.toPrecision(6))));

/** One reading fills the range about it until more are known. */
const ONE_READING_SPREAD = 0.15;

/** The scale that a choice of the form stands for. */
export const toScale = (value: string): Scale =>
  ["nacl", "442", "kcl", "ec"].includes(value) ? (value as Scale) : Number(value);

/** A known tap as text, or an empty form at the first place. */
export const tapValues = (tap: Tap | undefined, firstSite: string | undefined, units: Units): TapValues => ({
  siteId: tap?.siteId ?? firstSite ?? NEW_SITE,
  siteName: "",
  name: tap?.name ?? "",
  low: text(tap?.low),
  typical: text(tap?.typical),
  high: text(tap?.high),
  scale: String(tap?.scale ?? "nacl"),
  temperature: text(tap?.temperature === undefined ? undefined : toShown("temperature", tap.temperature, units)),
  ph: text(tap?.ph),
  alkalinity: text(tap?.alkalinity),
  silica: text(tap?.silica),
});

/** The tap that was typed; what is no number stays NaN for the check to find. */
export function tapBody(values: TapValues, siteId: string, units: Units): Omit<Tap, "id"> {
  const typical = typedNumber(values.typical);
  const temperature = typedNumber(values.temperature);
  const low =
    typedNumber(values.low) ??
    (values.low === "" && typical !== undefined ? typical * (1 - ONE_READING_SPREAD) : undefined);
  const high =
    typedNumber(values.high) ??
    (values.high === "" && typical !== undefined ? typical * (1 + ONE_READING_SPREAD) : undefined);
  return {
    siteId,
    name: values.name,
    low: low ?? NaN,
    typical: typical ?? NaN,
    high: high ?? NaN,
    scale: toScale(values.scale),
    temperature: temperature === undefined ? undefined : toInternal("temperature", temperature, units),
    ph: typedNumber(values.ph),
    alkalinity: typedNumber(values.alkalinity),
    silica: typedNumber(values.silica),
  };
}
