import { z } from "zod";
import { date, text } from "./fields";

/** Water reports of a supplier, as they come over the wire: names and units are the supplier's own. */
export const reportLine = z.object({
  parameter: z.string().trim().min(1).max(80),
  value: z.union([z.number(), z.string().max(40)]),
  unit: z.string().max(40).optional(),
});

export const supplierZones = z
  .array(z.object({ id: z.string().min(1).max(80), name: z.string().min(1).max(120) }))
  .max(1000);

export const supplierReport = z.object({
  name: z.string().max(120).optional(),
  sampledOn: z.iso.date(),
  values: z.array(reportLine).max(200),
});

/** A report as a file: JSON as here, or CSV with the columns parameter, value, unit. */
export const reportFile = z.object({
  sampledOn: date("sampledOn").optional(),
  origin: text("Where the report comes from").optional(),
  values: z.array(reportLine, { error: "values must be a list of { parameter, value, unit }." }).max(200),
});

export type SupplierZone = z.infer<typeof supplierZones>[number];
export type SupplierReport = z.infer<typeof supplierReport>;
export type ReportFile = z.infer<typeof reportFile>;
