import { choice, date, instant, note, number, optional, reference, type ValueOf } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";

/** What can be set for a day. */
export const TASK = choice(
  "What is to be done",
  {
    refill: "Refill",
    sediment: "Change the sediment cartridge",
    carbon: "Change the carbon cartridge",
    membrane: "Change the membrane",
    seals: "Grease or renew O-rings and seals",
    strainer: "Clean the inlet strainer",
    meter: "Check the meter against a standard",
    order: "Order resin",
  },
  { fault: "Say what is to be done." },
);
export type Task = ValueOf<typeof TASK>;

const ANSWER = choice("The answer", { accepted: "Accepted", declined: "Declined" }, { fault: "Accepted or declined." });

/** A task that was set for a day, or a day that was declined for it. */
export const APPOINTMENT = kind({
  name: "appointments",
  table: "appointment",
  one: "appointment",
  many: "appointments",
  fields: {
    task: TASK,
    /** The rig it is for; of a meter, and of an order for several, there is none. */
    rigId: optional(reference("rigs", "The rig")),
    meterId: optional(reference("meters", "The meter")),
    on: date("The day it is set for", { label: "On" }),
    answer: ANSWER,
    /** When that was said. */
    answeredAt: instant("The time of the answer"),
    minutes: optional(number({ name: "The minutes it takes", unit: "min", from: 0, to: 1_000 }, { label: "Takes" })),
    note,
  },
  rules: [
    {
      path: "rigId",
      fault: "Say of which rig.",
      holds: (it) => it.task === "order" || (it.task === "meter" ? it.meterId : it.rigId) !== undefined,
    },
  ],
  sample: {
    task: "refill",
    rigId: sampleId("rigs"),
    meterId: sampleId("meters"),
    on: "2027-03-07",
    answer: "accepted",
    answeredAt: "2027-03-02T18:10:00.000Z",
    minutes: 25,
    note: "With the new seals.",
  },
});

export interface Appointment extends RecordOf<typeof APPOINTMENT> {}
