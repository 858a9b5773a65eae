import { reportFile } from "@winter-bead/contract/src/supplier";
import { fieldErrorsOf } from "@winter-bead/contract/src/problem";
import { REPORT_VALUES, type ReportLine, type ReportValues } from "@winter-bead/core";
import Papa from "papaparse";
import { csvComment, csvOf } from "../../ui/csv";
import { labelOf, type NumberField } from "@winter-bead/core/src/descriptor/field";
import { REPORT_FIELDS, type ReportField } from "./report-fields";

export interface OpenedReport {
  readonly lines: readonly ReportLine[];
  readonly sampledOn?: string | undefined;
  readonly origin?: string | undefined;
}

export type Opened = { readonly report: OpenedReport } | { readonly trouble: string };

const LARGEST = 200_000;

/** Opens a report file: JSON `{ sampledOn, origin, values: [{ parameter, value, unit }] }`, or CSV with these columns. */
export function openReportFile(text: string): Opened {
  if (text.length > LARGEST) return { trouble: "This file is far too long for a water report." };
  return /^\s*[{[]/.test(text) ? openJson(text) : openCsv(text);
}

function openJson(text: string): Opened {
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    return { trouble: "This file looks like JSON but is cut short or damaged; get it again." };
  }
  const checked = reportFile.safeParse(Array.isArray(body) ? { values: body } : body);
  if (checked.success) return { report: { ...checked.data, lines: checked.data.values } };
  const [first] = fieldErrorsOf(checked.error);
  return { trouble: `This file is not as described: ${first?.path ? `${first.path}: ` : ""}${first?.message ?? ""}` };
}

const commentOf = (text: string, name: string) =>
  new RegExp(`^#\\s*${name}\\s*[:,]\\s*(.+?)[,;\\s]*$`, "im").exec(text)?.[1];

function openCsv(text: string): Opened {
  const { data } = Papa.parse<Record<string, string | undefined>>(text.replace(/^\uFEFF/, ""), {
    header: true,
    comments: "#",
    skipEmptyLines: "greedy",
    transformHeader: (header) => header.trim().toLowerCase(),
  });
  const rows = data.filter((row) => row["parameter"]?.trim());
  if (rows.length === 0)
    return { trouble: "No line with the columns parameter, value, unit was found; the template shows how." };
  const lines = rows
    .filter((row) => (row["value"] ?? "").trim() !== "")
    .map((row) => ({ parameter: row["parameter"]!.trim(), value: row["value"]!, unit: row["unit"]?.trim() }));
  if (lines.length === 0) return { trouble: "Every value in this file is empty." };
  const sampledOn = commentOf(text, "sampled on");
  return {
    report: {
      lines,
      ...(sampledOn && /^\d{4}-\d\d-\d\d$/.test(sampledOn) ? { sampledOn } : {}),
      origin: commentOf(text, "origin"),
    },
  };
}

/** A figure as a file names it, with its unit. */
function inFile(name: ReportField): { readonly parameter: string; readonly unit: string } {
  const field: NumberField = REPORT_VALUES.fields[name];
  return { parameter: labelOf(field).replace(/,.*/, ""), unit: field.range.unit };
}

/** A report as CSV; without figures it is the template. A cell that a spreadsheet would take for a formula is made text. */
export function reportCsv(values: ReportValues, sampledOn: string, origin: string): string {
  const rows = REPORT_FIELDS.map((name) => {
    const { parameter, unit } = inFile(name);
    return { parameter, value: values[name] ?? "", unit };
  });
  return csvComment("sampled on", sampledOn) + csvComment("origin", origin) + csvOf(rows);
}

/** The same as JSON. */
export const reportJson = (values: ReportValues, sampledOn: string, origin: string): string =>
  `${JSON.stringify(
    {
      sampledOn,
      ...(origin === "" ? {} : { origin }),
      values: REPORT_FIELDS.filter((name) => values[name] !== undefined).map((name) => {
        const { parameter, unit } = inFile(name);
        return { parameter, value: values[name]!, unit };
      }),
    },
    undefined,
    2,
  )}\n`;
