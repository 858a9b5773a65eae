import { date, note, number, optional, reference, text, variants, type ValueOf } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";

/** What is booked of a day: jobs of a kind, plain litres, or nothing at all. */
export const BOOKED = variants(
  "What is booked",
  "by",
  {
    jobs: {
      jobs: number({ name: "The jobs", unit: "", above: 0, to: 1_000 }),
      /** First clean, roof, big tank; the rig's usual job where it is left out. */
      jobName: optional(text("The job's kind", { most: 40, label: "Kind of job" })),
      litresEach: optional(
        number(
          { ...RANGES.volume, to: 100_000 },
          { called: "The litres of a job", label: "Water of each", quantity: "volume" },
        ),
      ),
    },
    litres: {
      litres: number({ ...RANGES.litres, above: 0 }, { called: "The water", label: "Water", quantity: "volume" }),
    },
    off: {},
  },
  { fault: "What is booked is jobs, litres, or a day off." },
);
export type Booked = ValueOf<typeof BOOKED>;

/** Work of a rig on one day, as it is booked. */
export const BOOKING = kind({
  name: "bookings",
  table: "booking",
  one: "booking",
  many: "bookings",
  fields: {
    rigId: reference("rigs", "The rig"),
    on: date("The day of the booking", { label: "On" }),
    booked: BOOKED,
    /** Whose, or where. */
    name: optional(text("What it is called", { label: "For" })),
    /** The event of a calendar that it came from, so that the same file brings it once. */
    fromCalendar: optional(text("The calendar's own name of it", { most: 400 })),
    note,
  },
  sample: {
    rigId: sampleId("rigs"),
    on: "2027-03-04",
    booked: { by: "jobs", jobs: 3, jobName: "first clean", litresEach: 95 },
    name: "Saltmarsh Row 4 to 8",
    fromCalendar: "round-12@calendar.invalid",
    note: "The gate is locked before nine.",
  },
  further: [
    { rigId: sampleId("rigs"), on: "2027-03-05", booked: { by: "litres", litres: 240 } },
    { rigId: sampleId("rigs"), on: "2027-03-08", booked: { by: "off" } },
  ],
});

export interface Booking extends RecordOf<typeof BOOKING> {}
