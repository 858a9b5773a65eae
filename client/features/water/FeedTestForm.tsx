import { View } from "@tamagui/core";
import { onScale, questionReading, recordedEc25, type FeedTest } from "@winter-bead/core";
import { useMemo, useState } from "react";
import { useDraft } from "../../data/draft";
import { useSettings } from "../../data/settings";
import { keep, useRecords } from "../../data/store";
import { Card, Choice, HeavyButton } from "../../ui/boxes";
import { FieldRow, NumberField, TextField } from "../../ui/fields";
import { FormTrouble } from "../../ui/form";
import { scaleUnit, threeDigits, toInternal, typedNumber, unitOf } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body, Small, Strong } from "../../ui/words";
import type { TapWater } from "./tap-water";
import { recordCheck } from "../record-check";

interface Draft {
  value: string;
  meterId: string;
  temperature: string;
  note: string;
}

const EMPTY: Draft = { value: "", meterId: "", temperature: "", note: "" };

/** A reading of this tap, questioned while it is typed when it doesn't fit; never refused for that. */
export function FeedTestForm({ water, all }: { readonly water: TapWater; readonly all: readonly TapWater[] }) {
  const { units } = useSettings();
  const { records: meters } = useRecords("meters");
  const [typed, patch, clear] = useDraft<Draft>(`feed-test:${water.tap.id}`, EMPTY);
  const [trouble, setTrouble] = useState<string>();
  const meter = meters.find((each) => each.id === typed.meterId) ?? meters[0];
  const scale = meter?.scale ?? water.tap.scale;
  const value = typedNumber(typed.value);
  const temperature = typedNumber(typed.temperature);
  const body: Omit<FeedTest, "id"> = {
    tapId: water.tap.id,
    at: new Date().toISOString(),
    ...(meter ? { meterId: meter.id } : { scale }),
    value: value ?? NaN,
    temperature: temperature === undefined ? undefined : toInternal("temperature", temperature, units),
    note: typed.note.trim() === "" ? undefined : typed.note,
  };
  const ec25 = value === undefined ? undefined : recordedEc25(body, new Map(meters.map((each) => [each.id, each])));
  const doubt = useMemo(() => {
    if (value === undefined || ec25 === undefined) return undefined;
    const others = all
      .filter((each) => each.tap.id !== water.tap.id && each.range)
      .map((each) => ({ name: each.tap.name, typical: each.range!.typical }));
    return questionReading({ value, scale, ec25 }, water.range, others);
  }, [value, ec25, scale, water, all]);

  const save = async () => {
    const complaintsAbout = await recordCheck();
    const complaints = complaintsAbout("feed-tests", body);
    setTrouble(complaints.map(({ message }) => message).join(" ") || undefined);
    if (complaints.length > 0) return;
    const { undo } = await keep("feed-tests", body);
    clear();
    showToast({ words: `Kept: ${threeDigits(value!)} ${scaleUnit(scale)} at ${water.tap.name}.`, undo });
  };

  return (
    <Card gap="$3" testID="feed-test-form">
      <Body color="$soft">
        Cold water, after the line has run a minute or two; rinse the cup, wait until the reading settles.
      </Body>
      <FieldRow>
        <NumberField
          label="Reading"
          unit={scaleUnit(scale)}
          value={typed.value}
          onChange={(text) => patch({ value: text })}
          testID="feed-value"
        />
        <NumberField
          label="Temperature"
          unit={unitOf("temperature", units)}
          value={typed.temperature}
          onChange={(text) => patch({ temperature: text })}
          testID="feed-temperature"
          {...(meter?.compensated === false ? { hint: "This meter needs it" } : {})}
        />
      </FieldRow>
      {meters.length > 1 ? (
        <Choice
          label="Meter"
          value={meter?.id}
          options={meters.map((each) => ({ value: each.id, label: `${each.name}, ${scaleUnit(each.scale)}` }))}
          onChange={(meterId) => patch({ meterId })}
        />
      ) : null}
      {meter ? null : <Small>{`No meter is set up: read as ${scaleUnit(scale)}, this tap's scale.`}</Small>}
      {doubt ? (
        <View role="note" testID="doubt" borderLeftColor="$rowan" borderLeftWidth={4} paddingLeft="$3" gap="$1">
          <Strong>{`${threeDigits(doubt.ratio)} times this tap's usual ${threeDigits(onScale(water.range!.typical, scale))} ${scaleUnit(scale)}.`}</Strong>
          {doubt.possibilities.map((words) => (
            <Body key={words}>{words}</Body>
          ))}
        </View>
      ) : null}
      <TextField label="Note" value={typed.note} onChange={(note) => patch({ note })} testID="feed-note" />
      <FormTrouble words={trouble} />
      <HeavyButton onPress={() => void save()} disabled={value === undefined} testID="keep-feed-test">
        {doubt ? "It is right: keep it" : "Keep this reading"}
      </HeavyButton>
    </Card>
  );
}
