import { wetWeight, type Vessel } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { router } from "expo-router";
import { useState } from "react";
import type { Control } from "react-hook-form";
import { changed, kept } from "../../data/acts";
import { act, newId, useRecords } from "../../data/store";
import { useSettings } from "../../data/settings";
import { Caution, HeavyButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { FormChoice, FormNumber, FormText, FormTrouble, placeComplaints, useKeptForm } from "../../ui/form";
import { shown, unitOf } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body, Heading } from "../../ui/words";
import type { RigFacts } from "../run/assess";
import { chargeBody, endedBody, overfull, usualCharge, type ChargeValues } from "./charge-values";
import { CONTAINER_OPTIONS, GRADE_OPTIONS } from "./presets";
import { recordCheck } from "../record-check";

interface SectionProps {
  readonly control: Control<ChargeValues>;
}

function OldCharge({ control }: SectionProps) {
  return (
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
  );
}

function NewCharge({ control, stored, vessel }: SectionProps & { readonly stored: boolean; readonly vessel: Vessel }) {
  const { units } = useSettings();
  return (
    <View gap="$4">
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
      {stored ? (
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
      ) : null}
    </View>
  );
}

function Cautions({ vessel, resin }: { readonly vessel: Vessel; readonly resin: number }) {
  const { units } = useSettings();
  const weight = wetWeight({
    empty: vessel.emptyWeight ?? 0,
    resin: Math.min(vessel.grossVolume, resin),
    grossVolume: vessel.grossVolume,
  });
  const heavy = weight.ok ? shown("weight", weight.value.kilograms, units) : undefined;
  const lift = weight.ok && weight.value.twoPeople ? ": lift with two or lay it down" : "";
  return (
    <>
      <Caution>Shut the feed and open the outlet to let the pressure down before you loosen anything.</Caution>
      {heavy ? (
        <Caution>{`The wet vessel weighs about ${heavy.text} ${heavy.unit}${lift}; follow your local lifting rules.`}</Caution>
      ) : null}
      <Caution>
        Gloves and eye protection; keep beads off the floor and out of drains. The maker's safety data sheet has the
        last word.
      </Caution>
    </>
  );
}

/** A refill: the old charge ends with its reason, the new one begins. */
export function ChargeForm({ facts }: { readonly facts: RigFacts }) {
  const { rig, vessel } = facts;
  const { units } = useSettings();
  const { records: charges } = useRecords("charges");
  const [trouble, setTrouble] = useState<string>();
  const open = charges.find((charge) => charge.vesselId === vessel.id && charge.ended === undefined);
  const form = useKeptForm<ChargeValues>(`charge:${vessel.id}:${units}`, usualCharge(vessel, open, units));
  const { control, watch, getValues, clearErrors } = form;

  const save = async () => {
    const complaintsAbout = await recordCheck();
    clearErrors();
    const values = getValues();
    const now = new Date();
    const body = chargeBody(values, vessel, rig.id, units, now);
    const complaints = [...complaintsAbout("charges", body), ...overfull(body, vessel)];
    setTrouble(placeComplaints(form, complaints, { "stored.months": "months" }));
    if (complaints.length > 0) return;
    const { undo } = await act(
      `Refill of ${rig.name}`,
      [...(open ? [changed("charges", open, endedBody(open, values, now))] : []), kept("charges", body, newId())],
      now.toISOString(),
    );
    form.forget();
    showToast({ words: `${rig.name} is filled. Log its first reading after a minute of flow.`, undo });
    router.navigate({ pathname: "/", params: { rig: rig.id } });
  };

  return (
    <View gap="$4">
      <Cautions vessel={vessel} resin={open?.resinLitres ?? vessel.grossVolume * vessel.fillFraction} />
      {open ? <OldCharge control={control} /> : null}
      <NewCharge control={control} stored={watch("container") !== "fresh"} vessel={vessel} />
      <FormTrouble words={trouble} />
      <HeavyButton onPress={() => void save()} testID="save">
        {open ? "Close the old, start the new" : "Start this charge"}
      </HeavyButton>
    </View>
  );
}
