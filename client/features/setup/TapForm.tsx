import type { Tap } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { useLocalSearchParams } from "expo-router";
import { useMemo, useState } from "react";
import { changed, kept } from "../../data/acts";
import type { Kept } from "../../data/api";
import { act, newId, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { BesideField, RecordField } from "../../forms/RecordField";
import { scaleOf } from "../../forms/scales";
import { RecordForm } from "../../forms/RecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { useRecordForm } from "../../forms/useRecordForm";
import { TextButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { scaleUnit } from "../../ui/format";
import { KhField } from "../../ui/KhField";
import { Body } from "../../ui/words";
import { NEW_PLACE, tapAsTyped } from "./tap-as-typed";

/** A tap: where the water comes from, and how hard it is. */
export function TapForm({ tap }: { readonly tap: Kept<"taps"> | undefined }) {
  const { records: sites } = useRecords("sites");
  const { then, more: asked } = useLocalSearchParams<{ then?: string; more?: string }>();
  const [more, setMore] = useState(tap?.ph !== undefined || tap?.alkalinity !== undefined || asked !== undefined);
  const siteId = useMemo(newId, []);
  const parts = useMemo(
    () => ({
      tap: { kind: "taps" as const, before: tap ?? { scale: "nacl" } },
      site: { kind: "sites" as const, before: { name: "" } },
    }),
    [tap],
  );
  const beside = useMemo(() => ({ place: tap?.siteId ?? sites[0]?.id ?? NEW_PLACE, siteName: "" }), [tap, sites]);
  const form = useRecordForm({
    name: `tap:${tap?.id ?? "new"}`,
    parts,
    beside,
    compose: (bodies, texts) => tapAsTyped(bodies, texts, siteId),
    places: { "site.name": "beside.siteName" },
  });
  const scale = scaleUnit(scaleOf(String(form.watch("tap.scale"))));
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["tap"] as unknown as Tap;
      const done = await act(`Tap ${body.name}`, [
        ...(bodies["site"] ? [kept("sites", bodies["site"] as never, siteId)] : []),
        tap ? changed("taps", tap, body) : kept("taps", body, newId()),
      ]);
      return { ...done, words: `Kept: ${body.name}.`, away: then === "/size/vessel" ? then : "/setup" };
    });
  const places = [
    ...sites.map((site) => ({ value: site.id, label: site.name })),
    { value: NEW_PLACE, label: "A new site" },
  ];
  return (
    <RecordForm form={form}>
      <Body color="$soft">
        Test the tap that will really feed the vessel, cold, after a minute or two of running, on several days.
      </Body>
      {sites.length > 0 ? <BesideField form={form} name="place" label="Site" is="choice" options={places} /> : null}
      {form.watch("beside.place") === NEW_PLACE ? (
        <BesideField form={form} name="siteName" label="Name of the site" is="text" />
      ) : null}
      <RecordField form={form} path="tap.name" label="Name of the tap" />
      <RecordField form={form} path="tap.scale" label="The meter's scale" />
      <FieldRow>
        <RecordField form={form} path="tap.low" label="Lowest seen" unit={scale} />
        <RecordField form={form} path="tap.typical" unit={scale} />
        <RecordField form={form} path="tap.high" label="Highest seen" unit={scale} />
      </FieldRow>
      <Body color="$soft">
        Only one reading yet? Enter it as typical: 15 % either way is assumed until you know more.
      </Body>
      <TextButton onPress={() => setMore(!more)} expanded={more}>
        {more ? "Less" : "KH, pH, silica, temperature"}
      </TextButton>
      {more ? (
        <FieldRow>
          <RecordField form={form} path="tap.temperature" />
          <RecordField form={form} path="tap.ph" label="pH" />
          <RecordField form={form} path="tap.alkalinity" as={(shown) => <KhField {...shown} />} />
          <RecordField form={form} path="tap.silica" />
        </FieldRow>
      ) : null}
      <View>
        <KeepRow form={form} kind="taps" record={tap} away="/setup" onKeep={save}>
          Keep this tap
        </KeepRow>
      </View>
    </RecordForm>
  );
}
