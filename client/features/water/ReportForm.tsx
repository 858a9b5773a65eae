import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import {
  describeReport,
  readReport,
  REPORT_VALUES,
  type ReportComplaint,
  type ReportValues,
  type Tap,
  type WaterReport,
} from "@winter-bead/core";
import { useMemo, useState } from "react";
import type { Kept } from "../../data/api";
import { change, keep } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { textsOf } from "../../forms/texts";
import { useRecordForm } from "../../forms/useRecordForm";
import { Card, Choice, TextButton } from "../../ui/boxes";
import { download, FilePicker } from "../../ui/files";
import { FieldRow } from "../../ui/fields";
import { dayOf, localDate } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { onDemand } from "../on-demand-piece";
import { HiddenLoadPart } from "./HiddenLoad";
import { ANION_FIELDS, CATION_FIELDS, OTHER_FIELDS, type ReportField } from "./report-fields";
import type { OpenedReport } from "./report-file";
import { ReportSummary } from "./ReportSummary";
import { SupplierPart } from "./SupplierPart";

const WAYS = [
  { value: "typed", label: "Type it" },
  { value: "imported", label: "Open a file" },
  { value: "supplier", label: "Fetch it" },
] as const;

/** What came with a file or from the supplier and could not be used, line by line. */
interface LeftOut {
  readonly complaints: readonly ReportComplaint[];
  readonly ignored: readonly string[];
}

const NOTHING_LEFT_OUT: LeftOut = { complaints: [], ignored: [] };

function LeftOutPart({ complaints, ignored }: LeftOut) {
  if (complaints.length + ignored.length === 0) return null;
  return (
    <Card borderColor={complaints.length > 0 ? "$rowan" : "$line"} testID="left-out">
      {complaints.length > 0 ? <Strong>Not taken over; what you typed before stands</Strong> : null}
      {complaints.map(({ parameter, message }) => (
        <Body key={parameter + message} role="alert">
          {message}
        </Body>
      ))}
      {ignored.length > 0 ? <Small>{`Not needed here: ${ignored.slice(0, 12).join(", ")}.`}</Small> : null}
    </Card>
  );
}

const at = (field: ReportField) => `report.values.${field}`;

/** The report as it stands on the screen, and everything that can be done with it. */
function useReport(tap: Tap, report: Kept<"water-reports"> | undefined) {
  const parts = useMemo(
    () => ({
      report: {
        kind: "water-reports" as const,
        before: report ?? { tapId: tap.id, sampledOn: localDate(clockNow()), source: "typed" },
      },
    }),
    [tap.id, report],
  );
  const form = useRecordForm({ name: `report:${report?.id ?? tap.id}`, parts, places: { "report.values": at("ca") } });
  const [leftOut, setLeftOut] = useState<LeftOut>(NOTHING_LEFT_OUT);
  const [trouble, setTrouble] = useState<string>();
  const body = form.bodiesNow()["report"] as unknown as WaterReport;
  // A figure that is none yet is left out of what is judged.
  const values = Object.fromEntries(
    Object.entries(body.values).filter(([, value]) => Number.isFinite(value)),
  ) as ReportValues;
  const set = (path: string, text: string) => form.setValue(path as never, text as never);

  const take = (opened: OpenedReport) => {
    const found = readReport(opened.lines);
    setLeftOut(found);
    setTrouble(undefined);
    const texts = textsOf(REPORT_VALUES.fields, found.values as Record<string, unknown>, form.units);
    for (const [field, text] of Object.entries(texts)) if (text !== "") set(`report.values.${field}`, String(text));
    if (opened.sampledOn) set("report.sampledOn", opened.sampledOn);
    if (opened.origin) set("report.origin", opened.origin);
  };
  const open = async (file: File) => {
    const { openReportFile } = await onDemand();
    const opened = openReportFile(await file.text());
    if ("trouble" in opened) setTrouble(opened.trouble);
    else take(opened.report);
  };
  const saveFile = async (format: "csv" | "json", figures: ReportValues) => {
    const { reportCsv, reportJson } = await onDemand();
    const name = `water-report-${body.sampledOn}.${format}`;
    const write = format === "csv" ? reportCsv : reportJson;
    const text = write(figures, body.sampledOn, body.origin ?? "");
    download(name, text, format === "csv" ? "text/csv" : "application/json");
  };
  const save = () =>
    keepTyped(form, async (bodies) => {
      const typed = bodies["report"] as unknown as WaterReport;
      const done = await (report ? change("water-reports", report, typed) : keep("water-reports", typed));
      const words = `${report ? "Corrected" : "Kept"}: the report of ${dayOf(typed.sampledOn)} for ${tap.name}.`;
      return { ...done, words, away: `/water/${tap.id}` };
    });
  const empty = () => {
    for (const field of Object.keys(REPORT_VALUES.fields)) set(`report.values.${field}`, "");
    setLeftOut(NOTHING_LEFT_OUT);
    setTrouble(undefined);
  };
  return { form, body, values, leftOut, trouble, take, open, saveFile, save, empty, set };
}

type Report = ReturnType<typeof useReport>;

/** The ways by which figures come other than by typing. */
function Ways({ report }: { readonly report: Report }) {
  const { body, set, open, saveFile, take, leftOut } = report;
  return (
    <View gap="$4">
      <Choice
        label="How it comes"
        value={body.source}
        options={WAYS}
        onChange={(source) => set("report.source", source)}
      />
      {body.source === "imported" ? (
        <View gap="$2">
          <FilePicker
            label="Open a CSV or JSON file"
            accept=".csv,.json,text/csv,application/json"
            onFile={(file) => void open(file)}
            testID="report-file"
          />
          <TextButton onPress={() => void saveFile("csv", {})} testID="template">
            Get the template
          </TextButton>
        </View>
      ) : null}
      {body.source === "supplier" ? <SupplierPart on={body.sampledOn} onReport={take} /> : null}
      <LeftOutPart {...leftOut} />
    </View>
  );
}

function Fields({ report: { form } }: { readonly report: Report }) {
  const field = (name: ReportField) => (
    <RecordField key={name} form={form} path={at(name)} live testID={`report-${name}`} />
  );
  return (
    <View gap="$4">
      <Heading>Cations</Heading>
      <FieldRow>{CATION_FIELDS.map(field)}</FieldRow>
      <Heading>Anions</Heading>
      <FieldRow>{ANION_FIELDS.map(field)}</FieldRow>
      <Heading>Beside the ions</Heading>
      <FieldRow>{OTHER_FIELDS.map(field)}</FieldRow>
    </View>
  );
}

/** An analysis of a tap's water: typed, opened or fetched, judged while it is entered; corrected and taken back later. */
export function ReportForm({
  tap,
  report: known,
}: {
  readonly tap: Tap;
  readonly report?: Kept<"water-reports"> | undefined;
}) {
  const wide = useWide();
  const report = useReport(tap, known);
  const { form, values, trouble, saveFile, save, empty } = report;
  const answer = describeReport(values);
  const judged = answer.ok ? (
    <View gap="$4" testID="report-answer">
      <ReportSummary answer={answer.value} values={values} />
      <HiddenLoadPart answer={answer.value} values={values} />
    </View>
  ) : (
    <Body color="$soft">Enter the conductivity or some ions, and you see here whether they fit together.</Body>
  );
  return (
    <Screen title={`Water report of ${tap.name}`} detail={wide ? judged : undefined}>
      <RecordForm form={form}>
        {known ? null : <Ways report={report} />}
        <View flexDirection="row" gap="$3" flexWrap="wrap">
          <RecordField form={form} path="report.sampledOn" testID="report-date" />
          <RecordField form={form} path="report.origin" hint="Supplier’s zone, or laboratory" testID="report-origin" />
        </View>
        {wide || known ? null : judged}
        <Fields report={report} />
        {!wide && known ? judged : null}
        {trouble ? (
          <Body role="alert" color="$rowan">
            {trouble}
          </Body>
        ) : null}
        <KeepRow form={form} kind="water-reports" record={known} away={`/water/${tap.id}`} onKeep={save}>
          {known ? "Keep the correction" : "Keep this report"}
        </KeepRow>
        <View flexDirection="row" gap="$5" flexWrap="wrap">
          <TextButton onPress={() => void saveFile("csv", values)} testID="report-csv">
            Save as CSV
          </TextButton>
          <TextButton onPress={() => void saveFile("json", values)}>Save as JSON</TextButton>
          <TextButton onPress={empty}>Empty it</TextButton>
        </View>
      </RecordForm>
    </Screen>
  );
}
