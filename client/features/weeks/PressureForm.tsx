import { clockNowIso } from "../../data/clock";
import type { PressureCheck, Rig } from "@winter-bead/core";
import { FULL_DROP } from "@winter-bead/core/src/weeks";
import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { inUse } from "../../data/in-use";
import { change, keep, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { useNamed } from "../../forms/useNamed";
import { useRecordForm } from "../../forms/useRecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { FieldRow } from "../../ui/fields";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";
import { dropWords } from "./words";

function PressureForm({
  check,
  rigs,
  rigId,
}: {
  readonly check: Kept<"pressure-checks"> | undefined;
  readonly rigs: readonly Rig[];
  readonly rigId: string;
}) {
  const opened = useMemo(() => clockNowIso(), []);
  const parts = useMemo(
    () => ({ pressure: { kind: "pressure-checks" as const, before: check ?? { rigId, at: opened } } }),
    [check, rigId, opened],
  );
  const hasCarbon = rigs.find(({ id }) => id === rigId)?.stages.some(({ kind }) => kind === "carbon") ?? false;
  const form = useRecordForm({ name: `pressure:${check?.id ?? rigId}`, parts });
  const { before, behind } = form.bodiesNow()["pressure"] as Partial<PressureCheck>;
  const drop = before === undefined || behind === undefined ? NaN : before - behind;
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["pressure"] as unknown as PressureCheck;
      return {
        ...(await (check ? change("pressure-checks", check, body) : keep("pressure-checks", body))),
        words:
          body.before === undefined || body.behind === undefined
            ? "Kept, whatever was read."
            : `Kept: ${dropWords(body.before - body.behind, form.units)} across the sediment cartridge.`,
        away: "/weeks/upkeep",
      };
    });
  return (
    <RecordForm form={form}>
      <Body color="$soft">
        Read the gauges at the flow of the work: only running water loses pressure. Whatever you read is kept.
      </Body>
      {rigs.length > 1 ? (
        <RecordField
          form={form}
          path="pressure.rigId"
          options={rigs.map(({ id, name }) => ({ value: id, label: name }))}
        />
      ) : null}
      <FieldRow>
        <RecordField form={form} path="pressure.before" />
        <RecordField form={form} path="pressure.behind" />
        <RecordField form={form} path="pressure.standing" hint="Outlet shut" />
      </FieldRow>
      {hasCarbon ? (
        <FieldRow>
          <RecordField
            form={form}
            path="pressure.chlorine"
            unit="mg/L"
            hint="By a strip; from 0.1 on it lets through"
          />
        </FieldRow>
      ) : null}
      <Body role="status" testID="drop">
        {Number.isFinite(drop) && drop >= 0
          ? `${dropWords(drop, form.units)} across it: ${drop < FULL_DROP.from ? "it may stay" : "change it"}.`
          : ""}
      </Body>
      <Body color="$soft">
        {`A sediment cartridge is changed at ${dropWords(FULL_DROP.from, form.units)} to ${dropWords(FULL_DROP.to, form.units)}, a planning assumption; the maker's sheet has the last word.`}
      </Body>
      <RecordField form={form} path="pressure.at" />
      <RecordField form={form} path="pressure.note" label="Note" />
      <KeepRow form={form} kind="pressure-checks" record={check} away="/weeks/upkeep" onKeep={save}>
        Keep it
      </KeepRow>
    </RecordForm>
  );
}

/** The pressures before and behind a sediment cartridge: noted, corrected, taken back. */
export function PressurePlace() {
  const { rig } = useLocalSearchParams<{ rig?: string }>();
  const { record, ready, unknown } = useNamed("pressure-checks");
  const { records } = useRecords("rigs");
  const rigs = inUse(records, record?.rigId).filter(({ stages }) =>
    stages.some(({ kind }) => kind === "sediment" || kind === "carbon"),
  );
  const rigId = record?.rigId ?? rig ?? rigs[0]?.id;
  if (unknown || (ready && rigId === undefined))
    return <NotHere what="pressure check" href="/weeks/upkeep" way="To the upkeep" />;
  return (
    <Screen title="Gauges at the cartridges">
      {ready && rigId !== undefined ? (
        <PressureForm key={record?.version ?? "new"} check={record} rigs={rigs} rigId={rigId} />
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}
