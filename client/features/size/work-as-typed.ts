import {
  RANGES,
  type BeforeSetup,
  type DemandItem,
  type Prices,
  type Priority,
  type Reach,
  type ReportValues,
  type SizeInput,
  type Tap,
  type Use,
  type VesselSize,
  type Water,
  type WaterQuality,
} from "@winter-bead/core";
import { number, type Fields, type NumberField } from "@winter-bead/core/src/descriptor/field";
import { BEFORE_CHANGES, BOUNDS, DEMAND_ITEM } from "@winter-bead/core/src/plan/asked";
import { BEFORE_ASSUMPTIONS } from "@winter-bead/core/src/sizing";
import { liveFault } from "../../forms/live";
import { internalNumber, shownNumber, textIn } from "../../forms/texts";
import { ofQuantities } from "../../forms/useUnitDraft";
import { toShown, typedNumber, type Units } from "../../ui/format";
import { scaleOf } from "../../forms/scales";
import { SEASONS, USE_PRESETS, type WorkPreset } from "./work-presets";

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

/** The figures of a kind of work, by their fields. */
export const itemFields = (by: DemandItem["by"]): readonly (readonly [string, NumberField])[] =>
  Object.entries(DEMAND_ITEM.of[by] as Fields).flatMap(([name, field]) =>
    field.is === "number" ? [[name, field] as const] : [],
  );

const text = (value: number) => String(Number(value.toPrecision(4)));

/** Figures of a kind of work as they are typed, from their values. */
export const typedFigures = (
  by: DemandItem["by"],
  values: Readonly<Record<string, number>>,
  units: Units,
): Readonly<Record<string, string>> =>
  Object.fromEntries(
    itemFields(by).map(([name, { quantity }]) => [name, text(shownNumber(quantity, values[name] ?? 0, units))]),
  );

/** A kind of work as it is offered, in the user's units. */
export const typedItem = ({ by, name, quality, figures }: WorkPreset, key: string, units: Units): TypedItem => ({
  ...{ key, by, name, quality },
  figures: typedFigures(by, figures, units),
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
        textIn(new Map(itemFields(item.by)).get(name)?.quantity, text, from, to),
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

/** Reads typed figures by their fields, keeping a sentence for each that is wrong. */
class Reader {
  readonly errors: Record<string, string> = {};

  constructor(private readonly units: Units) {}

  number(path: string, typed: string, field: NumberField): number {
    const fault =
      typed.trim() === "" ? `${field.range.name} is not a number yet.` : liveFault(field, typed, this.units);
    if (fault) this.errors[path] = fault;
    const number = typedNumber(typed);
    return number === undefined ? NaN : internalNumber(field.quantity, number, this.units);
  }

  optional(path: string, typed: string, field: NumberField): number | undefined {
    return typed.trim() === "" ? undefined : this.number(path, typed, field);
  }
}

function itemOf({ key, by, name, quality, figures }: TypedItem, reader: Reader): DemandItem {
  // A draft kept by an older version calls the share of a tank by its percent.
  const typed: Readonly<Record<string, string>> = { changeShare: figures["changePercent"] ?? "", ...figures };
  const read = itemFields(by).map(([field, described]) => [
    field,
    reader.number(`items.${key}.${field}`, typed[field] ?? "", described),
  ]);
  const common = { by, quality, ...(name.trim() === "" ? {} : { name: name.trim() }) };
  return { ...common, ...Object.fromEntries(read) } as DemandItem;
}

const MONTH = number({ name: "A month’s share", unit: "", from: 0, to: 20 }, { quantity: "share" });

function seasonOf({ season, months }: TypedWork, reader: Reader): readonly number[] | undefined {
  if (season === "even") return undefined;
  if (season !== "own") return SEASONS[season];
  return months.map((typed, i) => reader.number(`months.${i}`, typed, MONTH));
}

function pressureOf({ supply, needed }: TypedWork, reader: Reader): SizeInput["pressure"] {
  if (supply.trim() === "") return undefined;
  return {
    supply: reader.number("supply", supply, BOUNDS.pressure.fields.supply),
    needed: reader.optional("needed", needed, BOUNDS.pressure.fields.needed) ?? 0,
  };
}

const SETUP = BEFORE_CHANGES.fields;

/** A tank filled ahead, and what stands before the resin where it differs from the assumptions. */
function setupOf(typed: TypedWork, reader: Reader, units: Units): Partial<BeforeSetup> | undefined {
  const filled =
    typed.comes === "tank" ? { fillFlow: reader.number("fillFlow", typed.fillFlow, SETUP.fillFlow) } : undefined;
  const same = typedSetup(BEFORE_ASSUMPTIONS, units);
  if ((Object.keys(same) as (keyof typeof same)[]).every((name) => typed[name] === same[name])) return filled;
  return {
    ...filled,
    ...(typed.membranes === "two" ? { secondMembrane: true } : {}),
    recovery: reader.number("recovery", typed.recovery, SETUP.recovery),
    rated: {
      ...BEFORE_ASSUMPTIONS.rated,
      rejection: reader.number("rejection", typed.rejection, SETUP.rated.fields.rejection),
      flow: reader.number("ratedFlow", typed.ratedFlow, SETUP.rated.fields.flow),
    },
    boostedPressure: reader.number("boosted", typed.boosted, SETUP.boostedPressure),
    aerationHours: reader.number("airHours", typed.airHours, SETUP.aerationHours),
    airFlow: reader.number("airFlow", typed.airFlow, SETUP.airFlow),
    batch: reader.number("barrel", typed.barrel, SETUP.batch),
  };
}

const LIMIT = number(RANGES.value, { called: "The limit" });

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
  const budget = reader.optional("budget", typed.budget, BOUNDS.budget);
  const input: SizeInput = {
    demand: { items: typed.items.map((item) => itemOf(item, reader)), ...(season ? { season } : {}) },
    waters,
    limit: {
      value: reader.number("limit", typed.limit, LIMIT),
      scale: scaleOf(typed.limitScale),
    },
    peakFlow: reader.number("peakFlow", typed.peakFlow, BOUNDS.peakFlow),
    liftLimit: reader.number("lift", typed.lift, BOUNDS.liftLimit),
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
