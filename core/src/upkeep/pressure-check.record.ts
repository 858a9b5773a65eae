import { instant, note, number, optional, reference } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";

/**
 * What gauges and a strip tell of the cartridges before a rig: read while water runs and while it stands, which differ; and
 * the chlorine behind the carbon. Whatever was read is kept.
 */
export const PRESSURE_CHECK = kind({
  name: "pressure-checks",
  table: "pressure_check",
  one: "pressure check",
  many: "pressure checks",
  fields: {
    rigId: reference("rigs", "The rig"),
    at: instant("The time of the check", { label: "When" }),
    before: optional(
      number(RANGES.pressure, {
        called: "The pressure before the cartridge",
        label: "Before the cartridge, running",
        quantity: "pressure",
      }),
    ),
    behind: optional(
      number(RANGES.pressure, {
        called: "The pressure behind the cartridge",
        label: "Behind it, running",
        quantity: "pressure",
      }),
    ),
    /** With the outlet shut. */
    standing: optional(
      number(RANGES.pressure, {
        called: "The pressure of standing water",
        label: "Before it, standing",
        quantity: "pressure",
      }),
    ),
    chlorine: optional(
      number(
        { name: "The chlorine behind the carbon", unit: "mg/L", from: 0, to: 50 },
        { label: "Chlorine behind the carbon" },
      ),
    ),
    note,
  },
  rules: [
    {
      path: "behind",
      fault: "The pressure behind a cartridge is never above that before it: the two are swapped, or a gauge is off.",
      holds: ({ before, behind }) => before === undefined || behind === undefined || behind <= before,
    },
    {
      path: "before",
      fault: "Running, the pressure is never above that of standing water: the two are swapped.",
      holds: ({ before, standing }) => before === undefined || standing === undefined || before <= standing,
    },
    {
      path: "before",
      fault: "Keep at least one figure.",
      holds: ({ before, behind, standing, chlorine }) =>
        [before, behind, standing, chlorine].some((each) => each !== undefined),
    },
  ],
  sample: {
    rigId: sampleId("rigs"),
    at: "2027-02-15T07:40:00.000Z",
    before: 340,
    behind: 295,
    standing: 410,
    chlorine: 0.1,
    note: "At the full flow of the brush.",
  },
});

export interface PressureCheck extends RecordOf<typeof PRESSURE_CHECK> {}
