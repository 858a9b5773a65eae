import Papa from "papaparse";
import { csvComment, csvOf } from "../ui/csv";
import { ordersCsv } from "../features/weeks/orders-file";
import { reportCsv, openReportFile } from "../features/water/report-file";

const FORMULAS = [
  "=1+1",
  "+cmd|' /C calc'!A0",
  "-2+3",
  "@SUM(A1)",
  "\t=1",
  "\r=1",
  " =1",
  "＝1+1",
  "-5-",
  "+-5",
  "-A1",
];
const NUMBERS = ["-5", "+5", "-0.5", "-.5", "-1e-7", "+1E6", "-5,5", "12", "", "-5 "];

const cellsOf = (text: string) => Papa.parse<string[]>(text.trimEnd(), { skipEmptyLines: true }).data;

test.each(FORMULAS)("%j is text for whoever opens the file", (cell) => {
  const [, [read]] = cellsOf(csvOf([{ what: cell }])) as [string[], string[]];
  expect(read).toBe(`'${cell}`);
});

test.each(NUMBERS)("%j stays what it is", (cell) => {
  const [, row] = cellsOf(csvOf([{ what: cell, more: "." }]));
  expect(row![0]).toBe(cell);
});

test("a number is a number, below zero too", () => {
  const text = csvOf([{ what: -5, more: 0.25 }]);
  const { data } = Papa.parse<{ what: number }>(text, { header: true, dynamicTyping: true, skipEmptyLines: true });
  expect(data).toEqual([{ what: -5, more: 0.25 }]);
});

test("no part of a report's origin becomes a cell that is run, and its figures come back", () => {
  const text = reportCsv({ ca: 80, mg: 12 } as never, "2027-03-01", 'Zone 4, =HYPERLINK("x") ;+1\n=2');
  for (const cell of cellsOf(text).flat()) expect(cell).not.toMatch(/^\s*[=+@-]/);
  const opened = openReportFile(text);
  expect("report" in opened && opened.report.lines.map(({ value }) => Number(value))).toEqual([80, 12]);
  expect(csvComment("origin", "Plain, words")).toBe("# origin: Plain, words\n");
});

test("orders are litres and days, and read as such", () => {
  const line = { grade: "virgin" as const, form: "loose" as const, litres: 24.333, by: "2027-03-05", for: [] };
  const text = ordersCsv({ orders: [{ by: "2027-03-05", lines: [line] }] });
  const { data } = Papa.parse<Record<string, unknown>>(text, {
    header: true,
    dynamicTyping: true,
    skipEmptyLines: true,
  });
  expect(data[0]).toMatchObject({ delivery: 1, "litres, L": 24.33, resin: "virgin" });
});
