import { View } from "@tamagui/core";
import {
  explainMembrane,
  nextStep,
  observationWords,
  type Explanation,
  type ObservationName,
  type Rig,
  type SeenBeside,
  type Suspect,
} from "@winter-bead/core";
import { router } from "expo-router";
import { useMemo, useState } from "react";
import type { Kept } from "../../data/api";
import { useDraft } from "../../data/draft";
import { useSettings } from "../../data/settings";
import { keep, useRecords } from "../../data/store";
import { Card, Caution, Choice, EmptyState, HeavyButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField } from "../../ui/fields";
import { FormTrouble } from "../../ui/form";
import { momentInWords, scaleUnit, threeDigits, unitOf } from "../../ui/format";
import { Screen, useWide } from "../../ui/Screen";
import { showToast } from "../../ui/toast";
import { Big, Body, Heading, Small, Strong } from "../../ui/words";
import { MembraneChart } from "./MembraneChart";
import {
  checkBody,
  EMPTY_CHECK,
  membraneTrend,
  stateWords,
  wearOf,
  type MembranePoint,
  type TypedCheck,
} from "./membrane-values";
import { RatedMembrane } from "./RatedMembrane";
import { wholeMoney } from "../plan/money";
import { usePrices } from "../plan/usePrices";
import { recordCheck } from "../record-check";

function Figure({ name, explanation }: { readonly name: string; readonly explanation: Explanation }) {
  return (
    <View minWidth={140} flexGrow={1}>
      <Explained explanation={explanation}>
        <View>
          <Small textAlign="left">{name}</Small>
          <View flexDirection="row" alignItems="baseline" gap="$1">
            <Big textDecorationLine="underline">{threeDigits(explanation.value)}</Big>
            <Strong>{explanation.unit}</Strong>
          </View>
        </View>
      </Explained>
    </View>
  );
}

const ACTION: Readonly<Partial<Record<Suspect["cause"], string>>> = {
  "prefilter-clogged": "a new sediment cartridge",
  "carbon-spent": "a new carbon cartridge",
  "membrane-worn": "the membrane’s seals, then a new membrane",
};

/** What to try next, by its chance for its money. */
function Next({ wear }: { readonly wear: readonly Suspect[] }) {
  const { prices, currency } = usePrices();
  const next = nextStep(wear, prices.membrane);
  if (!next) return <Body testID="next-step">Nothing is likely enough to spend money on yet.</Body>;
  return (
    <Body testID="next-step">
      <Strong>{`Next: ${ACTION[next.suspect.cause] ?? next.suspect.name}`}</Strong>
      {`, about ${wholeMoney(next.costs, currency)}: the most chance for the money.`}
    </Body>
  );
}

function Latest({ point, points }: { readonly point: MembranePoint; readonly points: readonly MembranePoint[] }) {
  const clean = [...points].reverse().find((each) => each.check.clean);
  const explained = explainMembrane(point.figures, clean?.figures);
  if (!explained.ok) return null;
  const { rejection, recovery, waste, flow } = explained.value;
  return (
    <View gap="$3">
      <Body testID="membrane-state">{stateWords(point)}</Body>
      <View flexDirection="row" flexWrap="wrap" gap="$4">
        {point.state.flowShare === undefined ? null : <Figure name="Flow against clean" explanation={flow} />}
        <Figure name="Rejection" explanation={rejection} />
        <Figure name="Recovery" explanation={recovery} />
        <Figure name="Waste" explanation={waste} />
      </View>
      <Small>{`As checked ${momentInWords(point.at, Date.now())}.`}</Small>
    </View>
  );
}

/** Words for how likely a cause is; a chance of one number would be false precision. */
const likelihood = (chance: number) =>
  chance > 0.75 ? "likely" : chance > 0.45 ? "may well be" : chance > 0.2 ? "less likely" : "unlikely";

function SuspectCard({ suspect, place }: { readonly suspect: Suspect; readonly place: number }) {
  const { name, chance, reasonsFor, reasonsAgainst } = suspect;
  return (
    <View borderTopColor="$line" borderTopWidth={1} paddingVertical="$2" gap={2} testID="suspect">
      <Body>
        <Strong>{`${place}. ${name}`}</Strong>
        {`: ${likelihood(chance)}`}
      </Body>
      {reasonsFor.map(({ words }) => (
        <Body key={words}>{`For: ${words.toLowerCase()}.`}</Body>
      ))}
      {reasonsAgainst.map(({ words }) => (
        <Body key={words} color="$soft">{`Against: ${words.toLowerCase()}.`}</Body>
      ))}
      {reasonsFor.length + reasonsAgainst.length === 0 ? <Small>Nothing seen speaks for or against it.</Small> : null}
    </View>
  );
}

const ASKED: readonly (keyof SeenBeside & ObservationName)[] = [
  "pressure-falls-running",
  "sediment-old",
  "carbon-old",
  "chlorine-behind-carbon",
  "membrane-old",
];

function Seen({ seen, onChange }: { readonly seen: SeenBeside; readonly onChange: (seen: SeenBeside) => void }) {
  return (
    <View gap="$2">
      <Small>What you see beside it; leave open what you don’t know</Small>
      {ASKED.map((name) => {
        const value = seen[name];
        return (
          <Choice
            key={name}
            label={observationWords(name).yes}
            value={value === undefined ? "open" : value ? "yes" : "no"}
            options={[
              { value: "yes", label: "Yes" },
              { value: "no", label: "No" },
              { value: "open", label: "Don’t know" },
            ]}
            onChange={(answer) => {
              const { [name]: _, ...rest } = seen;
              onChange(answer === "open" ? rest : { ...rest, [name]: answer === "yes" });
            }}
          />
        );
      })}
    </View>
  );
}

function CheckForm({ rig, meters }: { readonly rig: Rig; readonly meters: readonly Kept<"meters">[] }) {
  const { units } = useSettings();
  const [typed, patch, clear] = useDraft<TypedCheck>(`membrane:${rig.id}`, EMPTY_CHECK);
  const [trouble, setTrouble] = useState<string>();
  const meter = meters.find((each) => each.id === typed.meterId) ?? meters[0];
  const save = async () => {
    const complaintsAbout = await recordCheck();
    const body = { ...checkBody(typed, rig.id, meter, units), at: new Date().toISOString() };
    const complaints = complaintsAbout("membrane-checks", body);
    setTrouble(complaints.map(({ message }) => message).join(" ") || undefined);
    if (complaints.length > 0) return;
    const { undo } = await keep("membrane-checks", body);
    clear();
    showToast({ words: `Kept: the membrane of ${rig.name}.`, undo });
  };
  const field = (name: Exclude<keyof TypedCheck, "clean" | "meterId" | "seen">, label: string, unit: string) => (
    <NumberField
      key={name}
      label={label}
      unit={unit}
      value={typed[name]}
      onChange={(text) => patch({ [name]: text })}
      testID={`membrane-${name}`}
    />
  );
  const ppm = scaleUnit(meter?.scale ?? "nacl");
  return (
    <Card gap="$3" testID="membrane-form">
      <Heading>Check it now</Heading>
      <Body color="$soft">
        While it runs, after the first minutes: readings, pressures, and both flows with a jug and a watch.
      </Body>
      <Caution>Let the pressure down before a gauge or a hose is changed.</Caution>
      {meters.length > 1 ? (
        <Choice
          label="Meter"
          value={meter?.id}
          options={meters.map((each) => ({ value: each.id, label: each.name }))}
          onChange={(meterId) => patch({ meterId })}
        />
      ) : null}
      <FieldRow>
        {field("feed", "Feed", ppm)}
        {field("product", "Product", ppm)}
        {field("temperature", "Temperature", unitOf("temperature", units))}
      </FieldRow>
      <FieldRow>
        {field("pressure", "Pressure before it", unitOf("pressure", units))}
        {field("permeatePressure", "Behind it, if any", unitOf("pressure", units))}
        {field("productFlow", "Product", unitOf("flow", units))}
        {field("wasteFlow", "Waste", unitOf("flow", units))}
      </FieldRow>
      <Choice
        label="Is it new or just cleaned?"
        value={typed.clean}
        options={[
          { value: "no", label: "No" },
          { value: "yes", label: "Yes: take this as the baseline" },
        ]}
        onChange={(clean) => patch({ clean })}
      />
      <Seen seen={typed.seen} onChange={(seen) => patch({ seen })} />
      <FormTrouble words={trouble} />
      <HeavyButton onPress={() => void save()} testID="keep-check">
        Keep this check
      </HeavyButton>
    </Card>
  );
}

/** How a rig's membrane does, against when it was clean, and what is worn. */
export function MembraneScreen({ rig, rigs }: { readonly rig: Rig; readonly rigs: readonly Rig[] }) {
  const { records: checks } = useRecords("membrane-checks");
  const { records: meters } = useRecords("meters");
  const wide = useWide();
  const trend = useMemo(
    () =>
      membraneTrend(
        checks.filter((check) => check.rigId === rig.id),
        new Map(meters.map((meter) => [meter.id, meter])),
      ),
    [checks, meters, rig.id],
  );
  const { points } = trend;
  const last = points[points.length - 1];
  const wear = last ? wearOf(last, trend.clean) : [];
  const form = <CheckForm rig={rig} meters={meters} />;
  const rated = <RatedMembrane rig={rig} />;
  return (
    <Screen
      title={`Membrane of ${rig.name}`}
      detail={
        wide ? (
          <View gap="$6">
            {form}
            {rated}
          </View>
        ) : undefined
      }
    >
      <View gap="$5">
        {rigs.length > 1 ? (
          <Choice
            label="Rig"
            value={rig.id}
            options={rigs.map((each) => ({ value: each.id, label: each.name }))}
            onChange={(id) => router.setParams({ rig: id })}
          />
        ) : null}
        {last ? (
          <View gap="$4">
            <Latest point={last} points={points} />
            {points.length > 1 ? (
              <MembraneChart
                points={points}
                label={`${points.length} checks; rejection last ${threeDigits(100 * last.state.rejection)} %${last.state.flowShare === undefined ? "" : `, flow ${threeDigits(100 * last.state.flowShare)} % of clean`}`}
              />
            ) : null}
            <View>
              <Heading>What may be worn, in this order</Heading>
              <Next wear={wear} />
              {wear.map((suspect, i) => (
                <SuspectCard key={suspect.cause} suspect={suspect} place={i + 1} />
              ))}
              <Small>School: weighing evidence by log-odds (Good 1950); the weights are planning assumptions.</Small>
            </View>
          </View>
        ) : (
          <EmptyState title="No check yet">
            Enter the first figures when the membrane is new or clean: every later check is held against them.
          </EmptyState>
        )}
        {wide ? null : form}
        {wide ? null : rated}
      </View>
    </Screen>
  );
}
