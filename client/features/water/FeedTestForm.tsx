import { clockNowIso } from "../../data/clock";
import { View } from "@tamagui/core";
import { onScale, questionReading, recordedEc25, type FeedTest } from "@winter-bead/core";
import { useMemo } from "react";
import { inUse } from "../../data/in-use";
import { keep, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { useRecordForm } from "../../forms/useRecordForm";
import { Card, HeavyButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { scaleUnit, threeDigits } from "../../ui/format";
import { Body, Small, Strong } from "../../ui/words";
import type { TapWater } from "./tap-water";

/** A reading of this tap, questioned while it is typed when it doesn't fit; never refused for that. */
export function FeedTestForm({ water, all }: { readonly water: TapWater; readonly all: readonly TapWater[] }) {
  const { records } = useRecords("meters");
  const meters = useMemo(() => inUse(records), [records]);
  const opened = useMemo(() => clockNowIso(), []);
  const parts = useMemo(
    () => ({
      test: {
        kind: "feed-tests" as const,
        before: {
          ...{ tapId: water.tap.id, at: opened },
          ...(meters.length > 0 ? { meterId: meters[0]!.id } : { scale: water.tap.scale }),
        },
      },
    }),
    [water.tap, opened, meters],
  );
  const form = useRecordForm({
    name: `feed-test:${water.tap.id}`,
    parts,
    compose: (bodies) => {
      const test = bodies["test"] as unknown as FeedTest;
      // Not touched, it was taken when it is kept.
      return { test: { ...test, ...(test.at === opened ? { at: clockNowIso() } : {}) } };
    },
  });
  const typed = form.bodiesNow()["test"] as unknown as FeedTest;
  const meter = meters.find(({ id }) => id === typed.meterId);
  const scale = meter?.scale ?? water.tap.scale;
  const value = Number.isFinite(typed.value) ? typed.value : undefined;
  const ec25 = value === undefined ? undefined : recordedEc25(typed, new Map(meters.map((each) => [each.id, each])));
  const doubt = useMemo(() => {
    if (value === undefined || ec25 === undefined) return undefined;
    const others = all
      .filter((each) => each.tap.id !== water.tap.id && each.range)
      .map((each) => ({ name: each.tap.name, typical: each.range!.typical }));
    return questionReading({ value, scale, ec25 }, water.range, others);
  }, [value, ec25, scale, water, all]);

  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["test"] as unknown as FeedTest;
      const done = await keep("feed-tests", { ...body, ...(doubt ? { confirmed: true } : {}) });
      return { ...done, words: `Kept: ${threeDigits(body.value)} ${scaleUnit(scale)} at ${water.tap.name}.` };
    });

  return (
    <Card gap="$3" testID="feed-test-form">
      <RecordForm form={form}>
        <Body color="$soft">
          Cold water, after the line has run a minute or two; rinse the cup, wait until the reading settles.
        </Body>
        <FieldRow>
          <RecordField form={form} path="test.value" unit={scaleUnit(scale)} testID="feed-value" />
          <RecordField
            form={form}
            path="test.temperature"
            testID="feed-temperature"
            {...(meter?.compensated === false ? { hint: "This meter needs it" } : {})}
          />
        </FieldRow>
        {meters.length > 1 ? (
          <RecordField
            form={form}
            path="test.meterId"
            options={meters.map(({ id, name, scale: of }) => ({ value: id, label: `${name}, ${scaleUnit(of)}` }))}
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
        <RecordField form={form} path="test.at" testID="feed-when" />
        <RecordField form={form} path="test.note" testID="feed-note" />
        <HeavyButton onPress={() => void save()} disabled={value === undefined} testID="keep-feed-test">
          {doubt ? "It is right: keep it" : "Keep this reading"}
        </HeavyButton>
      </RecordForm>
    </Card>
  );
}
