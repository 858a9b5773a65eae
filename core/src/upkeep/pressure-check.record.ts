import { instant, note, number, reference } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";

/** Two gauges read while water runs: before and behind a rig's sediment cartridge. */
export const PRESSURE_CHECK = kind({
  name: "pressure-checks",
  table: "pressure_check",
  one: "pressure check",
  many: "pressure checks",
  fields: {
    rigId: reference("rigs", "The rig"),
    at: instant("The time of the check", { label: "When" }),
    before: number(RANGES.pressure, {
      called: "The pressure before the cartridge",
      label: "Before the cartridge, running",
      quantity: "pressure",
    }),
    behind: number(RANGES.pressure, {
      called: "The pressure behind the cartridge",
      label: "Behind it, running",
      quantity: "pressure",
    }),
    note,
  },
  rules: [
    {
      path: "behind",
      fault: "The pressure behind a cartridge is never above that before it: the two are swapped, or a gauge is off.",
      holds: (it) => it.behind <= it.before,
    },
  ],
  sample: {
    rigId: sampleId("rigs"),
    at: "2027-02-15T07:40:00.000Z",
    before: 340,
    behind: 295,
    note: "At the full flow of the brush.",
  },
});

export interface PressureCheck extends RecordOf<typeof PRESSURE_CHECK> {}
