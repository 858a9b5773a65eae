import {
  isWithin,
  onScale,
  outOfRangeSentence,
  RANGES,
  scaleFactor,
  type CapacityRange,
  type Grade,
  type Range,
  type Tap,
  type VesselKind,
} from "@winter-bead/core";
import { toInternal, toShown, typedNumber, type Units } from "../../ui/format";
import { VESSEL_PRESETS, type VesselPreset } from "../setup/presets";
import { scaleOf } from "../../forms/scales";
import type { LitresQuestion } from "./litres";

/** Typed text; lengths and volumes in the unit system it was typed in. */
export interface Typed {
  low: string;
  typical: string;
  high: string;
  /** The typical feed that the range was last about, where the field itself is empty. */
  about: string;
  scale: string;
  grade: Grade;
  resin: string;
  diameter: string;
  grossVolume: string;
  emptyWeight: string;
  kind: VesselKind;
  flow: string;
  limit: string;
  limitScale: string;
  temperature: string;
  ph: string;
  alkalinity: string;
  silica: string;
  packing: string;
  storage: string;
  spread: string;
  bypass: string;
  constant: string;
  ratedVolume: string;
  ratedPpm: string;
  ratedResin: string;
}

export const text = (value: number) => String(Number(value.toPrecision(4)));

/** Shares of a feed that its days lie between where nothing else is known: planning assumptions. */
const USUAL_LOW = 0.8125;
const USUAL_HIGH = 1.3125;

/** Digits enough that a range is not worn down while a number is typed digit by digit. */
const exact = (value: number) => String(Number(value.toPrecision(7)));

/** Another typical feed; its range goes along in the same shares, also when the field was cleared between. */
export function withRange(typed: Typed, typical: string): Partial<Typed> {
  const [low, high, now] = [typedNumber(typed.low), typedNumber(typed.high), typedNumber(typical)];
  if (now === undefined || !(now > 0)) return { typical };
  const before = typedNumber(typed.typical) ?? typedNumber(typed.about);
  const inShares = low && high && before && low <= before && before <= high;
  const [down, up] = inShares ? [low / before, high / before] : [USUAL_LOW, USUAL_HIGH];
  return { typical, about: typical, low: exact(now * down), high: exact(now * up) };
}

export function fromPreset(preset: VesselPreset, units: Units) {
  return {
    kind: preset.kind,
    resin: text(toShown("resinVolume", preset.grossVolume * preset.fillFraction, units)),
    grossVolume: text(toShown("volume", preset.grossVolume, units)),
    diameter: text(toShown("length", preset.diameter, units)),
    emptyWeight: text(toShown("weight", preset.emptyWeight, units)),
    flow: text(toShown("flow", preset.flow, units)),
  };
}

/** What is known of a tap; fields it does not know are emptied. */
export function fromTap(tap: Tap, units: Units): Partial<Typed> {
  const known = (value: number | undefined) => (value === undefined ? "" : text(value));
  return {
    low: text(tap.low),
    typical: text(tap.typical),
    high: text(tap.high),
    scale: String(tap.scale),
    ph: known(tap.ph),
    alkalinity: known(tap.alkalinity),
    silica: known(tap.silica),
    ...(tap.temperature === undefined ? {} : { temperature: text(toShown("temperature", tap.temperature, units)) }),
  };
}

export const startWith = (units: Units): Typed => ({
  low: "130",
  typical: "160",
  high: "210",
  about: "160",
  scale: "nacl",
  grade: "virgin",
  ...fromPreset(VESSEL_PRESETS[3]!, units),
  limit: "10",
  limitScale: "nacl",
  temperature: text(toShown("temperature", 15, units)),
  ph: "",
  alkalinity: "",
  silica: "",
  packing: "1",
  storage: "1",
  spread: "0.05",
  bypass: "0",
  constant: "200000",
  ratedVolume: "",
  ratedPpm: "",
  ratedResin: "",
});

export interface Parsed {
  readonly question?: LitresQuestion;
  readonly errors: Partial<Record<keyof Typed, string>>;
}

type Quantity = Parameters<typeof toInternal>[0];

/** Reads every field; one that is wrong has its sentence and the rest is kept. */
export function parse(typed: Typed, units: Units, history: CapacityRange | undefined): Parsed {
  const errors: Partial<Record<keyof Typed, string>> = {};
  const read = (field: keyof Typed, range: Range, quantity?: Quantity): number => {
    const number = typedNumber(typed[field]);
    const value = number === undefined ? undefined : quantity ? toInternal(quantity, number, units) : number;
    if (value === undefined) errors[field] = `${range.name} is not a number yet.`;
    else if (!isWithin(value, range)) errors[field] = outOfRangeSentence(range);
    return value ?? NaN;
  };
  const optional = (field: keyof Typed, range: Range) => (typed[field].trim() === "" ? undefined : read(field, range));
  const feed = {
    low: read("low", RANGES.value),
    typical: read("typical", RANGES.value),
    high: read("high", RANGES.value),
  };
  if (feed.low > feed.typical) errors.low = "The lowest must not exceed the typical.";
  if (feed.high < feed.typical) errors.high = "The highest must not be below the typical.";
  const rated = typed.ratedVolume.trim() !== "" && typed.ratedPpm.trim() !== "" && typed.ratedResin.trim() !== "";
  const question: LitresQuestion = {
    feed,
    scale: scaleOf(typed.scale),
    temperature: read("temperature", RANGES.temperature, "temperature"),
    ph: optional("ph", RANGES.ph),
    alkalinity: optional("alkalinity", RANGES.alkalinity),
    silica: optional("silica", RANGES.silica),
    grade: typed.grade,
    resin: read("resin", RANGES.volume, "resinVolume"),
    diameter: read("diameter", RANGES.diameter, "length"),
    grossVolume: read("grossVolume", { ...RANGES.volume, name: "The vessel's volume" }, "volume"),
    emptyWeight: read("emptyWeight", RANGES.weight, "weight"),
    flow: read("flow", RANGES.flow, "flow"),
    // A draft kept by an older version was typed on the sodium-chloride scale.
    limit: onScale(
      read("limit", { ...RANGES.value, name: "The limit" }) / scaleFactor(scaleOf(typed.limitScale ?? "nacl")),
      "nacl",
    ),
    packing: read("packing", RANGES.factor),
    storage: read("storage", RANGES.factor),
    spread: read("spread", RANGES.spread),
    bypass: read("bypass", RANGES.bypass),
    constant: read("constant", RANGES.constant),
    rating: rated
      ? {
          ratedLitres: read("ratedVolume", RANGES.ratedLitres, "volume"),
          ratedPpm: read("ratedPpm", RANGES.ratedPpm),
          scale: "nacl",
          resinLitres: read("ratedResin", RANGES.volume, "resinVolume"),
        }
      : undefined,
    history,
  };
  if (question.resin > question.grossVolume * 1.001) errors.resin = "There is more resin than the vessel holds.";
  return Object.keys(errors).length > 0 ? { errors } : { question, errors };
}
