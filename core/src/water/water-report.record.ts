import { choice, date, group, note, number, optional, reference, text, type ValueOf } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { RANGES } from "../ranges";

const ion = (called: string) => optional(number(RANGES.ion, { called }));

/** What a water report holds, however it came: mg/L (nitrogen as the ion), µS/cm at 25 °C, °C; each may be missing. */
export const REPORT_VALUES = group(
  "The figures",
  {
    ca: ion("Calcium"),
    mg: ion("Magnesium"),
    na: ion("Sodium"),
    k: ion("Potassium"),
    nh4: ion("Ammonium"),
    cl: ion("Chloride"),
    so4: ion("Sulfate"),
    no3: ion("Nitrate"),
    f: ion("Fluoride"),
    /** As CaCO3. */
    alkalinity: optional(number(RANGES.alkalinity)),
    ph: optional(number(RANGES.ph, { label: "pH" })),
    /** As SiO2. */
    silica: optional(number(RANGES.silica)),
    /** Free, when the report states it. */
    co2: optional(number(RANGES.co2, { label: "CO2, if stated" })),
    /** Monochloramine as Cl2, or total chlorine where chloramine is used. */
    chloramine: optional(number({ ...RANGES.ion, unit: "mg/L as Cl2", to: 50 }, { called: "The chloramine" })),
    ec25: optional(number({ ...RANGES.value, unit: "µS/cm" }, { called: "The conductivity" })),
    temperature: optional(number(RANGES.temperature, { quantity: "temperature" })),
  },
  {
    rules: [
      {
        path: "",
        fault: "Enter at least one figure of the report.",
        holds: (it) => Object.values(it).some((value) => value !== undefined),
      },
    ],
  },
);
export interface ReportValues extends ValueOf<typeof REPORT_VALUES> {}

/** How an analysis came here. */
const SOURCE = choice(
  "How it came",
  { typed: "Typed", imported: "From a file", supplier: "From the supplier" },
  { fault: "A report is typed, imported or the supplier's." },
);
export type ReportSource = ValueOf<typeof SOURCE>;

/** An analysis of a tap's water. */
export const WATER_REPORT = kind({
  name: "water-reports",
  table: "water_report",
  one: "water report",
  many: "water reports",
  fields: {
    tapId: reference("taps", "The tap"),
    sampledOn: date("The day of the sample", { label: "Sampled on" }),
    source: SOURCE,
    /** The supplier's zone, or the laboratory. */
    origin: optional(text("Where the report comes from", { label: "From" })),
    values: REPORT_VALUES,
    note,
  },
  sample: {
    tapId: sampleId("taps"),
    sampledOn: "2027-02-14",
    source: "supplier",
    origin: "Zone 4",
    values: {
      ca: 62,
      mg: 8,
      na: 21,
      k: 2.5,
      nh4: 0.1,
      cl: 30,
      so4: 41,
      no3: 12,
      f: 0.2,
      alkalinity: 140,
      ph: 7.6,
      silica: 7,
      co2: 9,
      chloramine: 0.4,
      ec25: 431,
      temperature: 11.5,
    },
    note: "Spring sample.",
  },
});

export interface WaterReport extends RecordOf<typeof WATER_REPORT> {}
