import { date, optional, reference, text } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";

/** Days without work: a holiday, a fair, a rig in the workshop. */
export const DAY_OFF = kind({
  name: "days-off",
  table: "day_off",
  one: "day off",
  many: "days off",
  fields: {
    /** Of one rig; of all where it is left out. */
    rigId: optional(reference("rigs", "The rig")),
    from: date("The first day off", { label: "From" }),
    until: date("The last day off", { label: "Until" }),
    name: optional(text("What it is for", { label: "For" })),
  },
  rules: [
    {
      path: "until",
      fault: "The last day off cannot come before the first.",
      holds: (it) => it.until >= it.from,
    },
  ],
  sample: { rigId: sampleId("rigs"), from: "2026-12-24", until: "2027-01-02", name: "Midwinter" },
});

export interface DayOff extends RecordOf<typeof DAY_OFF> {}
