import {
  RANGES,
  isWithin,
  outOfRangeSentence,
  rangeInWords,
  type Id,
  type Meter,
  type ReadingPoint,
  type ReadingRecord,
  type Rig,
  type Scale,
  type Visit,
  type VisitWater,
} from "@winter-bead/core";
import { ofQuantities } from "../../forms/useUnitDraft";
import { toInternal, typedNumber, type Units } from "../../ui/format";

/** What was typed on the log, as text, so that nothing is lost by half a number. */
export interface LogDraft {
  readonly output: string;
  readonly feed: string;
  readonly membrane: string;
  readonly carbon?: string;
  /** Behind each vessel before the last, by its stage. */
  readonly behind?: Readonly<Record<Id, string>>;
  readonly water: string;
  /** What the meter showed at the filling, where its first total is typed. */
  readonly atFilling?: string;
  readonly waterBy: VisitWater["by"];
  readonly newMeter: boolean;
  /** While it ran, when it was not the usual. */
  readonly flow: string;
  readonly perJob: string;
  readonly temperature: string;
  readonly meterId: Id;
  readonly tapId: Id;
  readonly note: string;
  /** Figures looked at again, as `feed 860`: changed, they are asked about anew. */
  readonly confirmed: readonly string[];
}

export const EMPTY_DRAFT: LogDraft = {
  output: "",
  feed: "",
  membrane: "",
  water: "",
  waterBy: "total",
  newMeter: false,
  flow: "",
  perJob: "",
  temperature: "",
  meterId: "",
  tapId: "",
  note: "",
  confirmed: [],
};

const atAnyWay = ofQuantities<LogDraft>({ flow: "flow", perJob: "volume", temperature: "temperature" });
const byTotal = ofQuantities<LogDraft>({ water: "volume", atFilling: "volume" });

/** What was typed, as it reads in other units. */
export const logInOtherUnits = (draft: LogDraft, from: Units, to: Units): LogDraft => {
  const converted = atAnyWay(draft, from, to);
  return draft.waterBy === "total" ? byTotal(converted, from, to) : converted;
};

/** How a looked-at figure is kept in the draft. */
export const figureOf = (draft: LogDraft, field: "feed" | "membrane" | "water") => `${field} ${draft[field].trim()}`;

const isConfirmed = (draft: LogDraft, field: DraftField) =>
  (field === "feed" || field === "membrane" || field === "water") &&
  // A draft kept by an older version has no such list.
  ((draft.confirmed as readonly string[] | undefined) ?? []).includes(figureOf(draft, field));

export type DraftField =
  "output" | "feed" | "membrane" | "carbon" | "water" | "atFilling" | "temperature" | `behind:${Id}`;

/** A place of a train where a reading may be taken. */
export interface LogPoint {
  readonly field: DraftField;
  readonly label: string;
  readonly point: ReadingPoint;
  /** The stage it is behind, where a train has several that it might be. */
  readonly stageId?: Id;
}

const BEHIND = "behind:";

/** What stands in a field of the draft. */
export function textIn(draft: LogDraft, field: DraftField): string {
  if (field.startsWith(BEHIND)) return draft.behind?.[field.slice(BEHIND.length)] ?? "";
  return draft[field as "output" | "feed" | "membrane" | "carbon" | "water" | "atFilling" | "temperature"] ?? "";
}

/** The part of a draft that changes where something is typed into a field. */
export function typedInto(draft: LogDraft, field: DraftField, text: string): Partial<LogDraft> {
  if (!field.startsWith(BEHIND)) return { [field]: text };
  return { behind: { ...draft.behind, [field.slice(BEHIND.length)]: text } };
}

export interface DraftParts {
  readonly rig: Rig;
  /** Where this train may be read. */
  readonly points: readonly LogPoint[];
  /** Those in use. */
  readonly meters: readonly Meter[];
  readonly units: Units;
  /** The meter total before this one, L. */
  readonly lastTotal: number | undefined;
}

export interface DraftVisit {
  readonly body?: Omit<Visit, "id" | "at">;
  /** L on the meter at the filling. */
  readonly atFilling?: number;
  /** By field, in the technician's words. */
  readonly errors: Partial<Record<DraftField, string>>;
  readonly isEmpty: boolean;
}

const NOT_A_NUMBER = "This is not a number yet.";

/** What was typed in the user's units, else the rig's usual; NaN when it is no number. */
function own(text: string, quantity: "flow" | "volume", units: Units, usual: number): number {
  if (text.trim() === "") return usual;
  const number = typedNumber(text);
  return number === undefined ? NaN : toInternal(quantity, number, units);
}

function waterOf(draft: LogDraft, parts: DraftParts): VisitWater | string | undefined {
  if (draft.water.trim() === "") return undefined;
  const amount = typedNumber(draft.water);
  if (amount === undefined) return NOT_A_NUMBER;
  if (draft.waterBy === "timed") {
    const flow = own(draft.flow, "flow", parts.units, parts.rig.flow);
    if (!isWithin(flow, RANGES.flow)) return outOfRangeSentence(RANGES.flow);
    return amount <= 100_000 ? { by: "timed", minutes: amount, flow } : "That is more minutes than two months have.";
  }
  if (draft.waterBy === "jobs") {
    const litresPerJob = own(draft.perJob, "volume", parts.units, parts.rig.litresPerJob);
    if (!isWithin(litresPerJob, RANGES.litres))
      return outOfRangeSentence({ ...RANGES.litres, name: "The water of a job" });
    return amount <= 10_000
      ? { by: "jobs", jobs: amount, litresPerJob }
      : `That is too many to be one visit's ${parts.rig.jobName}s.`;
  }
  const total = toInternal("volume", amount, parts.units);
  if (total > 1e9) return "That is more than a water meter shows.";
  if (
    parts.lastTotal !== undefined &&
    total < parts.lastTotal &&
    !draft.newMeter &&
    parts.rig.meterRollsOverAt === undefined
  )
    return "Below the last total: mistyped, or a new meter?";
  return {
    by: "total",
    total,
    ...(draft.newMeter ? { replaced: true } : {}),
    ...(isConfirmed(draft, "water") ? { confirmed: true } : {}),
  };
}

/** L that the meter showed at the filling; only a first total asks for it. */
function atFillingOf(draft: LogDraft, { units, lastTotal }: DraftParts): number | string | undefined {
  const text = draft.atFilling?.trim() ?? "";
  if (text === "" || draft.waterBy !== "total" || draft.newMeter || lastTotal !== undefined) return undefined;
  const amount = typedNumber(text);
  if (amount === undefined) return NOT_A_NUMBER;
  const [then, now] = [toInternal("volume", amount, units), typedNumber(draft.water)];
  if (now !== undefined && then > toInternal("volume", now, units))
    return "At the filling the meter can’t have shown more than now.";
  return then;
}

function readingOf(
  text: string,
  { point, stageId }: LogPoint,
  meter: Meter | undefined,
  temperature: number | undefined,
  id: Id,
): ReadingRecord | string {
  const value = typedNumber(text);
  if (value === undefined) return NOT_A_NUMBER;
  if (!isWithin(value, RANGES.observed)) return outOfRangeSentence(RANGES.observed);
  const by: { meterId: Id } | { scale: Scale } = meter ? { meterId: meter.id } : { scale: "nacl" };
  return {
    id,
    point,
    ...(stageId === undefined ? {} : { stageId }),
    ...by,
    value,
    ...(temperature === undefined ? {} : { temperature }),
  };
}

/** The water that was typed, and what the meter showed at the filling where that is asked; what is wrong goes to `errors`. */
function waterTyped(draft: LogDraft, parts: DraftParts, errors: Partial<Record<DraftField, string>>) {
  const kept = waterOf(draft, parts);
  if (typeof kept === "string") {
    errors.water = kept;
    return {};
  }
  const atFilling = kept && atFillingOf(draft, parts);
  if (typeof atFilling !== "string") return { kept, atFilling };
  errors.atFilling = atFilling;
  return { kept };
}

/** The visit that the draft would keep, and what is wrong with it; good fields count though others are wrong. */
export function draftVisit(draft: LogDraft, parts: DraftParts, newId: () => Id): DraftVisit {
  const errors: Partial<Record<DraftField, string>> = {};
  const meter = parts.meters.find((each) => each.id === draft.meterId);
  const temperature = draft.temperature === "" ? undefined : typedNumber(draft.temperature);
  const celsius = temperature === undefined ? undefined : toInternal("temperature", temperature, parts.units);
  if (draft.temperature !== "" && (celsius === undefined || !isWithin(celsius, RANGES.temperature)))
    errors.temperature = `The temperature must be ${rangeInWords(RANGES.temperature)}.`;
  const readings: ReadingRecord[] = [];
  for (const point of parts.points) {
    const { field } = point;
    const text = textIn(draft, field);
    if (text.trim() === "") continue;
    const reading = readingOf(text, point, meter, errors.temperature ? undefined : celsius, newId());
    if (typeof reading === "string") errors[field] = reading;
    else readings.push(isConfirmed(draft, field) ? { ...reading, confirmed: true } : reading);
  }
  if (readings.length > 0 && !meter && parts.meters.length > 0)
    errors.output = "Say which meter: without its scale a reading is ambiguous by 40 %.";
  if (readings.length > 0 && meter && !meter.compensated && celsius === undefined)
    errors.temperature = `${meter.name} does not compensate: enter the water's temperature.`;
  const { kept, atFilling } = waterTyped(draft, parts, errors);
  const isEmpty = readings.length === 0 && kept === undefined;
  if (isEmpty) return { errors, isEmpty };
  return {
    errors,
    isEmpty,
    ...(atFilling === undefined ? {} : { atFilling }),
    body: {
      rigId: parts.rig.id,
      tapId: draft.tapId,
      readings,
      ...(kept ? { water: kept } : {}),
      ...(draft.note.trim() ? { note: draft.note.trim() } : {}),
    },
  };
}
