import { wetWeight, type Charge, type Container, type EndReason, type Grade, type Packing } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { router } from "expo-router";
import { useState } from "react";
import { change, keep, useRecords } from "../../data/store";
import { useSettings } from "../../data/settings";
import { Caution, HeavyButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { FormChoice, FormNumber, FormText, FormTrouble, placeComplaints, useKeptForm } from "../../ui/form";
import { shown, toInternal, toShown, typedNumber, unitOf } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body, Heading } from "../../ui/words";
import type { RigFacts } from "../run/assess";
import { CONTAINER_OPTIONS, GRADE_OPTIONS } from "./presets";

interface ChargeValues {
  grade: Grade;
  resinLitres: string;
  packing: Packing;
  container: "fresh" | Container;
  months: string;
  warm: "no" | "yes";
  startTotal: string;
  why: EndReason;
  note: string;
}

const text = (value: number) => String(Number(value.toPrecision(4)));

/** A refill: the old charge ends with its reason, the new one begins. */
export function ChargeForm({ facts }: { readonly facts: RigFacts }) {
  const { rig, vessel } = facts;
  const { units } = useSettings();
  const { records: charges } = useRecords("charges");
  const [trouble, setTrouble] = useState<string>();
  const open = charges.find((charge) => charge.vesselId === vessel.id && charge.ended === undefined);
  const form = useKeptForm<ChargeValues>(`charge:${vessel.id}:${units}`, {
    grade: open?.grade ?? "virgin",
    resinLitres: text(toShown("resinVolume", vessel.grossVolume * vessel.fillFraction, units)),
    packing: "settled",
    container: "fresh",
    months: "1",
    warm: "no",
    startTotal: "",
    why: "limit",
    note: "",
  });
  const { control, watch, getValues, clearErrors } = form;
  const weight = wetWeight({
    empty: vessel.emptyWeight ?? 0,
    resin: Math.min(vessel.grossVolume, open?.resinLitres ?? vessel.grossVolume * vessel.fillFraction),
    grossVolume: vessel.grossVolume,
  });

  const save = async () => {
    const { complaintsAbout } = await import("./check-record");
    clearErrors();
    const values = getValues();
    const now = new Date();
    const resin = typedNumber(values.resinLitres);
    const total = typedNumber(values.startTotal);
    const body: Omit<Charge, "id"> = {
      vesselId: vessel.id,
      rigId: rig.id,
      grade: values.grade,
      resinLitres: (resin === undefined ? undefined : toInternal("resinVolume", resin, units)) as number,
      packing: values.packing,
      stored:
        values.container === "fresh"
          ? undefined
          : { container: values.container, months: typedNumber(values.months) as number, warm: values.warm === "yes" },
      filledAt: now.toISOString(),
      startTotal: total === undefined ? undefined : toInternal("volume", total, units),
    };
    const complaints = [...complaintsAbout("charges", body)];
    if (body.resinLitres > vessel.grossVolume * 1.001)
      complaints.push({
        path: "resinLitres",
        message: "There is more resin than the vessel holds; check both volumes.",
      });
    setTrouble(placeComplaints(form, complaints, { "stored.months": "months" }));
    if (complaints.length > 0) return;
    if (open) {
      const { id: _id, version: _version, voided: _voided, ...before } = open;
      await change("charges", open, {
        ...before,
        ended: { at: now.toISOString(), why: values.why, ...(values.note ? { note: values.note } : {}) },
      });
    }
    await keep("charges", body);
    form.forget();
    showToast({ words: `${rig.name} is filled. Log its first reading after a minute of flow.` });
    router.navigate({ pathname: "/", params: { rig: rig.id } });
  };

  return (
    <View gap="$4">
      <Caution>Shut the feed and open the outlet to let the pressure down before you loosen anything.</Caution>
      {weight.ok ? (
        <Caution>{`The wet vessel weighs about ${shown("weight", weight.value.kilograms, units).text} ${unitOf("weight", units)}${weight.value.twoPeople ? ": lift with two or lay it down" : ""}; follow your local lifting rules.`}</Caution>
      ) : null}
      <Caution>
        Gloves and eye protection; keep beads off the floor and out of drains. The maker's safety data sheet has the
        last word.
      </Caution>
      {open ? (
        <View gap="$3">
          <Heading>The old charge</Heading>
          <FormChoice
            control={control}
            name="why"
            label="Why it is changed"
            options={[
              { value: "limit", label: "Reached its limit" },
              { value: "early", label: "Early, on purpose" },
              { value: "fault", label: "A fault" },
            ]}
          />
          <FormText control={control} name="note" label="Note" />
          <Body color="$soft">
            Spent beads are usually ordinary waste, bagged; ask your local authority or the supplier.
          </Body>
        </View>
      ) : null}
      <Heading>The new charge</Heading>
      <FormChoice control={control} name="grade" label="Resin" options={GRADE_OPTIONS} />
      <FieldRow>
        <FormNumber
          control={control}
          name="resinLitres"
          label="Resin put in"
          unit={unitOf("resinVolume", units)}
          hint={`${Math.round(100 * vessel.fillFraction)} % of ${vessel.name}`}
        />
        <FormNumber
          control={control}
          name="startTotal"
          label="Water meter now"
          unit={unitOf("volume", units)}
          hint="Leave empty without a meter."
        />
      </FieldRow>
      <FormChoice
        control={control}
        name="packing"
        label="How the beads lie"
        options={[
          { value: "settled", label: "Well settled" },
          { value: "poured", label: "Poured only" },
          { value: "loose-cartridge", label: "Loose" },
        ]}
      />
      <FormChoice control={control} name="container" label="How the bag was kept" options={CONTAINER_OPTIONS} />
      {watch("container") === "fresh" ? null : (
        <FieldRow>
          <FormNumber control={control} name="months" label="Kept for" unit="months" />
          <FormChoice
            control={control}
            name="warm"
            label="In a vehicle or the sun?"
            options={[
              { value: "no", label: "No" },
              { value: "yes", label: "Yes" },
            ]}
          />
        </FieldRow>
      )}
      <FormTrouble words={trouble} />
      <HeavyButton onPress={() => void save()} testID="save">
        {open ? "Close the old, start the new" : "Start this charge"}
      </HeavyButton>
    </View>
  );
}
