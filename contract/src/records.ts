import {
  RANGES,
  type Charge,
  type FeedTest,
  type MembraneCheck,
  type Meter,
  type Plan,
  type PriceList,
  type Rig,
  type Site,
  type Tap,
  type Vessel,
  type Visit,
  type WaterReport,
} from "@winter-bead/core";
import { z } from "zod";
import { optionSpec, planFigures, prices, sizeRequest } from "./size";
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
  checkedOn: date("The day of the check").optional(),
  check: known({
    standard: numberIn({ ...RANGES.value, name: "The standard", unit: "µS/cm" }),
    shown: numberIn({ ...RANGES.value, name: "What the meter showed" }),
  }).optional(),
  offset: numberIn({ ...RANGES.observed, name: "What it shows in pure water", to: 1_000 }).optional(),
}) satisfies Body<Meter>;

const stage = z.discriminatedUnion(
  "kind",
  [
    known({ kind: z.enum(["sediment", "carbon", "degasser"]) }),
    known({
      kind: z.literal("membrane"),
      rejection: numberIn({ name: "The membrane's rejection", unit: "as a share", from: 0, below: 1 }),
    }),
    known({ kind: z.literal("resin"), vesselId: id }),
  ],
  { error: "A stage is sediment, carbon, degasser, membrane or resin." },
);

const use = z.enum(["glass", "paint", "aquarium"], { error: "Say what the water is for: glass, paint or aquarium." });

const rig = known({
  name: text("The rig's name"),
  use,
  tapId: id,
  flow: numberIn(RANGES.flow),
  stages: z
    .array(stage, { error: "The stages must be a list." })
    .min(1, "A rig needs at least one stage.")
    .max(12, "At most 12 stages."),
  jobName: text("The job's name", 40),
  litresPerJob: numberIn({ ...RANGES.volume, name: "The litres of a job", to: 100_000 }),
  jobsPerWeek: numberIn(RANGES.jobsPerWeek).optional(),
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
  filledAt: instant("The time of the filling"),
  startTotal: total.optional(),
  ended: known({
    at: instant("The time it ended"),
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
    known({ by: z.literal("total"), total, replaced: flag.optional(), confirmed: flag.optional() }),
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

const whichScale = { meterId: id.optional(), scale: scale.optional() };
const NO_SCALE = {
  path: ["scale"],
  message: "Say which meter or which scale: a reading without a scale is ambiguous by 40 %.",
};
const hasScale = (it: { meterId?: unknown; scale?: unknown }) => it.meterId !== undefined || it.scale !== undefined;

const readingRecord = known({
  id,
  point: z.enum(["feed", "after-membrane", "output"], {
    error: "A reading is of the feed, after the membrane, or of the output.",
  }),
  ...whichScale,
  value: numberIn(RANGES.observed),
  temperature: numberIn(RANGES.temperature).optional(),
  confirmed: flag.optional(),
}).refine(hasScale, NO_SCALE);

const visit = known({
  rigId: id,
  tapId: id,
  at: instant("The time of the visit"),
  water: visitWater.optional(),
  readings: z
    .array(readingRecord, { error: "The readings must be a list." })
    .max(50, "At most 50 readings in one visit.")
    .refine((all) => new Set(all.map((each) => each.id.toLowerCase())).size === all.length, {
      message: "Two readings of this visit have the same id; give each its own.",
    }),
  note,
}).refine((it) => it.readings.length > 0 || it.water !== undefined, {
  path: ["readings"],
  message: "Log at least one reading or the water used.",
}) satisfies Body<Visit>;

const feedTest = known({
  tapId: id,
  at: instant("The time of the test"),
  ...whichScale,
  value: numberIn(RANGES.value),
  temperature: numberIn(RANGES.temperature).optional(),
  confirmed: flag.optional(),
  note,
}).refine(hasScale, NO_SCALE) satisfies Body<FeedTest>;

const milligrams = (name: string) => numberIn({ ...RANGES.ion, name }).optional();

/** Figures of an analysis, mg/L; each may be missing. */
export const reportValues = known({
  ca: milligrams("Calcium"),
  mg: milligrams("Magnesium"),
  na: milligrams("Sodium"),
  k: milligrams("Potassium"),
  nh4: milligrams("Ammonium"),
  cl: milligrams("Chloride"),
  so4: milligrams("Sulfate"),
  no3: milligrams("Nitrate"),
  f: milligrams("Fluoride"),
  alkalinity: numberIn(RANGES.alkalinity).optional(),
  ph: numberIn(RANGES.ph).optional(),
  silica: numberIn(RANGES.silica).optional(),
  co2: numberIn(RANGES.co2).optional(),
  chloramine: numberIn({ ...RANGES.ion, name: "The chloramine", to: 50 }).optional(),
  ec25: numberIn({ ...RANGES.value, name: "The conductivity", unit: "µS/cm" }).optional(),
  temperature: numberIn(RANGES.temperature).optional(),
}).refine((it) => Object.values(it).some((value) => value !== undefined), {
  message: "Enter at least one figure of the report.",
});

const waterReport = known({
  tapId: id,
  sampledOn: date("The day of the sample"),
  source: z.enum(["typed", "imported", "supplier"], { error: "A report is typed, imported or the supplier's." }),
  origin: text("Where the report comes from").optional(),
  values: reportValues,
  note,
}) satisfies Body<WaterReport>;

const pressure = numberIn(RANGES.pressure);
const membraneCheck = known({
  rigId: id,
  at: instant("The time of the check"),
  ...whichScale,
  feed: numberIn({ ...RANGES.value, name: "The feed" }),
  product: numberIn({ ...RANGES.observed, name: "The product" }),
  temperature: numberIn(RANGES.temperature),
  pressure,
  permeatePressure: pressure.optional(),
  productFlow: numberIn({ ...RANGES.flow, name: "The product's flow" }),
  wasteFlow: numberIn({ ...RANGES.flow, name: "The waste's flow" }),
  clean: flag,
  seen: known({
    "pressure-falls-running": flag.optional(),
    "sediment-old": flag.optional(),
    "carbon-old": flag.optional(),
    "chlorine-behind-carbon": flag.optional(),
    "membrane-old": flag.optional(),
  }).optional(),
  note,
})
  .refine(hasScale, NO_SCALE)
  .refine((it) => it.product <= it.feed, {
    path: ["product"],
    message: "The product reads above the feed: the two lines are swapped, or the readings are.",
  }) satisfies Body<MembraneCheck>;

const currency = z
  .string({ error: "Give the currency by its three letters, such as EUR." })
  .regex(/^[A-Z]{3}$/, "Give the currency by its three letters, such as EUR.");

const plan = known({
  name: text("The plan's name", 80),
  keptAt: instant("The time it was kept"),
  use,
  tapId: id,
  jobName: text("The job's name", 40),
  work: sizeRequest,
  option: optionSpec,
  expected: planFigures,
  currency,
  rigId: id.optional(),
  inUseSince: instant("The time since which it is in use").optional(),
  note,
}) satisfies Body<Plan>;

const priceList = known({ setOn: date("The day of the prices"), currency, prices }) satisfies Body<PriceList>;

/** What a request body must be for each kind of record; the id stands in the path. */
export const RECORDS = {
  sites: site,
  taps: tap,
  meters: meter,
  vessels: vessel,
  rigs: rig,
  charges: charge,
  visits: visit,
  "feed-tests": feedTest,
  "water-reports": waterReport,
  "membrane-checks": membraneCheck,
  plans: plan,
  "price-lists": priceList,
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
  "feed-tests": FeedTest;
  "water-reports": WaterReport;
  "membrane-checks": MembraneCheck;
  plans: Plan;
  "price-lists": PriceList;
}

const STARTED_FROM =
  "replaces must be the version that this edit started from, 1 or more; a new record goes without it.";

/** The version an edit started from, and whether this version takes the record back. */
export const revision = z.object({
  replaces: z.int({ error: STARTED_FROM }).min(1, STARTED_FROM).optional(),
  voided: flag.optional(),
});

/** A record as the server keeps it. */
export type Stored<T> = T & { readonly version: number; readonly voided: boolean };

export interface Page<T> {
  readonly items: readonly T[];
  /** Give it back as `after` for the next page; absent on the last. */
  readonly next?: string;
}
