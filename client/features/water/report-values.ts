import {
  describeReport,
  isWithin,
  outOfRangeSentence,
  RANGES,
  type Range,
  type ReportAnswer,
  type ReportValues,
} from "@winter-bead/core";
import { typedNumber } from "../../ui/format";

export type ReportField = keyof ReportValues;

interface FieldOfReport {
  readonly name: ReportField;
  readonly label: string;
  readonly unit: string;
  readonly range: Range;
}

const ion = (name: ReportField, label: string): FieldOfReport => ({
  name,
  label,
  unit: "mg/L",
  range: { ...RANGES.ion, name: label },
});

/** The figures of a report in the order in which most reports have them. */
export const CATION_FIELDS: readonly FieldOfReport[] = [
  ion("ca", "Calcium"),
  ion("mg", "Magnesium"),
  ion("na", "Sodium"),
  ion("k", "Potassium"),
  ion("nh4", "Ammonium"),
];
export const ANION_FIELDS: readonly FieldOfReport[] = [
  { name: "alkalinity", label: "Alkalinity", unit: "mg/L CaCO3", range: RANGES.alkalinity },
  ion("cl", "Chloride"),
  ion("so4", "Sulfate"),
  ion("no3", "Nitrate"),
  ion("f", "Fluoride"),
];
export const OTHER_FIELDS: readonly FieldOfReport[] = [
  { name: "ph", label: "pH", unit: "", range: RANGES.ph },
  { name: "silica", label: "Silica", unit: "mg/L", range: RANGES.silica },
  {
    name: "chloramine",
    label: "Chloramine",
    unit: "mg/L Cl2",
    range: { ...RANGES.ion, name: "The chloramine", to: 50 },
  },
  { name: "co2", label: "CO2, if stated", unit: "mg/L", range: RANGES.co2 },
  {
    name: "ec25",
    label: "Conductivity",
    unit: "µS/cm",
    range: { ...RANGES.value, name: "The conductivity", unit: "µS/cm" },
  },
  { name: "temperature", label: "Temperature", unit: "°C", range: RANGES.temperature },
];
export const REPORT_FIELDS: readonly FieldOfReport[] = [...CATION_FIELDS, ...ANION_FIELDS, ...OTHER_FIELDS];

/** A report as typed. */
export type TypedReport = { readonly [field in ReportField]?: string };

export interface ReadTyped {
  readonly values: ReportValues;
  readonly errors: Partial<Record<ReportField, string>>;
  /** Absent until there is enough to say something. */
  readonly answer?: ReportAnswer;
}

/** Reads what was typed; a figure that is none has its sentence and the rest is read on. */
export function readTypedReport(typed: TypedReport): ReadTyped {
  const values: { [field in ReportField]?: number } = {};
  const errors: Partial<Record<ReportField, string>> = {};
  for (const { name, label, range } of REPORT_FIELDS) {
    const text = typed[name] ?? "";
    if (text.trim() === "") continue;
    const value = typedNumber(text);
    if (value === undefined) errors[name] = `${label} is not a number yet.`;
    else if (!isWithin(value, range)) errors[name] = outOfRangeSentence(range);
    else values[name] = value;
  }
  const answer = describeReport(values);
  return { values, errors, ...(answer.ok ? { answer: answer.value } : {}) };
}

/** Figures as text for the form. */
export const typedFrom = (values: ReportValues): TypedReport =>
  Object.fromEntries(
    REPORT_FIELDS.filter(({ name }) => values[name] !== undefined).map(({ name }) => [
      name,
      String(Number(values[name]!.toPrecision(6))),
    ]),
  );
