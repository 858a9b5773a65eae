import {
  RANGES,
  type Charge,
  type Meter,
  type Rig,
  type Site,
  type Tap,
  type Vessel,
  type Visit,
} from "@winter-bead/core";
import { z } from "zod";
import { date, flag, grade, id, instant, known, note, numberIn, scale, text } from "./fields";

type Body<T> = z.ZodType<Omit<T, "id">>;

const site = known({ name: text("The site's name"), note }) satisfies Body<Site>;

const tap = known({
  siteId: id,
  name: text("The tap's name"),
  low: numberIn(RANGES.value),
  typical: numberIn(RANGES.value),
  high: numberIn(RANGES.value),
  scale,
  temperature: numberIn(RANGES.temperature).optional(),
  ph: numberIn(RANGES.ph).optional(),
  alkalinity: numberIn(RANGES.alkalinity).optional(),
  silica: numberIn(RANGES.silica).optional(),
}).refine((it) => it.low <= it.typical && it.typical <= it.high, {
  path: ["typical"],
  message: "The feed's low, typical and high must rise in that order.",
}) satisfies Body<Tap>;

const meter = known({
  name: text("The meter's name"),
  scale,
  compensated: flag,
  checkedOn: date.optional(),
}) satisfies Body<Meter>;

const stage = z.discriminatedUnion(
  "kind",
  [
    known({ kind: z.enum(["sediment", "carbon", "degasser"]) }),
    known({
      kind: z.literal("membrane"),
      rejection: z.number().min(0).lt(1, "The rejection must be from 0 to below 1, such as 0.95."),
    }),
    known({ kind: z.literal("resin"), vesselId: id }),
  ],
  { error: "A stage is sediment, carbon, degasser, membrane or resin." },
);

const rig = known({
  name: text("The rig's name"),
  use: z.enum(["glass", "paint", "aquarium"], { error: "Say what the water is for: glass, paint or aquarium." }),
  tapId: id,
  flow: numberIn(RANGES.flow),
  stages: z
    .array(stage, { error: "The stages must be a list." })
    .min(1, "A rig needs at least one stage.")
    .max(12, "At most 12 stages."),
  jobName: text("The job's name", 40),
  litresPerJob: numberIn({ ...RANGES.volume, name: "The litres of a job", to: 100_000 }),
  meterRollsOverAt: numberIn({ ...RANGES.litres, name: "The meter's last total", above: 0, to: 1e9 }).optional(),
}).refine((it) => it.stages.some((each) => each.kind === "resin"), {
  path: ["stages"],
  message: "A rig needs a resin vessel.",
}) satisfies Body<Rig>;

const mark = numberIn({ ...RANGES.value, name: "The mark" });
const marks = known({
  watch: mark,
  limit: mark,
  hard: mark,
  scale,
  capacityUsed: numberIn({ ...RANGES.share, above: 0, name: "The share of capacity" }).optional(),
}).refine((it) => it.watch <= it.limit && it.limit <= it.hard, {
  path: ["limit"],
  message: "Watch, limit and hard mark must rise in that order.",
});

const vessel = known({
  name: text("The vessel's name"),
  kind: z.enum(["screw-head-tank", "inner-seal-bottle", "floated-tank", "cartridge"], {
    error: "Choose the kind of vessel.",
  }),
  grossVolume: numberIn({ ...RANGES.volume, name: "The vessel's volume" }),
  diameter: numberIn(RANGES.diameter),
  emptyWeight: numberIn(RANGES.weight).optional(),
  fillFraction: numberIn({ ...RANGES.share, above: 0, name: "The fill" }),
  marks,
}) satisfies Body<Vessel>;

const total = numberIn({ ...RANGES.litres, name: "The meter total", to: 1e9 });
const stored = known({
  container: z.enum(["sealed-foil", "snap-lid-pail", "heat-resealed", "rolled-or-zip", "shrink-film", "left-open"], {
    error: "Say how the bag was kept.",
  }),
  months: numberIn(RANGES.months),
  warm: flag,
});

const charge = known({
  vesselId: id,
  rigId: id,
  grade,
  resinLitres: numberIn(RANGES.volume),
  packing: z.enum(["settled", "poured", "loose-cartridge"], {
    error: "Say how the beads lie: settled, poured or loose.",
  }),
  stored: stored.optional(),
  filledAt: instant,
  startTotal: total.optional(),
  ended: known({
    at: instant,
    why: z.enum(["limit", "early", "fault"], { error: "Say why it ended: limit, early or fault." }),
    note,
  }).optional(),
}).refine((it) => it.ended === undefined || Date.parse(it.ended.at) >= Date.parse(it.filledAt), {
  path: ["ended", "at"],
  message: "A charge cannot end before it was filled.",
}) satisfies Body<Charge>;

const visitWater = z.discriminatedUnion(
  "by",
  [
    known({ by: z.literal("total"), total, replaced: flag.optional() }),
    known({
      by: z.literal("timed"),
      minutes: numberIn({ name: "The minutes", unit: "min", from: 0, to: 100_000 }),
      flow: numberIn(RANGES.flow),
    }),
    known({
      by: z.literal("jobs"),
      jobs: numberIn({ name: "The jobs", unit: "", from: 0, to: 10_000 }),
      litresPerJob: numberIn({ ...RANGES.litres, name: "The litres of a job" }),
    }),
  ],
  { error: "Water is a meter total, minutes and flow, or jobs." },
);

const readingRecord = known({
  id,
  point: z.enum(["feed", "after-membrane", "output"], {
    error: "A reading is of the feed, after the membrane, or of the output.",
  }),
  meterId: id.optional(),
  scale: scale.optional(),
  value: numberIn(RANGES.observed),
  temperature: numberIn(RANGES.temperature).optional(),
}).refine((it) => it.meterId !== undefined || it.scale !== undefined, {
  path: ["scale"],
  message: "Say which meter or which scale: a reading without a scale is ambiguous by 40 %.",
});

const visit = known({
  rigId: id,
  tapId: id,
  at: instant,
  water: visitWater.optional(),
  readings: z
    .array(readingRecord, { error: "The readings must be a list." })
    .max(50, "At most 50 readings in one visit."),
  note,
}).refine((it) => it.readings.length > 0 || it.water !== undefined, {
  path: ["readings"],
  message: "Log at least one reading or the water used.",
}) satisfies Body<Visit>;

/** What a request body must be for each kind of record; the id stands in the path. */
export const RECORDS = {
  sites: site,
  taps: tap,
  meters: meter,
  vessels: vessel,
  rigs: rig,
  charges: charge,
  visits: visit,
} as const;

export type RecordKind = keyof typeof RECORDS;
export const RECORD_KINDS = Object.keys(RECORDS) as RecordKind[];

export interface RecordTypes {
  sites: Site;
  taps: Tap;
  meters: Meter;
  vessels: Vessel;
  rigs: Rig;
  charges: Charge;
  visits: Visit;
}

/** The version an edit started from, and whether this version takes the record back. */
export const revision = z.object({
  replaces: z.int({ error: "replaces must be a whole number." }).min(1).optional(),
  voided: flag.optional(),
});

/** A record as the server keeps it. */
export type Stored<T> = T & { readonly version: number; readonly voided: boolean };

export interface Page<T> {
  readonly items: readonly T[];
  /** Give it back as `after` for the next page; absent on the last. */
  readonly next?: string;
}
