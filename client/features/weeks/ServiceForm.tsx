import { clockNowIso } from "../../data/clock";
import { PART, type Rig, type Service } from "@winter-bead/core";
import { USUAL_MONTHS } from "@winter-bead/core/src/weeks";
import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { inUse } from "../../data/in-use";
import { change, keep, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { optionsOf } from "../../forms/options";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { useNamed } from "../../forms/useNamed";
import { useRecordForm } from "../../forms/useRecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { Caution } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";

function ServiceForm({
  service,
  rigs,
  rigId,
  part,
}: {
  readonly service: Kept<"services"> | undefined;
  readonly rigs: readonly Rig[];
  readonly rigId: string;
  readonly part: Service["part"];
}) {
  const opened = useMemo(() => clockNowIso(), []);
  const parts = useMemo(
    () => ({ service: { kind: "services" as const, before: service ?? { rigId, part, at: opened } } }),
    [service, rigId, part, opened],
  );
  const form = useRecordForm({ name: `service:${service?.id ?? `${rigId}:${part}`}`, parts });
  const chosen = form.watch("service.part") as Service["part"];
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["service"] as unknown as Service;
      return {
        ...(await (service ? change("services", service, body) : keep("services", body))),
        words: `Kept: ${PART.of[body.part]}.`,
        away: "/weeks/upkeep",
      };
    });
  return (
    <RecordForm form={form}>
      <Caution>Shut the feed and open the outlet to let the pressure down before you loosen anything.</Caution>
      <RecordField
        form={form}
        path="service.rigId"
        options={rigs.map(({ id, name }) => ({ value: id, label: name }))}
      />
      <RecordField form={form} path="service.part" options={optionsOf(PART)} />
      <RecordField form={form} path="service.at" />
      <FieldRow>
        <RecordField
          form={form}
          path="service.everyMonths"
          hint={`Empty: ${USUAL_MONTHS[chosen] ?? 6} months, a planning assumption; the maker's sheet has the last word.`}
        />
      </FieldRow>
      {chosen === "carbon" ? (
        <FieldRow>
          <RecordField form={form} path="service.chlorineGrams" />
        </FieldRow>
      ) : null}
      {chosen === "carbon" ? <Body color="$soft">New carbon is rinsed to drain before the membrane.</Body> : null}
      {chosen === "membrane" ? (
        <Body color="$soft">
          A membrane is flushed for its first hour; then note its first clean figures: they are the baseline.
        </Body>
      ) : null}
      <RecordField form={form} path="service.note" label="Note" />
      <KeepRow form={form} kind="services" record={service} away="/weeks/upkeep" onKeep={save}>
        Keep it
      </KeepRow>
    </RecordForm>
  );
}

/** Upkeep that was done: noted, dated, corrected, taken back. */
export function ServicePlace() {
  const { rig, part } = useLocalSearchParams<{ rig?: string; part?: string }>();
  const { record, ready, unknown } = useNamed("services");
  const { records } = useRecords("rigs");
  const rigs = inUse(records, record?.rigId);
  const rigId = record?.rigId ?? rig ?? rigs[0]?.id;
  if (unknown || (ready && rigId === undefined))
    return <NotHere what="service" href="/weeks/upkeep" way="To the upkeep" />;
  return (
    <Screen title="Upkeep of a part">
      {ready && rigId !== undefined ? (
        <ServiceForm
          key={record?.version ?? "new"}
          service={record}
          rigs={rigs}
          rigId={rigId}
          part={part !== undefined && part in PART.of ? (part as Service["part"]) : "sediment"}
        />
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}
