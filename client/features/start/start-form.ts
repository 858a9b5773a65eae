import {
  isWithin,
  outOfRangeSentence,
  RANGES,
  type Grade,
  type Meter,
  type PartUsed,
  type Scale,
  type Tap,
} from "@winter-bead/core";
import { OPEN_TAP, TRADES, WASHER, type Trade } from "@winter-bead/core/src/start";
import { ofQuantities } from "../../forms/useUnitDraft";
import { threeDigits, toInternal, toShown, typedNumber, type Units } from "../../ui/format";
import type { StartQuestion } from "./answer";

/** What was typed on the first day, as text in the user's units. */
export interface StartDraft {
  readonly trade: Trade;
  readonly shown: string;
  /** A scale, `unknown`, or the id of a meter that is there already. */
  readonly meter: string;
  /** Id of a tap that is there already, or nothing. */
  readonly tapId: string;
  readonly vessel: string;
  readonly before: "nothing" | "membrane";
  /** Place among the trade's surfaces. */
  readonly surface: string;
  readonly jobs: string;
  readonly perJob: string;
  readonly tool: "hose" | "washer";
  readonly washer: string;
  readonly tapFlow: string;
  readonly used: "no" | "jobs" | "weeks" | "unknown";
  readonly usedCount: string;
  readonly grade: Grade;
  readonly name: string;
}

const plain = (value: number) => threeDigits(value).replaceAll(",", "");
const inUnits = (quantity: "volume" | "flow", value: number, units: Units) => plain(toShown(quantity, value, units));

/** What a trade sets; the rest is of the hand alone. */
function ofTrade(trade: Trade, units: Units) {
  const { grossVolume, behindMembrane, jobsPerWeek, litresPerJob, rigName } = TRADES[trade];
  return {
    vessel: inUnits("volume", grossVolume, units),
    before: behindMembrane ? ("membrane" as const) : ("nothing" as const),
    surface: "0",
    jobs: String(jobsPerWeek),
    perJob: inUnits("volume", litresPerJob, units),
    tool: "hose" as const,
    name: rigName,
  };
}

export const startDraft = (units: Units): StartDraft => ({
  ...{ trade: "windows", shown: "", meter: "", tapId: "", used: "no", usedCount: "", grade: "virgin" },
  ...{ washer: inUnits("flow", WASHER, units), tapFlow: inUnits("flow", OPEN_TAP, units) },
  ...ofTrade("windows", units),
});

export const startInOtherUnits = ofQuantities<StartDraft>({
  ...{ vessel: "volume", perJob: "volume", washer: "flow", tapFlow: "flow" },
});

/** Another trade: its defaults come in where the hand has not changed those of the one before. */
export function withTrade(draft: StartDraft, trade: Trade, units: Units): Partial<StartDraft> {
  const [before, after] = [ofTrade(draft.trade, units), ofTrade(trade, units)];
  const untouched = Object.entries(after).filter(
    ([field]) => field === "surface" || draft[field as keyof StartDraft] === before[field as keyof typeof before],
  );
  return { trade, ...Object.fromEntries(untouched) };
}

/** What each question is asked with. */
export interface Asked {
  readonly draft: StartDraft;
  readonly patch: (part: Partial<StartDraft>) => void;
  readonly errors: ParsedStart["errors"];
  readonly units: Units;
}

const SCALES: readonly string[] = ["nacl", "442", "kcl", "ec", "unknown"];

export interface KnownThings {
  readonly taps: readonly Tap[];
  readonly meters: readonly Meter[];
}

/** The meter of the draft: one that is there, or a scale; nothing before it is said. */
function meterOf({ meter }: StartDraft, { meters }: KnownThings): StartQuestion["meter"] | undefined {
  const known = meters.find(({ id }) => id === meter);
  if (known) return known;
  return SCALES.includes(meter) ? { scale: meter as Scale | "unknown" } : undefined;
}

function partUsedOf({ used, usedCount }: StartDraft): PartUsed | undefined | "wrong" {
  if (used === "no") return undefined;
  if (used === "unknown") return { by: "unknown" };
  const count = typedNumber(usedCount);
  if (count === undefined || !(count > 0)) return "wrong";
  return used === "jobs" ? { by: "jobs", jobs: count } : { by: "weeks", weeks: count };
}

export interface ParsedStart {
  readonly question?: Omit<StartQuestion, "now">;
  /** By field, in the technician's words. */
  readonly errors: Partial<Record<keyof StartDraft, string>>;
  /** What is still to be said, before anything is wrong. */
  readonly open?: "shown" | "meter";
}

/** The question as typed, and what is wrong or still open in it. */
export function parseStart(draft: StartDraft, things: KnownThings, units: Units): ParsedStart {
  const errors: ParsedStart["errors"] = {};
  const number = (field: keyof StartDraft, range: Parameters<typeof isWithin>[1], quantity?: "volume" | "flow") => {
    const typed = typedNumber(draft[field]);
    const value = typed === undefined ? NaN : quantity ? toInternal(quantity, typed, units) : typed;
    if (!isWithin(value, range))
      errors[field] = typed === undefined ? "This is not a number yet." : outOfRangeSentence(range);
    return value;
  };
  const tap = things.taps.find(({ id }) => id === draft.tapId);
  const isOpen = draft.shown.trim() === "";
  // What is known of a tap is not asked again.
  const shown = isOpen || tap ? undefined : number("shown", { ...RANGES.value, above: 0, name: "The reading" });
  const grossVolume = number("vessel", { ...RANGES.volume, name: "The vessel's inside" }, "volume");
  const jobsPerWeek = number("jobs", RANGES.jobsPerWeek);
  const litresPerJob = number("perJob", { ...RANGES.volume, name: "The water of a job" }, "volume");
  const toolFlow = draft.tool === "washer" ? number("washer", RANGES.flow, "flow") : TRADES[draft.trade].toolFlow;
  if (draft.tool === "washer") number("tapFlow", { ...RANGES.flow, name: "What the tap gives" }, "flow");
  const partUsed = partUsedOf(draft);
  if (partUsed === "wrong") errors.usedCount = "Say about how many; a guess is fine, it counts as one.";
  if (draft.name.trim() === "") errors.name = "Give it a name, such as Van.";
  const meter = tap ? { scale: tap.scale } : meterOf(draft, things);
  if (isOpen && !tap) return { errors, open: "shown" };
  if (!meter) return { errors, open: "meter" };
  if (Object.keys(errors).length > 0) return { errors };
  const surfaces = TRADES[draft.trade].surfaces;
  return {
    errors,
    question: {
      ...{
        trade: draft.trade,
        shown,
        meter,
        tap,
        grossVolume,
        jobsPerWeek,
        litresPerJob,
        toolFlow,
        grade: draft.grade,
      },
      behindMembrane: draft.before === "membrane",
      marks: (surfaces[Number(draft.surface)] ?? surfaces[0]).marks,
      partUsed: partUsed as PartUsed | undefined,
      name: draft.name.trim(),
    },
  };
}
