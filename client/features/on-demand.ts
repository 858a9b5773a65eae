/**
 * What only a pressed button needs, in one piece that is fetched then: the checks of records and the files that go in and
 * out, with the packages they stand on. Import it with `import()` alone.
 */
export { complaintsOf } from "../forms/resolve";
export { openReportFile, reportCsv, reportJson } from "./water/report-file";
export { asPng, labCsv, picture } from "./lab/export";
export { calendarFile } from "@winter-bead/contract/src/calendar-file";
export { ordersCsv } from "./weeks/orders-file";
export { planCsv, planJson, planPdf } from "./size/plan-files";
