import {
  choice,
  date,
  flag,
  group,
  instant,
  note,
  number,
  optional,
  ownId,
  reference,
  text,
  type ValueOf,
} from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { GRADE } from "../resin/capacity";
import { HAS_SCALE, WHICH_SCALE } from "../water/which-scale";
import { WAYS } from "./ways";

/** What hands are led through. */
export const GUIDED = choice(
  "What is done",
  {
    refill: "Refill",
    early: "Change it early, on purpose",
    emergency: "Refill at a site",
    "top-up": "Top it up",
    swap: "Swap in a vessel from the pool",
    exchange: "Exchange by a service company",
    sediment: "Change the sediment cartridge",
    carbon: "Change the carbon cartridge",
    membrane: "Change the membrane",
  },
  { fault: "Say what is done.", label: "What is done" },
);
export type Guided = ValueOf<typeof GUIDED>;

/** How one step ended, or how the whole did. */
const OUTCOME = choice(
  "How it went",
  {
    done: "Done",
    skipped: "Left out",
    failed: "Did not go well",
    waiting: "A time is running",
    finished: "All of it is done",
    reopened: "Not ended after all",
    "given-up": "Given up",
  },
  { fault: "Say how the step went." },
);
export type Outcome = ValueOf<typeof OUTCOME>;

/** What a cartridge that comes out looks like. */
export const LOOK = choice(
  "What it looks like",
  { clean: "Clean", rust: "Rusty", slime: "Slimy", clogged: "Clogged", damaged: "Damaged" },
  { fault: "Say what it looks like." },
);
export type Look = ValueOf<typeof LOOK>;

const counted = (called: string, label: string) =>
  optional(number({ name: called, unit: "", from: 0, to: 50 }, { label }));

/** What was read, counted and measured at a step. */
const FOUND = group("What was found", {
  /** Loose parts of the vessel, and tools. */
  parts: counted("The loose parts", "Loose parts"),
  tools: counted("The tools", "Tools"),
  output: optional(
    group(
      "The reading",
      {
        ...WHICH_SCALE,
        value: number(RANGES.observed, { label: "Reads" }),
        temperature: optional(number(RANGES.temperature, { quantity: "temperature" })),
      },
      { rules: [HAS_SCALE] },
    ),
  ),
  total: optional(
    number({ ...RANGES.litres, to: 1e9 }, { called: "The meter total", label: "Water meter", quantity: "volume" }),
  ),
  resinLitres: optional(number(RANGES.volume, { label: "Resin put in", quantity: "resinVolume" })),
  grade: optional(GRADE),
  /** Pure water was at hand for wetting. */
  pureWater: optional(flag("Wetted with pure water")),
  newSeals: optional(flag("Seals were renewed")),
  look: optional(LOOK),
  /** A new membrane's first figures, beside its product. */
  baseline: optional(
    group("The first figures", {
      feed: optional(number(RANGES.value, { called: "The feed", label: "Feed" })),
      temperature: optional(number(RANGES.temperature, { quantity: "temperature" })),
      pressure: optional(number(RANGES.pressure, { label: "Pressure before it, running", quantity: "pressure" })),
      productFlow: optional(number(RANGES.flow, { called: "The product's flow", label: "Product", quantity: "flow" })),
      wasteFlow: optional(number(RANGES.flow, { called: "The waste's flow", label: "Waste", quantity: "flow" })),
    }),
  ),
  /** The vessel that comes in from the pool, and when it was filled. */
  vesselId: optional(reference("vessels", "The vessel that comes in")),
  filledOn: optional(date("The day it was filled", { label: "Filled on" })),
});
export type Found = ValueOf<typeof FOUND>;

/**
 * One done step of guided work. Each is a record of its own, so that two phones at one vessel never conflict; the steps of
 * one piece of work carry one id, which every phone makes the same from what the work is done to.
 */
export const REFILL_STEP = kind({
  name: "refill-steps",
  table: "refill_step",
  one: "step of a refill",
  many: "steps of refills",
  fields: {
    /** The piece of work that it belongs to. */
    workId: ownId("The id of the work"),
    guided: GUIDED,
    rigId: reference("rigs", "The rig"),
    vesselId: optional(reference("vessels", "The vessel")),
    /** Which step: `fill`. */
    step: text("The step", { most: 40 }),
    outcome: OUTCOME,
    at: instant("The time of the step", { label: "When" }),
    /** When a running time is over. */
    until: optional(instant("When the time is over")),
    /** The school that this crew follows from here on. */
    ways: optional(WAYS),
    found: optional(FOUND),
    /** Why it was left out, or what went wrong. */
    note,
  },
  rules: [
    {
      path: "until",
      fault: "Say when the time is over.",
      holds: (it) => it.outcome !== "waiting" || it.until !== undefined,
    },
    {
      path: "note",
      fault: "Say why it is left out.",
      holds: (it) => it.outcome !== "skipped" || (it.note ?? "").trim() !== "",
    },
  ],
  sample: {
    workId: sampleId("work"),
    guided: "refill",
    rigId: sampleId("rigs"),
    vesselId: sampleId("vessels"),
    step: "fill",
    outcome: "done",
    at: "2027-03-07T08:20:00.000Z",
    until: "2027-03-07T08:30:00.000Z",
    ways: {
      riser: "first",
      fill: "scoop",
      drain: "wet",
      empty: "hose",
      position: "laid",
      mount: "alone",
      scoop: 0.75,
      fillTo: 0.85,
    },
    found: {
      parts: 4,
      tools: 7,
      output: { meterId: sampleId("meters"), scale: "nacl", value: 12, temperature: 11.5 },
      total: 48_210.5,
      resinLitres: 23.5,
      grade: "virgin",
      pureWater: true,
      newSeals: true,
      look: "rust",
      baseline: { feed: 420, temperature: 14, pressure: 380, productFlow: 0.26, wasteFlow: 0.78 },
      vesselId: sampleId("vessels"),
      filledOn: "2027-03-01",
    },
    note: "A little at a time.",
  },
});

export interface RefillStep extends RecordOf<typeof REFILL_STEP> {}
