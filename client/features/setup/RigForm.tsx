import { clockNow, clockNowIso } from "../../data/clock";
import {
  MARKS,
  placesOf,
  samePlaces,
  wetWeight,
  type Id,
  type Place,
  type Rig,
  type Stage,
  type Use,
  type Vessel,
} from "@winter-bead/core";
import { View } from "@tamagui/core";
import { useMemo } from "react";
import { changed, kept } from "../../data/acts";
import type { Kept } from "../../data/api";
import { inUse } from "../../data/in-use";
import { useSettings } from "../../data/settings";
import { act, newId, useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import { keepTyped } from "../../forms/keep-typed";
import type { Bodies } from "../../forms/resolve";
import { BesideField, RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { scaleOf } from "../../forms/scales";
import { numberText } from "../../forms/texts";
import { useRecordForm, type RecordForm as Form } from "../../forms/useRecordForm";
import { Choice, EmptyState, HeavyButton, TextButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { scaleUnit, shown, threeDigits, toShown, unitOf } from "../../ui/format";
import { Heading, Small } from "../../ui/words";
import { marksOptions, usualMarks, VESSEL_PRESETS, type MarksChoice, type VesselPreset } from "./presets";
import { besideRig, hungAsTyped, JOBS, rigAsTyped } from "./rig-as-typed";
import { SizePresets } from "./SizePresets";
import { StageList } from "./StageList";
import {
  begunWith,
  FIGURES,
  NEW_VESSEL,
  newStage,
  NO_VESSEL,
  stagesOfText,
  stagesText,
  type Before,
  type TypedStage,
} from "./stages-as-typed";

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
  ...Object.fromEntries(
    Array.from({ length: 12 }, (_, i) =>
      Object.values(FIGURES)
        .flat()
        .map((figure) => [`rig.stages.${i}.${figure}`, "beside.stages"]),
    ).flat(),
  ),
  "rig.stages": "beside.stages",
};

const NO_STAGES: readonly Stage[] = [];

/** The form of a rig with its resin vessel, begun with a usual bottle. */
function useRigForm(
  rig: Kept<"rigs"> | undefined,
  vessel: Kept<"vessels"> | undefined,
  places: readonly Place[],
  firstTap: string | undefined,
) {
  const { units } = useSettings();
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
  const begun = useMemo(() => [newStage("resin", newId(), units)], [units]);
  const beside = useMemo(() => besideRig(rig, vessel, places, begun, units), [rig, vessel, places, begun, units]);
  const form = useRecordForm({
    name: `rig:${rig?.id ?? "new"}`,
    parts,
    beside,
    compose: (bodies, texts, of) => rigAsTyped(bodies, texts, of, rig?.stages ?? NO_STAGES),
    places: PLACES,
  });
  return { form, vesselId };
}

const BEGINNINGS = [
  { value: "none", label: "Nothing" },
  { value: "filters", label: "Sediment, carbon" },
  { value: "membrane", label: "Sediment, carbon, RO" },
] as const;

/** The choice that fits what stands before the resin; nothing where it is another. */
const beginningOf = (stages: readonly TypedStage[]): Before | undefined => {
  const kinds = stages.map(({ kind }) => kind).filter((kind) => kind !== "resin");
  return ({ "": "none", "sediment carbon": "filters", "sediment carbon membrane": "membrane" } as const)[
    kinds.join(" ") as ""
  ];
};

/** The train of a rig: begun by one choice, then put together stage by stage. */
function TrainFields({
  form,
  rig,
  like,
}: {
  readonly form: Form;
  readonly rig: Kept<"rigs"> | undefined;
  readonly like: string;
}) {
  const { records: vessels } = useRecords("vessels");
  const { records: rigs } = useRecords("rigs");
  const trains = useTrains();
  const { units } = form;
  const stages = stagesOfText(form.watch("beside.stages"));
  const now = clockNow();
  const elsewhere = (id: string) => rigs.find((each) => each.id === trains.rigOf(id, now) && each.id !== rig?.id);
  const options = [
    { value: NEW_VESSEL, label: rig ? `A new one like ${like}` : "A new vessel, as below" },
    { value: NO_VESSEL, label: "Nobody: the place is empty" },
    ...inUse(vessels).map((vessel) => {
      const holder = elsewhere(vessel.id);
      return { value: vessel.id, label: holder ? `${vessel.name}, now in ${holder.name}` : vessel.name };
    }),
  ];
  const set = (next: readonly TypedStage[]) => {
    form.setValue("beside.stages" as never, stagesText(next) as never, { shouldDirty: true });
    form.clearErrors("beside.stages" as never);
  };
  const faults = form.formState.errors as { readonly beside?: { readonly stages?: { readonly message?: string } } };
  return (
    <View gap="$4">
      <Heading>The train</Heading>
      {rig ? null : (
        <Choice
          label="Before the resin"
          value={beginningOf(stages) ?? ("" as Before)}
          options={BEGINNINGS}
          onChange={(before) => set(begunWith(before, stages, newId, units))}
          testID="field-before"
        />
      )}
      <StageList
        stages={stages}
        onChange={set}
        vessels={options}
        units={units}
        error={faults.beside?.stages?.message}
      />
    </View>
  );
}

/** The steps that keep a rig as it was typed: its vessels, its stages, and who stands where from now on. */
function keepRig(
  bodies: Bodies,
  stages: readonly TypedStage[],
  {
    rig,
    vessel,
    vesselId,
    before,
  }: {
    readonly rig: Kept<"rigs"> | undefined;
    readonly vessel: Kept<"vessels"> | undefined;
    readonly vesselId: Id;
    readonly before: readonly Place[];
  },
) {
  const [rigBody, vesselBody] = [bodies["rig"] as unknown as Rig, bodies["vessel"] as unknown as Vessel];
  const rigId = rig?.id ?? newId();
  const { vessels, places } = hungAsTyped(stages, vesselBody, vesselId, vessel === undefined, newId);
  const at = clockNowIso();
  const steps = [
    ...(vessel ? [changed("vessels", vessel, vesselBody)] : []),
    ...vessels.map(({ id, body }) => kept("vessels", body, id)),
    rig ? changed("rigs", rig, rigBody) : kept("rigs", rigBody, rigId),
    ...(samePlaces(places, before) ? [] : [kept("arrangements", { rigId, at, did: "hung-in", places }, newId())]),
  ];
  return { rigId, name: rigBody.name, steps };
}

/** A rig with its resin vessel: what it is for, what hangs before the resin, how large, and its marks. */
export function RigForm({ rig }: { readonly rig: Kept<"rigs"> | undefined }) {
  const { records: allTaps } = useRecords("taps");
  const { records: vessels } = useRecords("vessels");
  const trains = useTrains();
  const taps = allTaps.filter((tap) => tap.retiredOn === undefined || tap.id === rig?.tapId);
  const places = useMemo(() => (rig ? placesOf(rig, trains, clockNow()) : []), [rig, trains]);
  const own = places.flatMap(({ vesselId }) => vessels.filter(({ id }) => id === vesselId));
  // One vessel alone is shown with the rig; of several each has a page of its own.
  const vessel = own[0];
  const { form, vesselId } = useRigForm(rig, vessel, places, taps[0]?.id);
  const { setValue } = form;

  const applyUse = (use: string) => {
    const { name, litres } = JOBS[use as Use];
    setValue("beside.marks" as never, usualMarks(use as Use) as never);
    setValue("rig.jobName" as never, name as never);
    setValue("rig.litresPerJob" as never, numberText(toShown("volume", litres, form.units)) as never);
  };
  const save = () =>
    keepTyped(form, async (bodies) => {
      const stages = stagesOfText(form.beside()["stages"]);
      const { rigId, name, steps } = keepRig(bodies, stages, { rig, vessel, vesselId, before: places });
      const done = await act(`Rig ${name}`, steps);
      return { ...done, words: `Kept: ${name}.`, away: rig ? "/setup" : `/setup/charge?rig=${rigId}` };
    });

  if (taps.length === 0)
    return (
      <EmptyState title="First the tap" action={<HeavyButton href="/setup/tap">Add a tap</HeavyButton>}>
        A rig hangs on a tap, and how long its resin lasts depends on that water.
      </EmptyState>
    );
  return (
    <RecordForm form={form}>
      <RecordField form={form} path="rig.name" hint="Such as Van, Bay, Quarantine." />
      <RecordField form={form} path="rig.use" label="The water is for" onChosen={applyUse} />
      <RecordField form={form} path="rig.tapId" options={taps.map(({ id, name }) => ({ value: id, label: name }))} />
      <TrainFields form={form} rig={rig} like={vessel?.name ?? "the first"} />
      {own.length > 1 ? (
        <View gap="$1">
          <Heading>Its vessels</Heading>
          {own.map(({ id, name }) => (
            <TextButton key={id} href={`/setup/vessel?id=${id}`}>
              {name}
            </TextButton>
          ))}
        </View>
      ) : (
        <VesselFields form={form} />
      )}
      <WorkFields form={form} />
      <KeepRow form={form} kind="rigs" record={rig} away="/setup" onKeep={save}>
        {rig ? "Keep the change" : "Keep and fill it"}
      </KeepRow>
      <TextButton href="/setup">Not now</TextButton>
    </RecordForm>
  );
}
