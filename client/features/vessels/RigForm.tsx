import { MARKS, wetWeight, type Use } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { router } from "expo-router";
import { useState } from "react";
import type { UseFormReturn } from "react-hook-form";
import type { Kept } from "../../data/api";
import { changed, kept } from "../../data/acts";
import { act, newId, useRecords } from "../../data/store";
import { useSettings } from "../../data/settings";
import { Choice, EmptyState, HeavyButton, TextButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { FormChoice, FormNumber, FormText, FormTrouble, placeComplaints, useKeptForm } from "../../ui/form";
import { scaleUnit, shown, threeDigits, toShown, unitOf, type Units } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Heading, Small } from "../../ui/words";
import { KIND_OPTIONS, marksOptions, SCALE_OPTIONS, USE_OPTIONS, usualMarks, type VesselPreset } from "./presets";
import { JOBS, rigBody, rigValues, scaleOf, text, vesselBody, type RigValues } from "./rig-values";
import { SizePresets } from "./SizePresets";
import { recordCheck } from "../record-check";

function WeightNote({ values, units }: { readonly values: RigValues; readonly units: Units }) {
  const vessel = vesselBody(values, units);
  const weight = wetWeight({
    empty: vessel.emptyWeight ?? 0,
    resin: vessel.grossVolume * vessel.fillFraction,
    grossVolume: vessel.grossVolume,
  });
  if (!weight.ok) return null;
  const { text: number, unit } = shown("weight", weight.value.kilograms, units);
  return (
    <Small>{`Holds ${threeDigits(toShown("resinVolume", vessel.grossVolume * vessel.fillFraction, units))} ${unitOf("resinVolume", units)} of resin; weighs about ${number} ${unit} wet${weight.value.twoPeople ? ": lift with two, and follow your local rules for lifting" : ""}.`}</Small>
  );
}

/** Scales that marks can be set on, a meter's own factor among them where they are on one. */
const marksScales = (now: string): readonly { readonly value: string; readonly label: string }[] =>
  SCALE_OPTIONS.some((option) => option.value === now)
    ? SCALE_OPTIONS
    : [...SCALE_OPTIONS, { value: now, label: marksUnit(now) }];

const marksUnit = (scale: string) => scaleUnit(scaleOf(scale));

/** The vessel's kind, size, fill and marks. */
function VesselFields({ form }: { readonly form: UseFormReturn<RigValues> }) {
  const { units } = useSettings();
  const { control } = form;
  const values = form.watch();
  const applyPreset = (preset: VesselPreset) => {
    const set = (name: keyof RigValues, value: string) => form.setValue(name, value as never);
    set("kind", preset.kind);
    set("sizeBy", "volume");
    set("grossVolume", text(toShown("volume", preset.grossVolume, units)));
    set("diameter", text(toShown("length", preset.diameter, units)));
    set("emptyWeight", text(toShown("weight", preset.emptyWeight, units)));
    set("fillPercent", text(100 * preset.fillFraction));
    set("flow", text(toShown("flow", preset.flow, units)));
  };
  return (
    <View gap="$4">
      <Heading>Vessel</Heading>
      <SizePresets units={units} onChoose={applyPreset} />
      <FormChoice control={control} name="kind" label="Kind" options={KIND_OPTIONS} />
      <Choice
        label="Size by"
        value={values.sizeBy}
        options={[
          { value: "volume", label: "Volume" },
          { value: "height", label: "Diameter and height" },
        ]}
        onChange={(sizeBy) => form.setValue("sizeBy", sizeBy)}
      />
      <FieldRow>
        {values.sizeBy === "volume" ? (
          <FormNumber control={control} name="grossVolume" label="Volume inside" unit={unitOf("volume", units)} />
        ) : (
          <FormNumber control={control} name="height" label="Inner height" unit={unitOf("length", units)} />
        )}
        <FormNumber control={control} name="diameter" label="Inner diameter" unit={unitOf("length", units)} />
        <FormNumber control={control} name="fillPercent" label="Filled to" unit="%" />
        <FormNumber control={control} name="emptyWeight" label="Weight empty" unit={unitOf("weight", units)} />
      </FieldRow>
      <WeightNote values={values} units={units} />
      <FormChoice control={control} name="marks" label="Marks" options={marksOptions(values.use)} />
      {values.marks === "own" ? (
        <>
          <FormChoice
            control={control}
            name="marksScale"
            label="On the scale of a meter that shows"
            options={marksScales(values.marksScale)}
          />
          <FieldRow>
            <FormNumber control={control} name="watch" label="Watch from" unit={marksUnit(values.marksScale)} />
            <FormNumber control={control} name="limit" label="Limit" unit={marksUnit(values.marksScale)} />
            <FormNumber control={control} name="hard" label="Hard mark" unit={marksUnit(values.marksScale)} />
          </FieldRow>
        </>
      ) : (
        <Small>{`Watch from ${MARKS[values.marks].watch}, limit ${MARKS[values.marks].limit}, hard mark ${MARKS[values.marks].hard} ppm NaCl.`}</Small>
      )}
    </View>
  );
}

const COMPLAINT_FIELDS = {
  tapId: "tapId",
  fillFraction: "fillPercent",
  "marks.watch": "watch",
  "marks.limit": "limit",
  "marks.hard": "hard",
  "stages.2.rejection": "rejection",
} as const;

/** A rig with its resin vessel: what it is for, what hangs before the resin, how large, and its marks. */
export function RigForm({ rig }: { readonly rig: Kept<"rigs"> | undefined }) {
  const { units } = useSettings();
  const { records: taps } = useRecords("taps");
  const { records: vessels } = useRecords("vessels");
  const [trouble, setTrouble] = useState<string>();
  const stage = rig?.stages.find((each) => each.kind === "resin");
  const vessel = stage?.kind === "resin" ? vessels.find((each) => each.id === stage.vesselId) : undefined;
  const form = useKeptForm<RigValues>(
    `rig:${rig?.id ?? "new"}:${units}`,
    rigValues(rig, vessel, taps[0]?.id ?? "", units),
  );
  const { control, watch, getValues, setValue, clearErrors } = form;
  const values = watch();

  const applyUse = (use: Use) => {
    setValue("marks", usualMarks(use));
    setValue("jobName", JOBS[use].name);
    setValue("litresPerJob", text(toShown("volume", JOBS[use].litres, units)));
  };
  const save = async () => {
    const complaintsAbout = await recordCheck();
    clearErrors();
    const now = getValues();
    const vesselId = vessel?.id ?? newId();
    const bodies = { vessel: vesselBody(now, units), rig: rigBody(now, vesselId, units, rig) };
    const complaints = [...complaintsAbout("rigs", bodies.rig), ...complaintsAbout("vessels", bodies.vessel)];
    setTrouble(placeComplaints(form, complaints, COMPLAINT_FIELDS));
    if (complaints.length > 0) return;
    const rigId = rig?.id ?? newId();
    const { undo } = await act(`Rig ${now.name}`, [
      vessel ? changed("vessels", vessel, bodies.vessel) : kept("vessels", bodies.vessel, vesselId),
      rig ? changed("rigs", rig, bodies.rig) : kept("rigs", bodies.rig, rigId),
    ]);
    form.forget();
    showToast({ words: `Kept: ${now.name}.`, undo });
    router.navigate(rig ? "/setup" : { pathname: "/setup/charge", params: { rig: rigId } });
  };

  if (taps.length === 0)
    return (
      <EmptyState title="First the tap" action={<HeavyButton href="/setup/tap">Add a tap</HeavyButton>}>
        A rig hangs on a tap, and how long its resin lasts depends on that water.
      </EmptyState>
    );
  return (
    <View gap="$4">
      <FormText control={control} name="name" label="Name of the rig" hint="Such as Van, Bay, Quarantine." />
      <FormChoice control={control} name="use" label="The water is for" options={USE_OPTIONS} onChosen={applyUse} />
      <FormChoice
        control={control}
        name="tapId"
        label="Tap"
        options={taps.map((tap) => ({ value: tap.id, label: tap.name }))}
      />
      <FormChoice
        control={control}
        name="before"
        label="Before the resin"
        options={[
          { value: "none", label: "Nothing" },
          { value: "filters", label: "Sediment, carbon" },
          { value: "membrane", label: "Sediment, carbon, RO" },
        ]}
      />
      {values.before === "membrane" ? (
        <FormNumber
          control={control}
          name="rejection"
          label="The membrane holds back"
          unit="%"
          hint="95 to 98 when in order"
        />
      ) : null}
      <VesselFields form={form} />
      <Heading>Work</Heading>
      <FieldRow>
        <FormNumber control={control} name="flow" label="Usual flow" unit={unitOf("flow", units)} />
        <FormText control={control} name="jobName" label="A job is a" />
        <FormNumber control={control} name="litresPerJob" label="Water per job" unit={unitOf("volume", units)} />
        <FormNumber
          control={control}
          name="jobsPerWeek"
          label="Jobs a week"
          unit="a usual week"
          hint="Optional: a date before the first log"
        />
      </FieldRow>
      <FormTrouble words={trouble} />
      <HeavyButton onPress={() => void save()} testID="save">
        {rig ? "Keep the change" : "Keep and fill it"}
      </HeavyButton>
      <TextButton href="/setup">Not now</TextButton>
    </View>
  );
}
