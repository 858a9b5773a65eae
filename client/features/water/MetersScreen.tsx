import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import {
  checkMeter,
  explainMeterCheck,
  isWithin,
  RANGES,
  reconcile,
  scaleFactor,
  type Meter,
  type Reading,
  type Scale,
} from "@winter-bead/core";
import { useState } from "react";
import type { Kept } from "../../data/api";
import { useDraft } from "../../data/draft";
import { useSettings } from "../../data/settings";
import { bodyOf } from "../../data/acts";
import { inUse } from "../../data/in-use";
import { change, useRecords } from "../../data/store";
import { Card, Choice, EmptyState, HeavyButton, PlainButton, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField } from "../../ui/fields";
import {
  localDate,
  percent,
  scaleUnit,
  threeDigits,
  toInternal,
  typedNumber,
  unitOf,
  type Units,
} from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { checkWords } from "./meter-words";

interface CupDraft {
  readonly value: string;
  readonly meterId: string;
  readonly scale: string;
  readonly temperature: string;
}
interface PairDraft {
  readonly first: CupDraft;
  readonly second: CupDraft;
}

const NO_METER = "other";
const EMPTY_CUP: CupDraft = { value: "", meterId: "", scale: "nacl", temperature: "" };
const SCALES = [
  { value: "nacl", label: "NaCl" },
  { value: "442", label: "442" },
  { value: "kcl", label: "KCl" },
  { value: "ec", label: "µS/cm" },
] as const;

function readingOf(cup: CupDraft, meter: Meter | undefined, units: Units): Reading | undefined {
  const value = typedNumber(cup.value);
  const temperature = typedNumber(cup.temperature);
  if (value === undefined || !(value > 0)) return undefined;
  return {
    value: Math.max(0, value - (meter?.offset ?? 0)),
    scale: meter?.scale ?? (cup.scale as Scale),
    ...(meter?.compensated === false ? { compensated: false } : {}),
    ...(temperature === undefined ? {} : { temperature: toInternal("temperature", temperature, units) }),
  };
}

function Cup({
  label,
  cup,
  patch,
  meters,
  units,
  testID,
}: {
  readonly label: string;
  readonly cup: CupDraft;
  readonly patch: (part: Partial<CupDraft>) => void;
  readonly meters: readonly Kept<"meters">[];
  readonly units: Units;
  readonly testID: string;
}) {
  const meter = meters.find((each) => each.id === cup.meterId);
  return (
    <View gap="$2">
      <Choice
        label={label}
        value={meter ? meter.id : NO_METER}
        options={[
          ...meters.map((each) => ({ value: each.id, label: each.name })),
          { value: NO_METER, label: "Another" },
        ]}
        onChange={(meterId) => patch({ meterId })}
      />
      {meter ? null : (
        <Choice
          label={`${label}: its scale`}
          hideLabel
          value={cup.scale as (typeof SCALES)[number]["value"]}
          options={SCALES}
          onChange={(scale) => patch({ scale })}
        />
      )}
      <FieldRow>
        <NumberField
          label={`${label} shows`}
          unit={scaleUnit(meter?.scale ?? (cup.scale as Scale))}
          value={cup.value}
          onChange={(value) => patch({ value })}
          testID={testID}
        />
        {meter?.compensated === false ? (
          <NumberField
            label="Temperature"
            unit={unitOf("temperature", units)}
            value={cup.temperature}
            onChange={(temperature) => patch({ temperature })}
          />
        ) : null}
      </FieldRow>
    </View>
  );
}

const times = (ratio: number) => threeDigits(ratio >= 1 ? ratio : 1 / ratio);

function PairAnswer({ first, second }: { readonly first: Reading; readonly second: Reading }) {
  const answer = reconcile({ first, second });
  if (!answer.ok) return <Body role="alert">{answer.fault.message}</Body>;
  const { firstEc25, secondEc25, shownRatio, scaleRatio, restRatio, agree, wouldExplain } = answer.value;
  const rest = percent(Math.abs(restRatio - 1));
  return (
    <Card borderColor="$ink" testID="pair-answer">
      <Strong fontSize="$3">{agree ? "They agree" : "They don’t agree"}</Strong>
      <Body>{`The first says ${threeDigits(firstEc25)} µS/cm at 25 °C, the second ${threeDigits(secondEc25)}.`}</Body>
      <Body>
        {Math.abs(scaleRatio - 1) > 0.01
          ? `Their numbers differ ${times(shownRatio)} times; their scales alone (${scaleUnit(first.scale)} and ${scaleUnit(second.scale)}) make ${times(scaleRatio)} times of it.`
          : `Both read on the same scale, so the numbers should be the same.`}
      </Body>
      <Body>
        {agree
          ? `What is left is ${rest} %, within what two good meters differ by.`
          : `${rest} % is left that the scales don’t explain.`}
      </Body>
      {wouldExplain.map((scale) => (
        <Body key={String(scale)} role="note">
          {`If the second stood on ${scaleUnit(scale)}, they would agree: look at its setting.`}
        </Body>
      ))}
      {!agree && wouldExplain.length === 0 ? (
        <Body>
          Check both against a standard solution below: rinse the probe first, and let both come to one temperature.
        </Body>
      ) : null}
      <Small>{`µS/cm = shown / factor; factors ${scaleFactor(first.scale)} and ${scaleFactor(second.scale)} ppm per µS/cm (Standard Methods 2510).`}</Small>
    </Card>
  );
}

function SideBySide({ meters }: { readonly meters: readonly Kept<"meters">[] }) {
  const { units } = useSettings();
  const [pair, patch] = useDraft<PairDraft>("meters-side-by-side", {
    first: { ...EMPTY_CUP, meterId: meters[0]?.id ?? NO_METER },
    second: { ...EMPTY_CUP, meterId: meters[1]?.id ?? NO_METER, scale: "442" },
  });
  const meterOf = (cup: CupDraft) => meters.find((each) => each.id === cup.meterId);
  const first = readingOf(pair.first, meterOf(pair.first), units);
  const second = readingOf(pair.second, meterOf(pair.second), units);
  return (
    <View gap="$4">
      <Body color="$soft">
        Put both in the same cup of tap water, wait until they settle, and type what each shows.
      </Body>
      <Cup
        label="First meter"
        cup={pair.first}
        patch={(part) => patch({ first: { ...pair.first, ...part } })}
        meters={meters}
        units={units}
        testID="pair-first"
      />
      <Cup
        label="Second meter"
        cup={pair.second}
        patch={(part) => patch({ second: { ...pair.second, ...part } })}
        meters={meters}
        units={units}
        testID="pair-second"
      />
      {first && second ? <PairAnswer first={first} second={second} /> : null}
    </View>
  );
}

const STANDARDS = [
  { value: "84", label: "84 µS/cm" },
  { value: "1413", label: "1,413 µS/cm" },
  { value: "own", label: "Another" },
] as const;

interface CheckDraft {
  readonly meterId: string;
  readonly bottle: (typeof STANDARDS)[number]["value"];
  readonly standard: string;
  readonly shown: string;
  readonly offset: string;
}

function CheckAnswer({ meter, draft }: { readonly meter: Kept<"meters">; readonly draft: CheckDraft }) {
  const standardEc25 = typedNumber(draft.bottle === "own" ? draft.standard : draft.bottle);
  const shown = typedNumber(draft.shown);
  const offset = typedNumber(draft.offset) ?? 0;
  if (standardEc25 === undefined || shown === undefined) return null;
  const answer = checkMeter({ scale: meter.scale, standardEc25, shown, offset });
  if (!answer.ok) return <Body role="alert">{answer.fault.message}</Body>;
  const { expected, error, good, ownFactor } = answer.value;
  const explained = explainMeterCheck({ scale: meter.scale, standardEc25, shown, offset });
  const before = bodyOf(meter);
  const keepIt = async (part: Partial<Meter>, words: string) => {
    const body = {
      ...before,
      check: { standard: standardEc25, shown },
      checkedOn: localDate(clockNow()),
      offset: offset > 0 ? offset : undefined,
      ...part,
    };
    const { undo } = await change("meters", meter, body);
    showToast({ words, undo });
  };
  const canBeOwn = isWithin(ownFactor, RANGES.scaleFactor) && meter.scale !== "ec";
  const factor = Number(ownFactor.toFixed(3));
  return (
    <Card borderColor="$ink" testID="check-answer">
      <Explained explanation={explained.ok ? explained.value : undefined} testID="explain-check">
        <Strong fontSize="$3" textDecorationLine="underline" textDecorationStyle="dotted">
          {`${percent(Math.abs(error))} % ${error >= 0 ? "high" : "low"}: ${good ? "good" : "more than a good meter should be"}`}
        </Strong>
      </Explained>
      <Body>{`It should show ${threeDigits(expected)} ${scaleUnit(meter.scale)} in this bottle. In truth it shows ${factor} per µS/cm.`}</Body>
      {offset > 0 ? (
        <Body>{`${threeDigits(offset)} ${scaleUnit(meter.scale)} in pure water will be taken off all its readings.`}</Body>
      ) : null}
      <HeavyButton onPress={() => void keepIt({}, `Kept: ${meter.name} was checked today.`)} testID="keep-check">
        Keep this check
      </HeavyButton>
      {!good && canBeOwn ? (
        <PlainButton
          onPress={() =>
            void keepIt({ scale: factor }, `${meter.name} reads by its own factor ${factor} now, its history too.`)
          }
          testID="own-factor"
        >{`Read it by its own factor, ${factor}`}</PlainButton>
      ) : null}
      {!good && !canBeOwn ? <Body role="note">Clean the probe and check again; else have it calibrated.</Body> : null}
    </Card>
  );
}

function AgainstStandard({ meters }: { readonly meters: readonly Kept<"meters">[] }) {
  const [draft, patch] = useDraft<CheckDraft>("meter-check", {
    meterId: meters[0]!.id,
    bottle: "1413",
    standard: "",
    shown: "",
    offset: "",
  });
  const meter = meters.find((each) => each.id === draft.meterId) ?? meters[0]!;
  return (
    <View gap="$3">
      <Choice
        label="Meter"
        value={meter.id}
        options={meters.map((each) => ({ value: each.id, label: each.name }))}
        onChange={(meterId) => patch({ meterId })}
      />
      <Small>{checkWords(meter)}</Small>
      <Choice
        label="Standard solution, at 25 °C"
        value={draft.bottle}
        options={STANDARDS}
        onChange={(bottle) => patch({ bottle })}
      />
      <FieldRow>
        {draft.bottle === "own" ? (
          <NumberField
            label="The bottle says"
            unit="µS/cm"
            value={draft.standard}
            onChange={(standard) => patch({ standard })}
          />
        ) : null}
        <NumberField
          label="It shows"
          unit={scaleUnit(meter.scale)}
          value={draft.shown}
          onChange={(shown) => patch({ shown })}
          testID="check-shown"
        />
        <NumberField
          label="In pure water"
          unit={scaleUnit(meter.scale)}
          value={draft.offset}
          onChange={(offset) => patch({ offset })}
          hint="Leave empty for 0"
          testID="check-offset"
        />
      </FieldRow>
      <CheckAnswer meter={meter} draft={draft} />
    </View>
  );
}

/** Why two meters disagree, and how each does against a standard. */
export function MetersScreen() {
  const { records, pending } = useRecords("meters");
  const meters = inUse(records);
  const wide = useWide();
  const [open, setOpen] = useState(false);
  if (pending)
    return (
      <Screen title="Meters">
        <Body role="status">One moment…</Body>
      </Screen>
    );
  const check =
    meters.length > 0 ? (
      <View gap="$3">
        <Heading>Against a standard</Heading>
        <AgainstStandard meters={meters} />
      </View>
    ) : (
      <EmptyState title="No meter yet" action={<HeavyButton href="/setup/meter">Add a meter</HeavyButton>}>
        Add yours with its scale, so that its readings mean something. Two meters can be compared without it.
      </EmptyState>
    );
  return (
    <Screen title="Meters side by side" detail={wide ? check : undefined}>
      <View gap="$5">
        <SideBySide meters={meters} />
        {wide ? null : check}
        <View gap="$1">
          <TextButton onPress={() => setOpen(!open)} expanded={open}>
            Why meters disagree
          </TextButton>
          {open ? (
            <Body>
              A meter measures conductivity and shows it as ppm by a factor: 0.5 for sodium chloride, 0.7 for the
              natural-water scale called 442, 0.53 for potassium chloride. The same water reads 40 % higher on 442 than
              on NaCl. Limits and trade constants are usually meant on NaCl.
            </Body>
          ) : null}
        </View>
      </View>
    </Screen>
  );
}
