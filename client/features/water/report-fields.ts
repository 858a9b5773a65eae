import type { ReportValues } from "@winter-bead/core";

export type ReportField = keyof ReportValues;

/** The figures of a report in the order in which most reports have them. */
export const CATION_FIELDS: readonly ReportField[] = ["ca", "mg", "na", "k", "nh4"];
export const ANION_FIELDS: readonly ReportField[] = ["alkalinity", "cl", "so4", "no3", "f"];
export const OTHER_FIELDS: readonly ReportField[] = ["ph", "silica", "chloramine", "co2", "ec25", "temperature"];
export const REPORT_FIELDS: readonly ReportField[] = [...CATION_FIELDS, ...ANION_FIELDS, ...OTHER_FIELDS];
