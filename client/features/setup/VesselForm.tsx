import type { Vessel } from "@winter-bead/core";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { change } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { scaleOf } from "../../forms/scales";
import { useRecordForm } from "../../forms/useRecordForm";
import { FieldRow } from "../../ui/fields";
import { scaleUnit } from "../../ui/format";

/** A vessel for itself, as one that hangs in no rig now. */
export function VesselForm({ vessel }: { readonly vessel: Kept<"vessels"> }) {
  const parts = useMemo(() => ({ vessel: { kind: "vessels" as const, before: vessel } }), [vessel]);
  const form = useRecordForm({ name: `vessel:${vessel.id}`, parts });
  const unit = scaleUnit(scaleOf(String(form.watch("vessel.marks.scale"))));
  const save = () =>
    keepTyped(form, async (bodies) => ({
      ...(await change("vessels", vessel, bodies["vessel"] as unknown as Vessel)),
      ...{ words: `Changed: ${vessel.name}.`, away: "/setup" },
    }));
  return (
    <RecordForm form={form}>
      <RecordField form={form} path="vessel.name" label="Name of the vessel" />
      <RecordField form={form} path="vessel.kind" />
      <FieldRow>
        <RecordField form={form} path="vessel.grossVolume" />
        <RecordField form={form} path="vessel.diameter" />
        <RecordField form={form} path="vessel.fillFraction" />
        <RecordField form={form} path="vessel.emptyWeight" />
      </FieldRow>
      <RecordField form={form} path="vessel.marks.scale" />
      <FieldRow>
        <RecordField form={form} path="vessel.marks.watch" unit={unit} />
        <RecordField form={form} path="vessel.marks.limit" unit={unit} />
        <RecordField form={form} path="vessel.marks.hard" unit={unit} />
      </FieldRow>
      <KeepRow form={form} kind="vessels" record={vessel} away="/setup" onKeep={save}>
        Keep the change
      </KeepRow>
    </RecordForm>
  );
}
