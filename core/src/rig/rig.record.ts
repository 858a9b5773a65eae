import {
  choice,
  date,
  list,
  number,
  optional,
  ownId,
  reference,
  text,
  variants,
  type ValueOf,
} from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { USE } from "../vessel/marks";
import { besideOldRig, withStageIds } from "./first-shape";

/** Stays the same however the train is put together anew: arrangements and readings name it. */
const id = ownId("The stage's id");
const microns = optional(
  number({ name: "What it holds back", unit: "microns", above: 0, to: 500 }, { label: "Holds back from" }),
);

const STAGE = variants(
  "A stage",
  "kind",
  {
    sediment: { id, microns },
    carbon: {
      id,
      microns,
      /** By its data sheet. */
      chlorineGrams: optional(
        number({ name: "The chlorine it takes", unit: "g", above: 0, to: 1e6 }, { label: "Takes chlorine" }),
      ),
    },
    degasser: {
      id,
      /** Of a usual run. */
      hours: optional(
        number({ name: "The hours it is aerated", unit: "h", above: 0, to: 10_000 }, { label: "Aerated for" }),
      ),
    },
    membrane: {
      id,
      /** Share of the feed's ions held back, such as 0.95. */
      rejection: number(
        { name: "The membrane's rejection", unit: "as a share", from: 0, below: 1 },
        { quantity: "share" },
      ),
      /** What it makes by its plate. */
      ratedFlow: optional(number({ ...RANGES.flow, name: "The membrane's rated flow" }, { quantity: "flow" })),
      /** Of a second one: the first one's product, which it makes purer, or what that wastes, of which it makes more. */
      fedBy: optional(
        choice(
          "What feeds the membrane",
          { product: "The product of the one before", reject: "What the one before wastes" },
          { fault: "A membrane is fed by the product of the one before, or by what it wastes.", label: "Fed by" },
        ),
      ),
    },
    /** A place for a vessel; which one stands there when is told by arrangements. */
    resin: { id },
  },
  { fault: "A stage is sediment, carbon, degasser, membrane or resin." },
);

/** One stage of a train, in the order the water meets them. */
export type Stage = ValueOf<typeof STAGE>;

/** A train of stages as it is taken to work. */
export const RIG = kind({
  name: "rigs",
  table: "rig",
  one: "rig",
  many: "rigs",
  fields: {
    name: text("The rig's name", { label: "Name of the rig" }),
    use: USE,
    tapId: reference("taps", "The tap it usually hangs on", { label: "Tap" }),
    /** Usual flow through the resin. */
    flow: number(RANGES.flow, { quantity: "flow" }),
    stages: list("The stages", STAGE, {
      least: 1,
      most: 12,
      tooFew: "A rig needs at least one stage.",
      tooMany: "At most 12 stages.",
    }),
    /** House, car, water change. */
    jobName: text("The job's name", { most: 40, label: "A job is called" }),
    litresPerJob: number(
      { ...RANGES.volume, to: 100_000 },
      { called: "The litres of a job", label: "Water of a job", quantity: "volume" },
    ),
    /** Of a usual week, as stated: a date before the first log. */
    jobsPerWeek: optional(number(RANGES.jobsPerWeek)),
    /** Litres at which the rig's water meter starts again from 0. */
    meterRollsOverAt: optional(
      number({ ...RANGES.litres, above: 0, to: 1e9 }, { called: "The meter's last total", quantity: "volume" }),
    ),
    retiredOn: optional(date("The day it was retired", { label: "Retired on" })),
  },
  rules: [
    {
      path: "stages",
      fault: "A rig needs a resin vessel.",
      holds: (it) => it.stages.some((each) => each.kind === "resin"),
    },
    {
      path: "stages",
      fault: "Two stages of this rig have the same id; give each its own.",
      holds: ({ stages }) => new Set(stages.map((each) => each.id.toLowerCase())).size === stages.length,
    },
  ],
  upcasts: [withStageIds],
  beside: besideOldRig,
  sample: {
    name: "Barrow",
    use: "aquarium",
    tapId: sampleId("taps"),
    flow: 2.75,
    stages: [
      { id: sampleId("stage", 1), kind: "sediment", microns: 5 },
      { id: sampleId("stage", 2), kind: "carbon", microns: 5, chlorineGrams: 60 },
      { id: sampleId("stage", 3), kind: "membrane", rejection: 0.955, ratedFlow: 1.3, fedBy: "product" },
      { id: sampleId("stage", 4), kind: "degasser", hours: 8 },
      { id: sampleId("stage", 5), kind: "resin" },
      { id: sampleId("stage", 6), kind: "resin" },
    ],
    jobName: "water change",
    litresPerJob: 45.5,
    jobsPerWeek: 7,
    meterRollsOverAt: 100_000,
    retiredOn: "2027-11-01",
  },
});

export interface Rig extends RecordOf<typeof RIG> {}
