import { clockNowIso } from "../../data/clock";
import type { Meter, ReadingPoint, Tap, Visit } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { useLocalSearchParams } from "expo-router";
import { useMemo, useRef } from "react";
import { changed, kept } from "../../data/acts";
import type { Kept } from "../../data/api";
import { useSettings } from "../../data/settings";
import { act, newId } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { BesideField, RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { useNamed } from "../../forms/useNamed";
import { useRecordForm, type RecordForm as Form } from "../../forms/useRecordForm";
import { FieldRow } from "../../ui/fields";
import { scaleUnit, unitOf } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";
import type { RigFacts } from "../rack/assess";
import { inUse } from "../../data/in-use";
import { usualMeter } from "../log/last-values";
import { useRigFacts } from "../rack/useRigs";
import {
  besideVisit,
  meterComplaints,
  readingBoxes,
  readingsAsTyped,
  waterAsTyped,
  type ReadingBox,
} from "./visit-as-typed";

const PLACES = { "visit.readings": "beside.output" };

function useVisitForm(facts: RigFacts, visit: Kept<"visits"> | undefined) {
  const { rig, meters, visits } = facts;
  const { units } = useSettings();
  const opened = useMemo(() => clockNowIso(), []);
  const boxes = useMemo(() => readingBoxes(rig, visit?.readings ?? []), [rig, visit]);
  const before = useMemo(
    () => besideVisit(rig, visit?.readings ?? [], usualMeter(visits, meters) ?? "", units),
    [rig, visit, visits, meters, units],
  );
  const parts = useMemo(
    () => ({
      visit: {
        kind: "visits" as const,
        before: visit ?? {
          ...{ rigId: rig.id, tapId: visits[visits.length - 1]?.tapId ?? rig.tapId, at: opened, readings: [] },
          water: { by: "total" },
        },
      },
    }),
    [visit, rig, visits, opened],
  );
  const ids = useRef(new Map<ReadingPoint, string>());
  const idFor = (point: ReadingPoint) => {
    const known = ids.current.get(point) ?? newId();
    ids.current.set(point, known);
    return known;
  };
  const form = useRecordForm({
    name: `visit:${visit?.id ?? `new:${rig.id}`}`,
    parts,
    beside: before,
    places: {
      ...PLACES,
      ...Object.fromEntries(boxes.flatMap(({ key }, i) => [[`visit.readings.${i}.value`, `beside.${key}`]])),
    },
    compose: (bodies, beside) => {
      const { water, readings: _, ...rest } = bodies["visit"] as unknown as Visit;
      const typed = water?.by === "total" && water.total === undefined ? undefined : water;
      return {
        visit: {
          ...rest,
          ...waterAsTyped(typed, beside["right"] === "yes"),
          readings: readingsAsTyped({ boxes, before, beside, meters, newId: idFor, units }),
        },
      };
    },
    check: (_, beside) => meterComplaints(boxes, beside, meters),
  });
  return { form, boxes };
}

const WATER_WAYS = [
  { value: "total", label: "Meter total" },
  { value: "timed", label: "Minutes" },
  { value: "jobs", label: "Jobs" },
  { value: "", label: "Not known" },
];

function WaterFields({ form, jobName }: { readonly form: Form; readonly jobName: string }) {
  const by = form.watch("visit.water.by");
  return (
    <View gap="$3">
      <RecordField form={form} path="visit.water.by" label="Water used, by" options={WATER_WAYS} />
      <FieldRow>
        {by === "total" ? <RecordField form={form} path="visit.water.total" label="Meter total then" /> : null}
        {by === "timed" ? <RecordField form={form} path="visit.water.minutes" label="Minutes run" /> : null}
        {by === "timed" ? <RecordField form={form} path="visit.water.flow" /> : null}
        {by === "jobs" ? <RecordField form={form} path="visit.water.jobs" label={`${jobName}s`} /> : null}
        {by === "jobs" ? <RecordField form={form} path="visit.water.litresPerJob" label="Water of each" /> : null}
      </FieldRow>
      {by === "total" ? (
        <RecordField
          form={form}
          path="visit.water.replaced"
          label="A new meter that started at 0?"
          options={[
            { value: "", label: "No" },
            { value: "yes", label: "Yes" },
          ]}
        />
      ) : null}
    </View>
  );
}

function ReadingFields({
  form,
  boxes,
  meters,
}: {
  readonly form: Form;
  readonly boxes: readonly ReadingBox[];
  readonly meters: readonly Meter[];
}) {
  const meter = meters.find(({ id }) => id === form.watch("beside.meterId"));
  const unitFor = ({ reading }: ReadingBox) =>
    scaleUnit(reading?.scale ?? meters.find(({ id }) => id === reading?.meterId)?.scale ?? meter?.scale ?? "nacl");
  return (
    <View gap="$3">
      {meters.length > 0 ? (
        <BesideField
          form={form}
          name="meterId"
          label="Meter"
          is="choice"
          options={meters.map(({ id, name, scale }) => ({ value: id, label: `${name}, ${scaleUnit(scale)}` }))}
        />
      ) : null}
      <FieldRow>
        {boxes.map((box) => (
          <BesideField
            key={box.key}
            form={form}
            name={box.key}
            label={box.label}
            unit={unitFor(box)}
            is="number"
            testID={`visit-${box.point}`}
          />
        ))}
        <BesideField
          form={form}
          name="temperature"
          label="Water temperature"
          unit={unitOf("temperature", form.units)}
          is="number"
        />
      </FieldRow>
    </View>
  );
}

function VisitForm({ facts, visit }: { readonly facts: RigFacts; readonly visit: Kept<"visits"> | undefined }) {
  const { rig } = facts;
  const { form, boxes } = useVisitForm(facts, visit);
  const away = `/history/${rig.id}`;
  const taps: readonly Tap[] = inUse(facts.taps, String(form.watch("visit.tapId")));
  const meters = inUse(facts.meters, String(form.watch("beside.meterId")));
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["visit"] as unknown as Visit;
      const done = visit
        ? await act(`Visit of ${rig.name} corrected`, [changed("visits", visit, body)])
        : await act(`Visit of ${rig.name} from paper`, [kept("visits", body, newId())]);
      return { ...done, words: `${visit ? "Corrected" : "Kept"}: a visit of ${rig.name}.`, away };
    });
  return (
    <RecordForm form={form}>
      <RecordField form={form} path="visit.at" />
      {taps.length > 1 ? (
        <RecordField
          form={form}
          path="visit.tapId"
          options={taps.map(({ id, name }) => ({ value: id, label: name }))}
        />
      ) : null}
      <ReadingFields form={form} boxes={boxes} meters={meters} />
      <WaterFields form={form} jobName={rig.jobName} />
      <BesideField
        form={form}
        name="right"
        label="Figures far from usual are looked at again and right"
        is="choice"
        options={[
          { value: "no", label: "No" },
          { value: "yes", label: "Yes" },
        ]}
      />
      <RecordField form={form} path="visit.note" label="Note" />
      <KeepRow form={form} kind="visits" record={visit} away={away} onKeep={save}>
        {visit ? "Keep the correction" : "Keep this visit"}
      </KeepRow>
    </RecordForm>
  );
}

/** A visit that was logged, or one from paper notes: looked at, dated, corrected, taken back. */
export function VisitCorrection() {
  const { rig } = useLocalSearchParams<{ rig?: string }>();
  const { record, unknown } = useNamed("visits");
  const { facts, pending } = useRigFacts();
  const found = facts.find((each) => each.rig.id === (record?.rigId ?? rig));
  if (unknown || (!found && !pending)) return <NotHere what="visit" href="/history" way="To the history" />;
  const title = record ? `A visit of ${found?.rig.name ?? ""}` : `A visit of ${found?.rig.name ?? ""} from paper notes`;
  return (
    <Screen title={found ? title : "Visit"}>
      {found ? (
        <View gap="$4">
          {record ? null : (
            <Body color="$soft">
              For what was noted yesterday or before. Say when it was; it is counted in its place.
            </Body>
          )}
          <VisitForm key={record?.version ?? "new"} facts={found} visit={record} />
        </View>
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}
