import {
  choice,
  flag,
  group,
  instant,
  list,
  note,
  number,
  optional,
  ownId,
  reference,
  variants,
  type ValueOf,
} from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { HAS_SCALE, WHICH_SCALE } from "../water/which-scale";

const confirmed = optional(flag("Looked at again and right, however far it is from usual"));

/** Water used in one visit, as it was known. */
const VISIT_WATER = variants(
  "The water used",
  "by",
  {
    total: {
      total: number({ ...RANGES.litres, to: 1e9 }, { called: "The meter total", quantity: "volume" }),
      replaced: optional(flag("A new meter that started at 0")),
      confirmed,
    },
    timed: {
      minutes: number({ name: "The minutes", unit: "min", from: 0, to: 100_000 }),
      flow: number(RANGES.flow, { quantity: "flow" }),
    },
    jobs: {
      jobs: number({ name: "The jobs", unit: "", from: 0, to: 10_000 }),
      litresPerJob: number(RANGES.litres, { called: "The litres of a job", quantity: "volume" }),
    },
  },
  { fault: "Water is a meter total, minutes and flow, or jobs." },
);
export type VisitWater = ValueOf<typeof VISIT_WATER>;

/** Where in the train a reading was taken. */
const POINT = choice(
  "The point",
  { feed: "Feed", "after-carbon": "After the carbon", "after-membrane": "After the membrane", output: "Output" },
  { fault: "A reading is of the feed, after the carbon, after the membrane, or of the output." },
);
export type ReadingPoint = ValueOf<typeof POINT>;

/** What was seen at one point. */
const READING = group(
  "A reading",
  {
    id: ownId("The reading's id"),
    point: POINT,
    /** The stage it was read behind; of an output without one: behind the last vessel. */
    stageId: optional(ownId("The stage it was read behind")),
    ...WHICH_SCALE,
    value: number(RANGES.observed, { label: "Reading" }),
    temperature: optional(number(RANGES.temperature, { quantity: "temperature" })),
    confirmed,
  },
  { rules: [HAS_SCALE] },
);
export interface ReadingRecord extends ValueOf<typeof READING> {}

/** One hook-up of a rig at a tap. */
export const VISIT = kind({
  name: "visits",
  table: "visit",
  one: "visit",
  many: "visits",
  logged: true,
  fields: {
    rigId: reference("rigs", "The rig"),
    tapId: reference("taps", "The tap"),
    at: instant("The time of the visit", { label: "When" }),
    water: optional(VISIT_WATER),
    readings: list("The readings", READING, {
      table: "reading",
      least: 0,
      most: 50,
      tooFew: "",
      tooMany: "At most 50 readings in one visit.",
    }),
    note,
  },
  rules: [
    {
      path: "readings",
      fault: "Two readings of this visit have the same id; give each its own.",
      holds: ({ readings }) => new Set(readings.map((each) => each.id.toLowerCase())).size === readings.length,
    },
    {
      path: "readings",
      fault: "Log at least one reading or the water used.",
      holds: (it) => it.readings.length > 0 || it.water !== undefined,
    },
  ],
  sample: {
    rigId: sampleId("rigs"),
    tapId: sampleId("taps"),
    at: "2027-03-02T16:30:00.500Z",
    water: { by: "total", total: 1234.5, replaced: true, confirmed: true },
    readings: [
      {
        id: sampleId("reading", 1),
        point: "feed",
        meterId: sampleId("meters"),
        scale: 0.64,
        value: 161,
        temperature: 12.5,
        confirmed: true,
      },
      { id: sampleId("reading", 2), point: "after-membrane", stageId: sampleId("stage", 3), scale: "nacl", value: 7.5 },
      { id: sampleId("reading", 3), point: "output", meterId: sampleId("meters"), value: 0 },
    ],
    note: "Two rinses before.",
  },
  further: [
    {
      rigId: sampleId("rigs"),
      tapId: sampleId("taps"),
      at: "2027-03-03T16:30:00.000Z",
      water: { by: "timed", minutes: 42, flow: 2.5 },
      readings: [],
    },
    {
      rigId: sampleId("rigs"),
      tapId: sampleId("taps"),
      at: "2027-03-04T16:30:00.000Z",
      water: { by: "jobs", jobs: 3, litresPerJob: 55 },
      readings: [],
    },
  ],
});

export interface Visit extends RecordOf<typeof VISIT> {}
