import type { FeedTest } from "@winter-bead/core";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { change, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { useNamed } from "../../forms/useNamed";
import { useRecordForm } from "../../forms/useRecordForm";
import { FieldRow } from "../../ui/fields";
import { scaleUnit } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";

function Correction({ test }: { readonly test: Kept<"feed-tests"> }) {
  const { records: meters } = useRecords("meters");
  const { records: taps } = useRecords("taps");
  const parts = useMemo(() => ({ test: { kind: "feed-tests" as const, before: test } }), [test]);
  const form = useRecordForm({ name: `feed-test-correction:${test.id}`, parts });
  const meter = meters.find(({ id }) => id === form.watch("test.meterId"));
  const away = `/water/${test.tapId}`;
  const save = () =>
    keepTyped(form, async (bodies) => ({
      ...(await change("feed-tests", test, bodies["test"] as unknown as FeedTest)),
      ...{ words: "Corrected: a reading of the tap.", away },
    }));
  return (
    <RecordForm form={form}>
      <RecordField form={form} path="test.at" />
      <RecordField form={form} path="test.tapId" options={taps.map(({ id, name }) => ({ value: id, label: name }))} />
      {meters.length > 0 && test.meterId ? (
        <RecordField
          form={form}
          path="test.meterId"
          options={meters.map(({ id, name, scale }) => ({ value: id, label: `${name}, ${scaleUnit(scale)}` }))}
        />
      ) : null}
      <FieldRow>
        <RecordField form={form} path="test.value" unit={scaleUnit(test.scale ?? meter?.scale ?? "nacl")} />
        <RecordField form={form} path="test.temperature" />
      </FieldRow>
      <RecordField
        form={form}
        path="test.confirmed"
        label="Looked at again and right, if it is far from usual"
        options={[
          { value: "", label: "No" },
          { value: "yes", label: "Yes" },
        ]}
      />
      <RecordField form={form} path="test.note" label="Note" />
      <KeepRow form={form} kind="feed-tests" record={test} away={away} onKeep={save}>
        Keep the correction
      </KeepRow>
    </RecordForm>
  );
}

/** A reading of a tap: looked at, dated, corrected, taken back. */
export function FeedTestCorrection() {
  const { record, missing } = useNamed("feed-tests");
  if (missing) return <NotHere what="reading" href="/water" way="To the water" />;
  return (
    <Screen title="A reading of the tap">
      {record ? <Correction key={record.version} test={record} /> : <Body role="status">One moment…</Body>}
    </Screen>
  );
}
