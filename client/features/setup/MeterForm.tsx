import type { Meter } from "@winter-bead/core";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { change, keep } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { BesideField, RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { KeepRow } from "../../forms/WaysOut";
import type { Bodies } from "../../forms/resolve";
import { SCALE_OPTIONS, scaleOf } from "../../forms/scales";
import type { Texts } from "../../forms/texts";
import { useRecordForm } from "../../forms/useRecordForm";
import { FieldRow } from "../../ui/fields";
import { scaleUnit } from "../../ui/format";
import { Body, Heading, Small } from "../../ui/words";

const OWN = "own";

/** The meter with its scale: a named one, or its own factor. */
const meterAsTyped = (bodies: Bodies, { scale, factor }: Texts): Bodies => ({
  meter: { ...bodies["meter"], scale: scaleOf(String(scale === OWN ? factor : scale)) },
});

/** A meter: its scale is what makes its numbers mean something; its last check can be corrected, or emptied. */
export function MeterForm({ meter }: { readonly meter: Kept<"meters"> | undefined }) {
  const ownFactor = typeof meter?.scale === "number";
  const parts = useMemo(
    () => ({ meter: { kind: "meters" as const, before: meter ?? { compensated: true } } }),
    [meter],
  );
  const beside = useMemo(
    () => ({
      scale: ownFactor ? OWN : String(meter?.scale ?? "nacl"),
      factor: ownFactor ? String(meter.scale) : "0.64",
    }),
    [meter, ownFactor],
  );
  const form = useRecordForm({
    name: `meter:${meter?.id ?? "new"}`,
    parts,
    beside,
    compose: meterAsTyped,
    places: { "meter.scale": "beside.factor" },
  });
  const isOwn = form.watch("beside.scale") === OWN;
  const unit = scaleUnit(scaleOf(String(form.watch(isOwn ? "beside.factor" : "beside.scale"))));
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["meter"] as unknown as Meter;
      const { name } = body;
      return {
        ...(await (meter ? change("meters", meter, body) : keep("meters", body))),
        words: meter ? `Changed: ${name}. Its history reads by the new scale.` : `Kept: ${name}.`,
        away: "/setup",
      };
    });
  return (
    <RecordForm form={form}>
      <Body color="$soft">
        A reading without its scale is ambiguous by 40 %. A switchable meter: look which scale it stands on.
      </Body>
      <RecordField form={form} path="meter.name" label="Name of the meter" />
      <BesideField
        form={form}
        name="scale"
        label="Scale"
        is="choice"
        options={[...SCALE_OPTIONS, { value: OWN, label: "Own factor" }]}
      />
      {isOwn ? (
        <BesideField form={form} name="factor" label="ppm shown per µS/cm" hint="0.40 to 1.00" is="number" />
      ) : null}
      <RecordField
        form={form}
        path="meter.compensated"
        label="Does it correct to 25 °C by itself?"
        options={[
          { value: "yes", label: "Yes, as most do" },
          { value: "no", label: "No" },
        ]}
      />
      <Heading>Last check against a standard</Heading>
      <Small>Leave it empty if it was never checked. Correct it here, or empty it to take it back.</Small>
      <RecordField form={form} path="meter.checkedOn" label="On" />
      <FieldRow>
        <RecordField form={form} path="meter.check.standard" label="The bottle says" />
        <RecordField form={form} path="meter.check.shown" label="It showed" unit={unit} />
        <RecordField form={form} path="meter.offset" label="In pure water" unit={unit} />
      </FieldRow>
      <KeepRow form={form} kind="meters" record={meter} away="/setup" onKeep={save}>
        Keep this meter
      </KeepRow>
    </RecordForm>
  );
}
