import { clockNowIso } from "../../data/clock";
import type { MembraneCheck, Rig } from "@winter-bead/core";
import { observationWords, type ObservationName, type SeenBeside } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { change, keep, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { WaysOut, WhatChanged } from "../../forms/WaysOut";
import { useNamed } from "../../forms/useNamed";
import { useRecordForm } from "../../forms/useRecordForm";
import { Card, Caution, HeavyButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { scaleUnit, typedNumber } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { rejectionWords } from "./membrane-words";
import { inUse } from "../../data/in-use";

const ASKED: readonly (keyof SeenBeside & ObservationName)[] = [
  "pressure-falls-running",
  "sediment-old",
  "carbon-old",
  "chlorine-behind-carbon",
  "membrane-old",
];

const YES_NO_UNKNOWN = [
  { value: "yes", label: "Yes" },
  { value: "no", label: "No" },
  { value: "", label: "Don’t know" },
];

function useCheckForm(rig: Rig, check: Kept<"membrane-checks"> | undefined, meterId: string | undefined) {
  const opened = useMemo(() => clockNowIso(), []);
  const parts = useMemo(
    () => ({
      check: {
        kind: "membrane-checks" as const,
        before: check ?? {
          ...{ rigId: rig.id, at: opened, clean: false },
          ...(meterId === undefined ? { scale: "nacl" } : { meterId }),
        },
      },
    }),
    [check, rig.id, opened, meterId],
  );
  const form = useRecordForm({
    name: `membrane:${check?.id ?? rig.id}`,
    parts,
    compose: (bodies) => {
      const body = bodies["check"] as unknown as MembraneCheck;
      return { check: { ...body, ...(body.at === opened ? { at: clockNowIso() } : {}) } };
    },
  });
  return form;
}

/** One look at a membrane: while it runs, from paper, or one to be corrected. */
export function MembraneCheckForm({
  rig,
  check,
}: {
  readonly rig: Rig;
  readonly check?: Kept<"membrane-checks"> | undefined;
}) {
  const { records } = useRecords("meters");
  const meters = inUse(records, check?.meterId);
  const form = useCheckForm(rig, check, meters.length > 0 ? meters[0]!.id : undefined);
  const meter = meters.find(({ id }) => id === form.watch("check.meterId"));
  const ppm = scaleUnit(check?.scale ?? meter?.scale ?? "nacl");
  const [feed, product] = (["check.feed", "check.product"] as const).map((path) =>
    typedNumber(String(form.watch(path) ?? "")),
  );
  const held = feed !== undefined && product !== undefined ? rejectionWords(feed, product) : "";
  const away = `/water/membrane?rig=${rig.id}`;
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["check"] as unknown as MembraneCheck;
      const done = await (check ? change("membrane-checks", check, body) : keep("membrane-checks", body));
      const words = `${check ? "Corrected" : "Kept"}: the membrane of ${rig.name}.`;
      return { ...done, words, ...(check ? { away } : {}) };
    });
  return (
    <Card gap="$3" testID="membrane-form">
      <RecordForm form={form}>
        {check ? null : <Heading>Check it now</Heading>}
        <Body color="$soft">
          While it runs, after the first minutes: readings, pressures, and both flows with a jug and a watch. Whatever
          you read is kept.
        </Body>
        <Caution>Let the pressure down before a gauge or a hose is changed.</Caution>
        <RecordField form={form} path="check.at" />
        {meters.length > 1 ? (
          <RecordField
            form={form}
            path="check.meterId"
            options={meters.map(({ id, name }) => ({ value: id, label: name }))}
          />
        ) : null}
        <FieldRow>
          <RecordField form={form} path="check.feed" unit={ppm} testID="membrane-feed" />
          <RecordField form={form} path="check.product" unit={ppm} testID="membrane-product" />
          <RecordField form={form} path="check.temperature" testID="membrane-temperature" />
        </FieldRow>
        {held ? (
          <Strong role="status" testID="membrane-held">
            {held}
          </Strong>
        ) : null}
        <FieldRow>
          <RecordField form={form} path="check.pressure" testID="membrane-pressure" />
          <RecordField
            form={form}
            path="check.standingPressure"
            testID="membrane-standingPressure"
            hint="Outlet shut"
          />
          <RecordField form={form} path="check.permeatePressure" testID="membrane-permeatePressure" />
          <RecordField form={form} path="check.productFlow" testID="membrane-productFlow" />
          <RecordField form={form} path="check.wasteFlow" testID="membrane-wasteFlow" />
        </FieldRow>
        <RecordField
          form={form}
          path="check.clean"
          label="Is it new or just cleaned?"
          options={[
            { value: "no", label: "No" },
            { value: "yes", label: "Yes: take this as the baseline" },
          ]}
        />
        <View gap="$2">
          <Small>What you see beside it; leave open what you don’t know</Small>
          {ASKED.map((name) => (
            <RecordField
              key={name}
              form={form}
              path={`check.seen.${name}`}
              label={observationWords(name).yes}
              options={YES_NO_UNKNOWN}
            />
          ))}
        </View>
        <HeavyButton onPress={() => void save()} testID="keep-check">
          {check ? "Keep the correction" : "Keep this check"}
        </HeavyButton>
        {check ? <WaysOut kind="membrane-checks" record={check} away={away} forget={form.forget} /> : null}
        {check ? <WhatChanged kind="membrane-checks" record={check} /> : null}
      </RecordForm>
    </Card>
  );
}

/** A check of a membrane: looked at, dated, corrected, taken back. */
export function MembraneCheckCorrection() {
  const { record, missing } = useNamed("membrane-checks");
  const { records: rigs, pending } = useRecords("rigs");
  const rig = rigs.find(({ id }) => id === record?.rigId);
  if (missing || (record && !rig && !pending))
    return <NotHere what="check" href="/water/membrane" way="To the membranes" />;
  return (
    <Screen title={rig ? `A check of the membrane of ${rig.name}` : "Membrane check"}>
      {record && rig ? (
        <MembraneCheckForm key={record.version} rig={rig} check={record} />
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}
