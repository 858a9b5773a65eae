import {
  isWithin,
  outOfRangeSentence,
  RANGES,
  type BeforeSetup,
  type DemandItem,
  type Prices,
  type Priority,
  type Range,
  type Reach,
  type ReportValues,
  type SizeInput,
  type Tap,
  type Use,
  type VesselSize,
  type Water,
  type WaterQuality,
} from "@winter-bead/core";
import { BEFORE_ASSUMPTIONS } from "@winter-bead/core/src/sizing";
import { textIn } from "../../forms/texts";
import { ofQuantities } from "../../forms/useUnitDraft";
import { toInternal, toShown, typedNumber, type Units } from "../../ui/format";
import { scaleOf } from "../../forms/scales";
import { SEASONS, USE_PRESETS, type WorkPreset } from "./work-presets";

type Quantity = Parameters<typeof toInternal>[0];

/** One kind of work as typed. */
export interface TypedItem {
  readonly key: string;
  readonly by: DemandItem["by"];
  readonly name: string;
  readonly quality: WaterQuality;
  readonly figures: Readonly<Record<string, string>>;
}

/** The work and its bounds as typed. */
export interface TypedWork {
  readonly use: Use;
  readonly tapId: string;
  readonly items: readonly TypedItem[];
  readonly season: "even" | "summer" | "spring-autumn" | "own";
  /** Percent of the usual week, January first. */
  readonly months: readonly string[];
  readonly peakFlow: string;
  /** Straight through the resin to the tool, or from a tank filled ahead at `fillFlow`. */
  readonly comes: "straight" | "tank";
  readonly fillFlow: string;
  readonly bucket: string;
  readonly bucketSeconds: string;
  readonly reach: Reach;
  readonly limit: string;
  readonly limitScale: string;
  readonly lift: string;
  readonly budget: string;
  readonly supply: string;
  readonly needed: string;
  /** What stands before the resin, each an assumption until it is changed. */
  readonly membranes: "one" | "two";
  readonly recovery: string;
  readonly rejection: string;
  readonly ratedFlow: string;
  readonly boosted: string;
  readonly airHours: string;
  readonly airFlow: string;
  readonly barrel: string;
  readonly priority: Priority;
  /** Names of options that stand side by side. */
  readonly pinned: readonly string[];
  /** The kept plan that is being changed. */
  readonly changing: string;
}

/** A figure of a kind of work: what it is called, in what unit it is typed, and what it may be. */
export interface ItemField {
  readonly name: string;
  readonly label: string;
  readonly quantity?: Quantity;
  readonly unit?: string;
  readonly range: Range;
}

const count = (name: string): Range => ({ name, unit: "", from: 0, to: 10_000 });

export const ITEM_FIELDS: Readonly<Record<DemandItem["by"], readonly ItemField[]>> = {
  jobs: [
    { name: "perWeek", label: "A week", range: count("The jobs a week") },
    {
      name: "litresEach",
      label: "Water of one",
      quantity: "volume",
      range: { ...RANGES.litres, above: 0, name: "The water of a job" },
    },
  ],
  rinse: [
    { name: "perWeek", label: "A week", range: count("The rinses a week") },
    {
      name: "minutes",
      label: "Minutes",
      unit: "min",
      range: { name: "The minutes", unit: "min", from: 0, to: 10_000 },
    },
    { name: "flow", label: "Flow", quantity: "flow", range: RANGES.flow },
  ],
  tank: [
    { name: "volume", label: "All tanks", quantity: "volume", range: { ...RANGES.litres, name: "The tank" } },
    { name: "changePercent", label: "Change", unit: "%", range: { name: "The change", unit: "%", from: 0, to: 100 } },
    { name: "changesPerWeek", label: "A week", range: count("The changes a week") },
    {
      name: "evaporation",
      label: "Evaporates a day",
      quantity: "volume",
      range: { ...RANGES.litres, name: "The evaporation" },
    },
  ],
  total: [
    {
      name: "litresPerWeek",
      label: "A week",
      quantity: "volume",
      range: { ...RANGES.litres, name: "The water of a week" },
    },
  ],
};

const text = (value: number) => String(Number(value.toPrecision(4)));

/** A kind of work as it is offered, in the user's units. */
export const typedItem = ({ by, name, quality, figures }: WorkPreset, key: string, units: Units): TypedItem => ({
  key,
  by,
  name,
  quality,
  figures: Object.fromEntries(
    ITEM_FIELDS[by].map(({ name: field, quantity }) => {
      const value = figures[field] ?? 0;
      return [field, text(quantity ? toShown(quantity, value, units) : value)];
    }),
  ),
});

const boundsInOtherUnits = ofQuantities<TypedWork>({
  ...{ peakFlow: "flow", fillFlow: "flow", ratedFlow: "flow", airFlow: "flow", bucket: "volume", barrel: "volume" },
  ...{ lift: "weight", supply: "pressure", needed: "pressure", boosted: "pressure" },
});

/** The work as it reads in other units: what was typed stays, converted. */
export const workInOtherUnits = (work: TypedWork, from: Units, to: Units): TypedWork => ({
  ...boundsInOtherUnits(work, from, to),
  items: work.items.map((item) => ({
    ...item,
    figures: Object.fromEntries(
      Object.entries(item.figures).map(([name, text]) => [
        name,
        textIn(ITEM_FIELDS[item.by].find((field) => field.name === name)?.quantity, text, from, to),
      ]),
    ),
  })),
});

/** L/min at which a tank is filled overnight: a planning assumption. */
const USUAL_FILL_FLOW = 1;

/** A tank filled ahead as it would be typed. */
export const typedFill = (fillFlow: number | undefined, units: Units): Pick<TypedWork, "comes" | "fillFlow"> => ({
  comes: fillFlow === undefined ? "straight" : "tank",
  fillFlow: text(toShown("flow", fillFlow ?? USUAL_FILL_FLOW, units)),
});

/** What a use starts with. */
export function startOfUse(
  use: Use,
  units: Units,
): Pick<TypedWork, "use" | "tapId" | "items" | "peakFlow" | "comes" | "fillFlow" | "limit" | "limitScale"> {
  const { work, first, peakFlow, limit } = USE_PRESETS[use];
  return {
    use,
    // The tap of the rig that does this work, until another is chosen.
    tapId: "",
    items: work.slice(0, first).map((preset, i) => typedItem(preset, `${use}-${i}`, units)),
    peakFlow: text(toShown("flow", peakFlow, units)),
    ...typedFill(undefined, units),
    limit: text(limit),
    limitScale: "nacl",
  };
}

/** The stages before the resin as they would be typed. */
export const typedSetup = (
  { rated, recovery, secondMembrane, boostedPressure, aerationHours, airFlow, batch }: BeforeSetup,
  units: Units,
): Pick<
  TypedWork,
  "membranes" | "recovery" | "rejection" | "ratedFlow" | "boosted" | "airHours" | "airFlow" | "barrel"
> => ({
  membranes: secondMembrane ? "two" : "one",
  recovery: text(100 * recovery),
  rejection: text(100 * rated.rejection),
  ratedFlow: text(toShown("flow", rated.flow, units)),
  boosted: text(toShown("pressure", boostedPressure, units)),
  airHours: text(aerationHours),
  airFlow: text(toShown("flow", airFlow, units)),
  barrel: text(toShown("volume", batch, units)),
});

export const startWork = (units: Units): TypedWork => ({
  ...startOfUse("glass", units),
  season: "even",
  months: SEASONS.even.map((share) => text(100 * share)),
  bucket: "",
  bucketSeconds: "",
  reach: "among",
  lift: text(toShown("weight", 25, units)),
  budget: "",
  supply: "",
  needed: "",
  ...typedSetup(BEFORE_ASSUMPTIONS, units),
  priority: "money",
  pinned: [],
  changing: "",
});

/** What is known of a tap, as three waters. */
export function watersOf(tap: Tap, values: ReportValues | undefined): SizeInput["waters"] {
  const known = { ph: tap.ph, alkalinity: tap.alkalinity, silica: tap.silica, temperature: tap.temperature };
  const { ph, alkalinity, silica, temperature } = { ...known, ...values };
  const water = (value: number): Water => ({
    reading: { value, scale: tap.scale },
    ...(ph === undefined ? {} : { ph }),
    ...(alkalinity === undefined ? {} : { alkalinity }),
    ...(silica === undefined ? {} : { silica }),
    ...(temperature === undefined ? {} : { temperature }),
  });
  return { low: water(tap.low), typical: water(tap.typical), high: water(tap.high) };
}

/** Complaints by field; a figure of a kind of work is `items.<key>.<field>`, a month `months.<i>`. */
export type WorkErrors = Readonly<Record<string, string>>;

export interface ParsedWork {
  readonly input?: SizeInput;
  readonly errors: WorkErrors;
}

/** Reads typed figures, keeping a sentence for each that is wrong. */
class Reader {
  readonly errors: Record<string, string> = {};

  constructor(private readonly units: Units) {}

  number(path: string, typed: string, range: Range, quantity?: Quantity): number {
    const number = typedNumber(typed);
    const value = number !== undefined && quantity ? toInternal(quantity, number, this.units) : number;
    if (value === undefined) this.errors[path] = `${range.name} is not a number yet.`;
    else if (!isWithin(value, range)) this.errors[path] = outOfRangeSentence(range);
    return value ?? NaN;
  }

  optional(path: string, typed: string, range: Range, quantity?: Quantity): number | undefined {
    return typed.trim() === "" ? undefined : this.number(path, typed, range, quantity);
  }
}

function itemOf({ key, by, name, quality, figures }: TypedItem, reader: Reader): DemandItem {
  const read: Record<string, number> = {};
  for (const field of ITEM_FIELDS[by])
    read[field.name] = reader.number(
      `items.${key}.${field.name}`,
      figures[field.name] ?? "",
      field.range,
      field.quantity,
    );
  const { changePercent, ...rest } = read;
  const common = { by, quality, ...(name.trim() === "" ? {} : { name: name.trim() }) };
  return { ...common, ...rest, ...(by === "tank" ? { changeShare: changePercent! / 100 } : {}) } as DemandItem;
}

const MONTH: Range = { name: "A month’s share", unit: "%", from: 0, to: 2000 };

function seasonOf({ season, months }: TypedWork, reader: Reader): readonly number[] | undefined {
  if (season === "even") return undefined;
  if (season !== "own") return SEASONS[season];
  return months.map((typed, i) => reader.number(`months.${i}`, typed, MONTH) / 100);
}

function pressureOf({ supply, needed }: TypedWork, reader: Reader): SizeInput["pressure"] {
  if (supply.trim() === "") return undefined;
  return {
    supply: reader.number("supply", supply, { ...RANGES.pressure, name: "The tap’s pressure" }, "pressure"),
    needed: reader.optional("needed", needed, { ...RANGES.pressure, name: "The tool’s pressure" }, "pressure") ?? 0,
  };
}

const PERCENT: Range = { name: "The share", unit: "%", above: 0, below: 100 };

/** A tank filled ahead, and what stands before the resin where it differs from the assumptions. */
function setupOf(typed: TypedWork, reader: Reader, units: Units): Partial<BeforeSetup> | undefined {
  const filled =
    typed.comes === "tank"
      ? { fillFlow: reader.number("fillFlow", typed.fillFlow, { ...RANGES.flow, name: "The filling flow" }, "flow") }
      : undefined;
  const same = typedSetup(BEFORE_ASSUMPTIONS, units);
  if ((Object.keys(same) as (keyof typeof same)[]).every((name) => typed[name] === same[name])) return filled;
  return {
    ...filled,
    ...(typed.membranes === "two" ? { secondMembrane: true } : {}),
    recovery: reader.number("recovery", typed.recovery, { ...PERCENT, name: "The recovery", to: 95 }) / 100,
    rated: {
      ...BEFORE_ASSUMPTIONS.rated,
      rejection: reader.number("rejection", typed.rejection, { ...PERCENT, name: "The rejection" }) / 100,
      flow: reader.number("ratedFlow", typed.ratedFlow, { ...RANGES.flow, name: "The rated flow" }, "flow"),
    },
    boostedPressure: reader.number(
      "boosted",
      typed.boosted,
      { ...RANGES.pressure, name: "The booster’s pressure" },
      "pressure",
    ),
    aerationHours: reader.number("airHours", typed.airHours, RANGES.hours),
    airFlow: reader.number("airFlow", typed.airFlow, { ...RANGES.flow, name: "The air" }, "flow"),
    batch: reader.number("barrel", typed.barrel, { ...RANGES.litres, above: 0, name: "The barrel" }, "volume"),
  };
}

/** What stands beside the typed figures. */
export interface WorkFacts {
  readonly waters: SizeInput["waters"];
  readonly prices: Prices;
  readonly own: readonly VesselSize[];
}

/** Reads the work; a field that is wrong has its sentence. */
export function parseWork(typed: TypedWork, { waters, prices, own }: WorkFacts, units: Units): ParsedWork {
  const reader = new Reader(units);
  const season = seasonOf(typed, reader);
  const pressure = pressureOf(typed, reader);
  const before = setupOf(typed, reader, units);
  const budget = reader.optional("budget", typed.budget, { ...RANGES.price, name: "The budget" });
  const input: SizeInput = {
    demand: { items: typed.items.map((item) => itemOf(item, reader)), ...(season ? { season } : {}) },
    waters,
    limit: {
      value: reader.number("limit", typed.limit, { ...RANGES.value, name: "The limit" }),
      scale: scaleOf(typed.limitScale),
    },
    peakFlow: reader.number("peakFlow", typed.peakFlow, { ...RANGES.flow, name: "The peak flow" }, "flow"),
    liftLimit: reader.number("lift", typed.lift, { ...RANGES.weight, name: "What one person lifts" }, "weight"),
    priority: typed.priority,
    until: USE_PRESETS[typed.use].until,
    use: typed.use,
    prices,
    ...(own.length > 0 ? { own } : {}),
    ...(pressure ? { pressure } : {}),
    ...(before ? { before } : {}),
    ...(budget === undefined ? {} : { budget }),
  };
  const { errors } = reader;
  return Object.keys(errors).length > 0 ? { errors } : { input, errors };
}
