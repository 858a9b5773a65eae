import { date, flag, group, number, optional, scale, text } from "../descriptor/field";
import { kind, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";

/** A meter of the crew's: its scale is what makes its numbers mean something. */
export const METER = kind({
  name: "meters",
  table: "meter",
  one: "meter",
  many: "meters",
  fields: {
    name: text("The meter's name", { label: "Name" }),
    scale: scale("The meter's scale", { label: "Scale" }),
    compensated: flag("Corrects to 25 °C by itself"),
    checkedOn: optional(date("The day of the check", { label: "Last checked against a standard" })),
    /** What that check found: the standard's µS/cm at 25 °C, and what the meter showed in it on its own scale. */
    check: optional(
      group("What the check found", {
        standard: number({ ...RANGES.value, unit: "µS/cm" }, { called: "The standard" }),
        shown: number(RANGES.value, { called: "What the meter showed" }),
      }),
    ),
    /** On its own scale; taken off every reading. */
    offset: optional(number({ ...RANGES.observed, to: 1_000 }, { called: "What it shows in pure water" })),
    retiredOn: optional(date("The day it was retired", { label: "Retired on" })),
  },
  sample: {
    name: "Pen with a cap",
    scale: "442",
    compensated: false,
    checkedOn: "2027-02-01",
    check: { standard: 1413, shown: 960.5 },
    offset: 0.4,
    retiredOn: "2027-08-01",
  },
  further: [{ name: "Bench meter", scale: 0.64, compensated: true }],
});

export interface Meter extends RecordOf<typeof METER> {}
