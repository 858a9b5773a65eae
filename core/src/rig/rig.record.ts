import { date, list, number, optional, reference, text, variants, type ValueOf } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";
import { USE } from "../vessel/marks";

const STAGE = variants(
  "A stage",
  "kind",
  {
    sediment: {},
    carbon: {},
    degasser: {},
    membrane: {
      /** Share of the feed's ions held back, such as 0.95. */
      rejection: number(
        { name: "The membrane's rejection", unit: "as a share", from: 0, below: 1 },
        { quantity: "share" },
      ),
    },
    resin: { vesselId: reference("vessels", "The vessel") },
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
  ],
  sample: {
    name: "Barrow",
    use: "aquarium",
    tapId: sampleId("taps"),
    flow: 2.75,
    stages: [
      { kind: "sediment" },
      { kind: "carbon" },
      { kind: "membrane", rejection: 0.955 },
      { kind: "degasser" },
      { kind: "resin", vesselId: sampleId("vessels") },
    ],
    jobName: "water change",
    litresPerJob: 45.5,
    jobsPerWeek: 7,
    meterRollsOverAt: 100_000,
    retiredOn: "2027-11-01",
  },
});

export interface Rig extends RecordOf<typeof RIG> {}
