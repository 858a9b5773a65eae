import {
  ionFeed,
  isWithin,
  outOfRangeSentence,
  RANGES,
  waterOfReport,
  type FeedIons,
  type Grade,
  type Range,
  type ReportAnswer,
  type ReportValues,
} from "@winter-bead/core";
import { toInternal, toShown, typedNumber, type Units } from "../../ui/format";
import type { VesselPreset } from "../setup/presets";
import { VESSEL_PRESETS } from "../setup/presets";
import type { LabSetup, Variant } from "./variants";

/** The Lab's bench as typed. */
export interface TypedLab {
  readonly tapId: string;
  readonly grade: Grade;
  readonly resin: string;
  readonly diameter: string;
  readonly flow: string;
  readonly temperature: string;
  readonly limit: string;
  readonly silica: string;
  readonly ammonia: string;
  readonly perDay: string;
  readonly chosen: readonly Variant[];
  readonly fineness: keyof typeof CELLS;
}

/** Cells a bed is cut into: a finer cut shows whether the usual one was fine enough. */
export const CELLS = { usual: 100, fine: 200, finest: 400 } as const;

/** An invented hard, alkaline water for those who have no tap yet. */
export const SAMPLE_WATER: ReportValues = {
  ca: 46,
  mg: 10,
  na: 21,
  k: 3,
  cl: 28,
  so4: 27,
  no3: 8,
  alkalinity: 140,
  ph: 7.2,
  silica: 8,
  chloramine: 1,
  ec25: 420,
  temperature: 14,
};
export const SAMPLE = "sample";

const text = (value: number) => String(Number(value.toPrecision(4)));

export const fromLabPreset = (preset: VesselPreset, units: Units) => ({
  resin: text(toShown("resinVolume", preset.grossVolume * preset.fillFraction, units)),
  diameter: text(toShown("length", preset.diameter, units)),
  flow: text(toShown("flow", preset.flow, units)),
});

export const startLab = (units: Units): TypedLab => ({
  tapId: "",
  grade: "virgin",
  ...fromLabPreset(VESSEL_PRESETS[3]!, units),
  temperature: text(toShown("temperature", 15, units)),
  limit: "10",
  silica: "1",
  ammonia: "0.05",
  perDay: text(toShown("volume", 250, units)),
  chosen: ["as-it-is"],
  fineness: "usual",
});

/** The ions of a tap's water, with what is assumed of it. */
export function labWater(values: ReportValues, described: ReportAnswer | undefined): FeedIons | undefined {
  const feed = ionFeed(waterOfReport(values), described?.hidden.ammonia ?? 0);
  return feed.ok ? feed.value : undefined;
}

export interface ParsedLab {
  readonly setup?: LabSetup;
  readonly errors: Partial<Record<keyof TypedLab, string>>;
}

/** Reads the bench; a field that is wrong has its sentence. */
export function parseLab(typed: TypedLab, water: FeedIons, units: Units): ParsedLab {
  const errors: Partial<Record<keyof TypedLab, string>> = {};
  const read = (name: "resin" | "diameter" | "flow" | "temperature" | "limit" | "perDay", range: Range) => {
    const quantity = { resin: "resinVolume", diameter: "length", perDay: "volume", limit: undefined } as const;
    const number = typedNumber(typed[name]);
    const as = name in quantity ? quantity[name as keyof typeof quantity] : (name as "flow" | "temperature");
    const value = number === undefined ? undefined : as ? toInternal(as, number, units) : number;
    if (value === undefined) errors[name] = `${range.name} is not a number yet.`;
    else if (!isWithin(value, range)) errors[name] = outOfRangeSentence(range);
    return value ?? NaN;
  };
  const mark = (name: "silica" | "ammonia") => {
    if (typed[name].trim() === "") return undefined;
    const value = typedNumber(typed[name]);
    if (value === undefined || !isWithin(value, RANGES.columnMark))
      errors[name] = outOfRangeSentence(RANGES.columnMark);
    return value;
  };
  const [silica, ammonia] = [mark("silica"), mark("ammonia")];
  const setup: LabSetup = {
    water,
    bed: {
      grade: typed.grade,
      resin: read("resin", RANGES.volume),
      diameter: read("diameter", RANGES.diameter),
      flow: read("flow", RANGES.flow),
      temperature: read("temperature", RANGES.temperature),
    },
    limit: { value: read("limit", { ...RANGES.value, name: "The limit", unit: "ppm NaCl" }), scale: "nacl" },
    marks: {
      ...(silica === undefined ? {} : { silica }),
      ...(ammonia === undefined ? {} : { ammonia }),
    },
    cells: CELLS[typed.fineness],
    litresPerDay: read("perDay", { ...RANGES.litres, above: 0, name: "The water of a day" }),
  };
  return Object.keys(errors).length > 0 ? { errors } : { setup, errors };
}
