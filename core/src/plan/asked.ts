import { choice, flag, group, number, optional, scale, text, variants, type ValueOf } from "../descriptor/field";
import { WATER_QUALITY } from "../ledger/water-used";
import { RANGES } from "../ranges";

const counted = (called: string, label: string) => number({ name: called, unit: "", from: 0, to: 10_000 }, { label });
const litres = (called: string, label: string) => number(RANGES.litres, { called, label, quantity: "volume" });
const named = {
  /** What it is called, such as `first clean`. */
  name: optional(text("What the work is called", { most: 60, label: "What" })),
  quality: WATER_QUALITY,
} as const;

/** One kind of work that takes water, in the trade's own units. */
export const DEMAND_ITEM = variants(
  "A kind of work",
  "by",
  {
    jobs: {
      ...named,
      perWeek: counted("The jobs a week", "A week"),
      litresEach: litres("The water of a job", "Water for each job"),
    },
    rinse: {
      ...named,
      perWeek: counted("The rinses a week", "A week"),
      minutes: number({ name: "The minutes", unit: "min", from: 0, to: 10_000 }, { label: "Minutes" }),
      flow: number(RANGES.flow, { label: "Flow", quantity: "flow" }),
    },
    tank: {
      ...named,
      volume: litres("The tank", "All tanks"),
      /** Share of the volume, such as 0.2. */
      changeShare: number(RANGES.share, { called: "The change", label: "Change", quantity: "share" }),
      changesPerWeek: counted("The changes a week", "A week"),
      /** A day. */
      evaporation: litres("The evaporation", "Evaporates a day"),
    },
    /** Known as a whole, from a log or a bill. */
    total: { ...named, litresPerWeek: litres("The water of a week", "A week") },
  },
  { fault: "Work is jobs, rinses, a tank, or a total." },
);
export type DemandItem = ValueOf<typeof DEMAND_ITEM>;

/** What stands before the resin, where it is not as assumed: each figure may be left out. */
export const BEFORE_CHANGES = group("What stands before the resin, where it is not as assumed", {
  rated: optional(
    group("The membrane's test", {
      flow: number(RANGES.flow, { called: "The rated flow", quantity: "flow" }),
      rejection: number(RANGES.rejection, { quantity: "share" }),
      pressure: number(RANGES.pressure, { quantity: "pressure" }),
      ec25: number({ ...RANGES.value, unit: "µS/cm" }, { called: "The test water" }),
      recovery: number(RANGES.ratedRecovery, { quantity: "share" }),
      temperature: optional(number(RANGES.temperature, { quantity: "temperature" })),
    }),
  ),
  recovery: optional(number(RANGES.recovery, { quantity: "share" })),
  secondMembrane: optional(flag("A second membrane")),
  tapPressure: optional(number(RANGES.pressure, { quantity: "pressure" })),
  boostedPressure: optional(number(RANGES.pressure, { called: "The booster’s pressure", quantity: "pressure" })),
  aerationHours: optional(number(RANGES.hours)),
  airFlow: optional(number(RANGES.flow, { called: "The air", quantity: "flow" })),
  batch: optional(number({ ...RANGES.litres, above: 0 }, { called: "The barrel", quantity: "volume" })),
  fillFlow: optional(number(RANGES.flow, { called: "The filling flow", quantity: "flow" })),
});

/** What bounds a choice. */
export const BOUNDS = {
  peakFlow: number(RANGES.flow, { called: "The peak flow", quantity: "flow" }),
  liftLimit: optional(number(RANGES.weight, { called: "What one person lifts", quantity: "weight" })),
  budget: optional(number(RANGES.price, { called: "The budget" })),
  /** At the tap while running, and what the tool needs. */
  pressure: optional(
    group("The pressure", {
      supply: number(RANGES.pressure, { called: "The tap’s pressure", quantity: "pressure" }),
      needed: number(RANGES.pressure, { called: "The tool’s pressure", quantity: "pressure" }),
    }),
  ),
} as const;

/** What a maker says of a product, as far as it is said. */
export const CLAIM = group("A statement", {
  name: text("The statement's name", { most: 80, label: "The statement" }),
  /** L that it is to give. */
  litres: number(RANGES.ratedLitres, { called: "The claimed water", label: "Gives", quantity: "volume" }),
  /** At this feed, on this scale; many statements leave it out. */
  ppm: optional(number(RANGES.ratedPpm, { called: "The claim's feed", label: "at a feed of" })),
  scale: scale(),
  /** L of resin in it. */
  resinLitres: optional(number(RANGES.volume, { label: "from resin of", quantity: "resinVolume" })),
  /** Money: for one filling, or for a set of vessel and resin. */
  price: optional(number({ ...RANGES.price, above: 0 }, { called: "The price", label: "for" })),
  /** What the price is for (default a filling). */
  priceOf: optional(
    choice(
      "What the price is for",
      { refill: "A filling", set: "A set, vessel and resin" },
      { fault: "A price is for a refill, or for a set." },
    ),
  ),
  /** Money for each later filling of a set. */
  refillPrice: optional(number(RANGES.price, { called: "The price of a refill", label: "Each later filling" })),
});
export interface Claim extends ValueOf<typeof CLAIM> {}
