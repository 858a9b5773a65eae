import type { Meter } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { router } from "expo-router";
import { useState } from "react";
import type { Kept } from "../../data/api";
import { change, keep } from "../../data/store";
import { HeavyButton } from "../../ui/boxes";
import { FormChoice, FormNumber, FormText, FormTrouble, placeComplaints, useKeptForm } from "../../ui/form";
import { typedNumber } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body } from "../../ui/words";
import { SCALE_OPTIONS } from "./presets";
import { toScale } from "./tap-values";
import { recordCheck } from "../record-check";

interface MeterValues {
  name: string;
  scale: string;
  factor: string;
  compensated: "yes" | "no";
  checkedOn: string;
}

/** A meter: its scale is what makes its numbers mean something. */
export function MeterForm({ meter }: { readonly meter: Kept<"meters"> | undefined }) {
  const [trouble, setTrouble] = useState<string>();
  const ownFactor = typeof meter?.scale === "number";
  const form = useKeptForm<MeterValues>(`meter:${meter?.id ?? "new"}`, {
    name: meter?.name ?? "",
    scale: ownFactor ? "own" : String(meter?.scale ?? "nacl"),
    factor: ownFactor ? String(meter.scale) : "0.64",
    compensated: meter?.compensated === false ? "no" : "yes",
    checkedOn: meter?.checkedOn ?? "",
  });
  const { control, watch, getValues, clearErrors } = form;

  const save = async () => {
    const complaintsAbout = await recordCheck();
    clearErrors();
    const { name, scale, factor, compensated, checkedOn } = getValues();
    const body: Omit<Meter, "id"> = {
      name,
      scale: scale === "own" ? (typedNumber(factor) as number) : toScale(scale),
      compensated: compensated === "yes",
      checkedOn: checkedOn === "" ? undefined : checkedOn,
      check: meter?.check,
      offset: meter?.offset,
    };
    const complaints = complaintsAbout("meters", body);
    setTrouble(placeComplaints(form, complaints, scale === "own" ? { scale: "factor" } : {}));
    if (complaints.length > 0) return;
    const { undo } = meter ? await change("meters", meter, body) : await keep("meters", body);
    form.forget();
    showToast({ words: meter ? `Changed: ${name}. Its history reads by the new scale.` : `Kept: ${name}.`, undo });
    router.navigate("/setup");
  };

  return (
    <View gap="$4">
      <Body color="$soft">
        A reading without its scale is ambiguous by 40 %. A switchable meter: look which scale it stands on.
      </Body>
      <FormText control={control} name="name" label="Name of the meter" />
      <FormChoice
        control={control}
        name="scale"
        label="Scale"
        options={[...SCALE_OPTIONS, { value: "own", label: "Own factor" }]}
      />
      {watch("scale") === "own" ? (
        <FormNumber control={control} name="factor" label="ppm shown per µS/cm" hint="0.40 to 1.00" />
      ) : null}
      <FormChoice
        control={control}
        name="compensated"
        label="Does it correct to 25 °C by itself?"
        options={[
          { value: "yes", label: "Yes, as most do" },
          { value: "no", label: "No" },
        ]}
      />
      <FormText
        control={control}
        name="checkedOn"
        label="Last checked against a standard (year-month-day)"
        hint="Leave empty if never."
      />
      <FormTrouble words={trouble} />
      <HeavyButton onPress={() => void save()} testID="save">
        Keep this meter
      </HeavyButton>
    </View>
  );
}
