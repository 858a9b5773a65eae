import { MARKS, wetWeight, type Rig, type Use, type Vessel } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { useMemo } from "react";
import { changed, kept } from "../../data/acts";
import type { Kept } from "../../data/api";
import { act, newId, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { BesideField, RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { scaleOf } from "../../forms/scales";
import { numberText } from "../../forms/texts";
import { useRecordForm, type RecordForm as Form } from "../../forms/useRecordForm";
import { EmptyState, HeavyButton, TextButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { scaleUnit, shown, threeDigits, toShown, unitOf } from "../../ui/format";
import { Heading, Small } from "../../ui/words";
import { marksOptions, usualMarks, VESSEL_PRESETS, type MarksChoice, type VesselPreset } from "./presets";
import { besideRig, JOBS, rigAsTyped } from "./rig-as-typed";
import { SizePresets } from "./SizePresets";

function WeightNote({ form }: { readonly form: Form }) {
  const { units } = form;
  const { emptyWeight, grossVolume = NaN, fillFraction = NaN } = form.bodiesNow()["vessel"] as Partial<Vessel>;
  const resin = grossVolume * fillFraction;
  const weight = wetWeight({ empty: emptyWeight ?? 0, resin, grossVolume });
  if (!weight.ok) return null;
  const { text: number, unit } = shown("weight", weight.value.kilograms, units);
  return (
    <Small>{`Holds ${threeDigits(toShown("resinVolume", resin, units))} ${unitOf("resinVolume", units)} of resin; weighs about ${number} ${unit} wet${weight.value.twoPeople ? ": lift with two, and follow your local rules for lifting" : ""}.`}</Small>
  );
}

function MarksFields({ form }: { readonly form: Form }) {
  const marks = String(form.watch("beside.marks")) as MarksChoice;
  const use = String(form.watch("rig.use")) as Use;
  const unit = scaleUnit(scaleOf(String(form.watch("vessel.marks.scale"))));
  return (
    <>
      <BesideField form={form} name="marks" label="When to change it" is="choice" options={marksOptions(use)} />
      {marks === "own" ? (
        <>
          <RecordField form={form} path="vessel.marks.scale" testID="field-marksScale" />
          <FieldRow>
            <RecordField form={form} path="vessel.marks.watch" unit={unit} />
            <RecordField form={form} path="vessel.marks.limit" unit={unit} />
            <RecordField form={form} path="vessel.marks.hard" unit={unit} />
          </FieldRow>
        </>
      ) : (
        <Small>{`Watch it from ${MARKS[marks].watch}, change at ${MARKS[marks].limit}, use it no more above ${MARKS[marks].hard} ppm NaCl.`}</Small>
      )}
    </>
  );
}

/** The vessel's kind, size, fill and marks. */
function VesselFields({ form }: { readonly form: Form }) {
  const { units } = form;
  const applyPreset = (preset: VesselPreset) => {
    const set = (path: string, value: string) => form.setValue(path as never, value as never);
    set("vessel.kind", preset.kind);
    set("beside.sizeBy", "volume");
    set("vessel.grossVolume", numberText(toShown("volume", preset.grossVolume, units)));
    set("vessel.diameter", numberText(toShown("length", preset.diameter, units)));
    set("vessel.emptyWeight", numberText(toShown("weight", preset.emptyWeight, units)));
    set("vessel.fillFraction", numberText(100 * preset.fillFraction));
    set("rig.flow", numberText(toShown("flow", preset.flow, units)));
  };
  return (
    <View gap="$4">
      <Heading>Vessel</Heading>
      <SizePresets units={units} onChoose={applyPreset} />
      <RecordField form={form} path="vessel.kind" />
      <BesideField
        form={form}
        name="sizeBy"
        label="Size by"
        is="choice"
        options={[
          { value: "volume", label: "Volume" },
          { value: "height", label: "Diameter and height" },
        ]}
      />
      <FieldRow>
        {form.watch("beside.sizeBy") === "height" ? (
          <BesideField form={form} name="height" label="Inner height" unit={unitOf("length", units)} is="number" />
        ) : (
          <RecordField form={form} path="vessel.grossVolume" />
        )}
        <RecordField form={form} path="vessel.diameter" />
        <RecordField form={form} path="vessel.fillFraction" />
        <RecordField form={form} path="vessel.emptyWeight" />
      </FieldRow>
      <WeightNote form={form} />
      <MarksFields form={form} />
    </View>
  );
}

const BEFORE_OPTIONS = [
  { value: "none", label: "Nothing" },
  { value: "filters", label: "Sediment, carbon" },
  { value: "membrane", label: "Sediment, carbon, RO" },
];

function WorkFields({ form }: { readonly form: Form }) {
  return (
    <View gap="$4">
      <Heading>Work</Heading>
      <FieldRow>
        <RecordField form={form} path="rig.flow" label="Usual flow" />
        <RecordField form={form} path="rig.jobName" label="A job is a" />
        <RecordField form={form} path="rig.litresPerJob" label="Water per job" />
        <RecordField
          form={form}
          path="rig.jobsPerWeek"
          label="Jobs a week"
          unit="a usual week"
          hint="Optional: a date before the first log"
        />
      </FieldRow>
    </View>
  );
}

const PLACES = {
  "vessel.marks.scale": "beside.marks",
  "rig.stages.2.rejection": "beside.rejection",
  "rig.stages": "beside.before",
};

/** The form of a rig with its resin vessel, begun with a usual bottle. */
function useRigForm(rig: Kept<"rigs"> | undefined, vessel: Kept<"vessels"> | undefined, firstTap: string | undefined) {
  const vesselId = useMemo(() => vessel?.id ?? newId(), [vessel]);
  const preset = VESSEL_PRESETS[3]!;
  const parts = useMemo(
    () => ({
      rig: {
        kind: "rigs" as const,
        before: rig ?? {
          ...{ use: "glass", tapId: firstTap, flow: preset.flow, jobName: JOBS.glass.name },
          litresPerJob: JOBS.glass.litres,
        },
      },
      vessel: { kind: "vessels" as const, before: vessel ?? { ...preset, name: "", marks: MARKS["glass-10"] } },
    }),
    [rig, vessel, firstTap, preset],
  );
  const beside = useMemo(() => besideRig(rig, vessel), [rig, vessel]);
  const form = useRecordForm({
    name: `rig:${rig?.id ?? "new"}`,
    parts,
    beside,
    compose: (bodies, texts, units) => rigAsTyped(bodies, texts, units, vesselId, rig?.stages),
    places: PLACES,
  });
  return { form, vesselId };
}

/** A rig with its resin vessel: what it is for, what hangs before the resin, how large, and its marks. */
export function RigForm({ rig }: { readonly rig: Kept<"rigs"> | undefined }) {
  const { records: allTaps } = useRecords("taps");
  const { records: vessels } = useRecords("vessels");
  const taps = allTaps.filter((tap) => tap.retiredOn === undefined || tap.id === rig?.tapId);
  const stage = rig?.stages.find((each) => each.kind === "resin");
  const vessel = stage?.kind === "resin" ? vessels.find((each) => each.id === stage.vesselId) : undefined;
  const { form, vesselId } = useRigForm(rig, vessel, taps[0]?.id);
  const { setValue } = form;

  const applyUse = (use: string) => {
    const { name, litres } = JOBS[use as Use];
    setValue("beside.marks" as never, usualMarks(use as Use) as never);
    setValue("rig.jobName" as never, name as never);
    setValue("rig.litresPerJob" as never, numberText(toShown("volume", litres, form.units)) as never);
  };
  const save = () =>
    keepTyped(form, async (bodies) => {
      const [rigBody, vesselBody] = [bodies["rig"] as unknown as Rig, bodies["vessel"] as unknown as Vessel];
      const rigId = rig?.id ?? newId();
      const done = await act(`Rig ${rigBody.name}`, [
        vessel ? changed("vessels", vessel, vesselBody) : kept("vessels", vesselBody, vesselId),
        rig ? changed("rigs", rig, rigBody) : kept("rigs", rigBody, rigId),
      ]);
      return { ...done, words: `Kept: ${rigBody.name}.`, away: rig ? "/setup" : `/setup/charge?rig=${rigId}` };
    });

  if (taps.length === 0)
    return (
      <EmptyState title="First the tap" action={<HeavyButton href="/setup/tap">Add a tap</HeavyButton>}>
        A rig hangs on a tap, and how long its resin lasts depends on that water.
      </EmptyState>
    );
  const before = form.watch("beside.before");
  return (
    <RecordForm form={form}>
      <RecordField form={form} path="rig.name" hint="Such as Van, Bay, Quarantine." />
      <RecordField form={form} path="rig.use" label="The water is for" onChosen={applyUse} />
      <RecordField form={form} path="rig.tapId" options={taps.map(({ id, name }) => ({ value: id, label: name }))} />
      <BesideField
        form={form}
        name="before"
        label="Before the resin"
        is="choice"
        options={before === "own" ? [...BEFORE_OPTIONS, { value: "own", label: "As it was built" }] : BEFORE_OPTIONS}
      />
      {before === "membrane" ? (
        <BesideField
          form={form}
          name="rejection"
          label="The membrane holds back"
          unit="%"
          hint="95 to 98 when in order"
          is="number"
        />
      ) : null}
      <VesselFields form={form} />
      <WorkFields form={form} />
      <KeepRow form={form} kind="rigs" record={rig} away="/setup" onKeep={save}>
        {rig ? "Keep the change" : "Keep and fill it"}
      </KeepRow>
      <TextButton href="/setup">Not now</TextButton>
    </RecordForm>
  );
}
