import type { Prices } from "@winter-bead/core";
import { DEFAULT_PRICES } from "@winter-bead/core/src/plan/prices";
import { toShown, typedNumber, unitOf, type Units } from "../../ui/format";

/** A price as it is typed: where it lies in the list, and per what. */
export interface PriceField {
  readonly path: string;
  readonly label: string;
  readonly unit: (currency: string, units: Units) => string;
  /** What one typed unit is in internal ones: prices are per L or per m³ inside. */
  readonly factor?: (units: Units) => number;
}

const plain = (unit: string) => (currency: string) => (unit === "" ? currency : `${currency} ${unit}`);
const asIs = (unit: string) => () => unit;
const perVolume = (units: Units) => toShown("volume", 1, units);

/** By the litre, or by the cubic foot for resin and the gallon for vessels. */
const perLitre = (path: string, label: string, quantity: "volume" | "resinVolume"): PriceField => ({
  path,
  label,
  unit: (currency, units) => `${currency}/${unitOf(quantity, units)}`,
  factor: (units) => toShown(quantity, 1, units),
});
/** Water is billed by the cubic metre, or by the thousand gallons. */
const perBulk = (path: string, label: string): PriceField => ({
  path,
  label,
  unit: (currency, units) => (units === "us" ? `${currency}/1000 gal` : `${currency}/m³`),
  factor: perVolume,
});

export const PRICE_GROUPS: readonly { readonly name: string; readonly fields: readonly PriceField[] }[] = [
  {
    name: "Resin",
    fields: [
      perLitre("resin.virgin", "Virgin", "resinVolume"),
      perLitre("resin.dyed", "Virgin, dyed", "resinVolume"),
      perLitre("resin.regenerated", "Regenerated", "resinVolume"),
      { path: "bulkShare", label: "In bulk", unit: asIs("of the bag’s price") },
      { path: "delivery", label: "A delivery", unit: plain("") },
    ],
  },
  {
    name: "Vessels and stages",
    fields: [
      { path: "vesselBase", label: "A vessel’s fittings", unit: plain("") },
      perLitre("vesselPerLitre", "and its size", "volume"),
      { path: "membraneUnit", label: "Membrane unit", unit: plain("") },
      { path: "membrane", label: "A new membrane", unit: plain("") },
      { path: "membraneYears", label: "It lasts", unit: asIs("years") },
      { path: "prefiltersPerYear", label: "Prefilters", unit: plain("a year") },
      { path: "boosterPump", label: "Booster pump", unit: plain("") },
      { path: "madeWaterTank", label: "Tank and pump for made water", unit: plain("") },
      { path: "aerator", label: "Barrel with air pump", unit: plain("") },
      { path: "years", label: "A purchase is spread over", unit: asIs("years") },
    ],
  },
  {
    name: "Water, power, time",
    fields: [
      perBulk("water", "Tap water"),
      perBulk("waste", "Waste water"),
      { path: "power", label: "Power", unit: (currency) => `${currency}/kWh` },
      { path: "wage", label: "An hour of your work", unit: plain("") },
      { path: "minutesPerRefill", label: "A refill takes", unit: asIs("min") },
      { path: "minutesPerBatch", label: "A barrel takes", unit: asIs("min") },
      { path: "minutesPerTank", label: "A tank of made water takes", unit: asIs("min") },
      {
        path: "flushPerWeek",
        label: "Flushes a membrane",
        unit: (_, units) => `${unitOf("volume", units)} a week`,
        factor: (units) => 1 / toShown("volume", 1, units),
      },
      { path: "roomPerYear", label: "Room for RO", unit: plain("a year") },
    ],
  },
];

export const PRICE_FIELDS = PRICE_GROUPS.flatMap(({ fields }) => fields);

/** A price list as typed, by path. */
export type PriceValues = Record<string, string>;

/** The form's names can't hold points. */
export const nameOf = (path: string) => path.replace(".", "_");

/** A price of a list, or the default where an older list doesn't say it. */
const valueAt = (prices: Prices, path: string): number =>
  path
    .split(".")
    .reduce<unknown>((node, key) => (node as Record<string, unknown>)[key], { ...DEFAULT_PRICES, ...prices }) as number;

const text = (value: number) => String(Number(value.toPrecision(6)));

export const priceValues = (prices: Prices, currency: string, units: Units): PriceValues => ({
  currency,
  ...Object.fromEntries(
    PRICE_FIELDS.map(({ path, factor }) => [nameOf(path), text(valueAt(prices, path) / (factor?.(units) ?? 1))]),
  ),
});

/** The list that was typed; what is no number stays NaN for the check to find. */
export function pricesOf(values: PriceValues, units: Units): Prices {
  const found: Record<string, unknown> = { resin: {} };
  for (const { path, factor } of PRICE_FIELDS) {
    const value = (typedNumber(values[nameOf(path)] ?? "") ?? NaN) * (factor?.(units) ?? 1);
    const [outer, inner] = path.split(".") as [string, string | undefined];
    if (inner) (found[outer] as Record<string, number>)[inner] = value;
    else found[outer] = value;
  }
  return found as unknown as Prices;
}
