import { View } from "@tamagui/core";
import { readReport, type ReportComplaint, type ReportSource, type ReportValues, type Tap } from "@winter-bead/core";
import { router } from "expo-router";
import { useState } from "react";
import { useDraft } from "../../data/draft";
import { keep } from "../../data/store";
import { Card, Choice, HeavyButton, TextButton } from "../../ui/boxes";
import { download, FilePicker } from "../../ui/files";
import { FieldRow, NumberField, TextField } from "../../ui/fields";
import { FormTrouble } from "../../ui/form";
import { localDate } from "../../ui/format";
import { Screen, useWide } from "../../ui/Screen";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { HiddenLoadPart } from "./HiddenLoad";
import type { OpenedReport } from "./report-file";
import { ReportSummary } from "./ReportSummary";
import {
  ANION_FIELDS,
  CATION_FIELDS,
  OTHER_FIELDS,
  readTypedReport,
  typedFrom,
  type ReportField,
  type TypedReport,
} from "./report-values";
import { SupplierPart } from "./SupplierPart";
import { recordCheck } from "../record-check";
import { onDemand } from "../on-demand-piece";

interface Draft {
  readonly typed: TypedReport;
  readonly sampledOn: string;
  readonly origin: string;
  readonly source: ReportSource;
}

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

/** The report as it stands on the screen, and everything that can be done with it. */
function useReport(tap: Tap) {
  const initial: Draft = { typed: {}, sampledOn: localDate(Date.now()), origin: "", source: "typed" };
  const [draft, patch, clear] = useDraft<Draft>(`report:${tap.id}`, initial);
  const [leftOut, setLeftOut] = useState<LeftOut>(NOTHING_LEFT_OUT);
  const [trouble, setTrouble] = useState<string>();
  const read = readTypedReport(draft.typed);

  const take = (report: OpenedReport) => {
    const found = readReport(report.lines);
    setLeftOut(found);
    setTrouble(undefined);
    patch({
      typed: { ...draft.typed, ...typedFrom(found.values) },
      ...(report.sampledOn ? { sampledOn: report.sampledOn } : {}),
      ...(report.origin ? { origin: report.origin } : {}),
    });
  };
  const open = async (file: File) => {
    const { openReportFile } = await onDemand();
    const opened = openReportFile(await file.text());
    if ("trouble" in opened) setTrouble(opened.trouble);
    else take(opened.report);
  };
  const saveFile = async (format: "csv" | "json", values: ReportValues) => {
    const { reportCsv, reportJson } = await onDemand();
    const name = `water-report-${draft.sampledOn}.${format}`;
    const write = format === "csv" ? reportCsv : reportJson;
    download(name, write(values, draft.sampledOn, draft.origin), format === "csv" ? "text/csv" : "application/json");
  };
  const save = async () => {
    const complaintsAbout = await recordCheck();
    const body = {
      tapId: tap.id,
      sampledOn: draft.sampledOn,
      source: draft.source,
      origin: draft.origin.trim() === "" ? undefined : draft.origin,
      values: read.values,
    };
    const complaints = [
      ...Object.values(read.errors),
      ...complaintsAbout("water-reports", body).map(({ message }) => message),
    ];
    setTrouble(complaints.join(" ") || undefined);
    if (complaints.length > 0) return;
    const { undo } = await keep("water-reports", body);
    clear();
    showToast({ words: `Kept: the report of ${draft.sampledOn} for ${tap.name}.`, undo });
    router.navigate(`/water/${tap.id}`);
  };
  const empty = () => {
    clear();
    setLeftOut(NOTHING_LEFT_OUT);
    setTrouble(undefined);
  };
  return { draft, patch, read, leftOut, trouble, take, open, saveFile, save, empty };
}

type Report = ReturnType<typeof useReport>;

/** The ways by which figures come other than by typing. */
function Ways({ report }: { readonly report: Report }) {
  const { draft, patch, open, saveFile, take, leftOut } = report;
  return (
    <View gap="$4">
      <Choice label="How it comes" value={draft.source} options={WAYS} onChange={(source) => patch({ source })} />
      {draft.source === "imported" ? (
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
      {draft.source === "supplier" ? <SupplierPart on={draft.sampledOn} onReport={take} /> : null}
      <LeftOutPart {...leftOut} />
    </View>
  );
}

function Fields({ report }: { readonly report: Report }) {
  const { draft, patch, read } = report;
  const field = ({ name, label, unit }: { name: ReportField; label: string; unit: string }) => (
    <NumberField
      key={name}
      label={label}
      unit={unit}
      value={draft.typed[name] ?? ""}
      onChange={(text) => patch({ typed: { ...draft.typed, [name]: text } })}
      testID={`report-${name}`}
      {...(read.errors[name] ? { error: read.errors[name] } : {})}
    />
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

/** An analysis of a tap's water: typed, opened or fetched, judged while it is entered. */
export function ReportForm({ tap }: { readonly tap: Tap }) {
  const wide = useWide();
  const report = useReport(tap);
  const { draft, patch, read, trouble, saveFile, save, empty } = report;
  const judged = read.answer ? (
    <View gap="$4" testID="report-answer">
      <ReportSummary answer={read.answer} values={read.values} />
      <HiddenLoadPart answer={read.answer} values={read.values} />
    </View>
  ) : (
    <Body color="$soft">Enter the conductivity or some ions, and you see here whether they fit together.</Body>
  );
  return (
    <Screen title={`Water report of ${tap.name}`} detail={wide ? judged : undefined}>
      <View gap="$4">
        <Ways report={report} />
        <View flexDirection="row" gap="$3" flexWrap="wrap">
          <TextField
            label="Sampled on (year-month-day)"
            value={draft.sampledOn}
            onChange={(sampledOn) => patch({ sampledOn })}
            testID="report-date"
          />
          <TextField
            label="From"
            value={draft.origin}
            onChange={(origin) => patch({ origin })}
            hint="Supplier’s zone, or laboratory"
            testID="report-origin"
          />
        </View>
        {wide ? null : judged}
        <Fields report={report} />
        <FormTrouble words={trouble} />
        <HeavyButton onPress={() => void save()} testID="save">
          Keep this report
        </HeavyButton>
        <View flexDirection="row" gap="$5" flexWrap="wrap">
          <TextButton onPress={() => void saveFile("csv", read.values)} testID="report-csv">
            Save as CSV
          </TextButton>
          <TextButton onPress={() => void saveFile("json", read.values)}>Save as JSON</TextButton>
          <TextButton onPress={empty}>Empty it</TextButton>
        </View>
      </View>
    </Screen>
  );
}
