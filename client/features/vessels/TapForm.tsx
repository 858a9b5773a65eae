import { router, useLocalSearchParams } from "expo-router";
import { useState } from "react";
import { View } from "@tamagui/core";
import type { Kept } from "../../data/api";
import { changed, kept } from "../../data/acts";
import { act, newId, useRecords } from "../../data/store";
import { useSettings } from "../../data/settings";
import { HeavyButton, TextButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { FormChoice, FormNumber, FormText, FormTrouble, placeComplaints, useKeptForm } from "../../ui/form";
import { scaleUnit, unitOf } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body } from "../../ui/words";
import { SCALE_OPTIONS } from "./presets";
import { NEW_SITE, tapBody, tapValues, toScale, type TapValues } from "./tap-values";
import { recordCheck } from "../record-check";

/** Stands for the place that is kept only once everything is right. */
const NOT_YET = "00000000-0000-7000-8000-000000000000";

/** A place and the tap that feeds the vessel there. */
export function TapForm({ tap }: { readonly tap: Kept<"taps"> | undefined }) {
  const { units } = useSettings();
  const { records: sites } = useRecords("sites");
  const [more, setMore] = useState(false);
  const { then } = useLocalSearchParams<{ then?: string }>();
  const [trouble, setTrouble] = useState<string>();
  const form = useKeptForm<TapValues>(`tap:${tap?.id ?? "new"}`, tapValues(tap, sites[0]?.id, units));
  const { control, watch, getValues, clearErrors } = form;
  const scale = watch("scale");
  const makesSite = watch("siteId") === NEW_SITE || !sites.some((site) => site.id === watch("siteId"));

  const save = async () => {
    const complaintsAbout = await recordCheck();
    clearErrors();
    const values = getValues();
    const site = { name: values.siteName };
    const siteComplaints = makesSite
      ? complaintsAbout("sites", site).map((each) => ({ ...each, path: "siteName" }))
      : [];
    const draft = tapBody(values, makesSite ? NOT_YET : values.siteId, units);
    const complaints = [...siteComplaints, ...complaintsAbout("taps", draft)];
    setTrouble(placeComplaints(form, complaints, { siteId: "siteName" }));
    if (complaints.length > 0) return;
    const siteId = makesSite ? newId() : values.siteId;
    const body = tapBody(values, siteId, units);
    const { undo } = await act(`Tap ${values.name}`, [
      ...(makesSite ? [kept("sites", site, siteId)] : []),
      tap ? changed("taps", tap, body) : kept("taps", body, newId()),
    ]);
    form.forget();
    showToast({ words: `Kept: ${values.name}.`, undo });
    router.navigate(then === "/size/vessel" ? then : "/setup");
  };

  return (
    <View gap="$4">
      <Body color="$soft">
        Test the tap that will really feed the vessel, cold, after a minute or two of running, on several days.
      </Body>
      {sites.length > 0 ? (
        <FormChoice
          control={control}
          name="siteId"
          label="Where"
          options={[
            ...sites.map((site) => ({ value: site.id, label: site.name })),
            { value: NEW_SITE, label: "A new place" },
          ]}
        />
      ) : null}
      {makesSite ? <FormText control={control} name="siteName" label="Name of the place" /> : null}
      <FormText control={control} name="name" label="Name of the tap" />
      <FormChoice control={control} name="scale" label="The meter's scale" options={SCALE_OPTIONS} />
      <FieldRow>
        <FormNumber control={control} name="low" label="Lowest seen" unit={scaleUnit(toScale(scale))} />
        <FormNumber control={control} name="typical" label="Typical" unit={scaleUnit(toScale(scale))} />
        <FormNumber control={control} name="high" label="Highest seen" unit={scaleUnit(toScale(scale))} />
      </FieldRow>
      <Body color="$soft">
        Only one reading yet? Enter it as typical: 15 % either way is assumed until you know more.
      </Body>
      <TextButton onPress={() => setMore(!more)} expanded={more}>
        {more ? "Less" : "Temperature, pH, alkalinity, silica"}
      </TextButton>
      {more ? (
        <FieldRow>
          <FormNumber control={control} name="temperature" label="Temperature" unit={unitOf("temperature", units)} />
          <FormNumber control={control} name="ph" label="pH" />
          <FormNumber control={control} name="alkalinity" label="Alkalinity" unit="mg/L CaCO3" />
          <FormNumber control={control} name="silica" label="Silica" unit="mg/L" />
        </FieldRow>
      ) : null}
      <FormTrouble words={trouble} />
      <HeavyButton onPress={() => void save()} testID="save">
        Keep this tap
      </HeavyButton>
    </View>
  );
}
