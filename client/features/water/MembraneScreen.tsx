import { asOfNow } from "@winter-bead/core";
import { useNow } from "../../data/present";
import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import {
  explainMembrane,
  membraneTrend,
  nextStep,
  passagesRead,
  type Explanation,
  type MembraneCheck,
  type MembranePoint,
  type Rig,
  type PassageRead,
  type Suspect,
} from "@winter-bead/core";
import { router } from "expo-router";
import { useMemo, useState } from "react";
import { useRecords } from "../../data/store";
import { Choice, EmptyState, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { momentInWords, threeDigits } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { Big, Body, Heading, Small, Strong } from "../../ui/words";
import { MembraneChart } from "./MembraneChart";
import { MembraneCheckForm } from "./MembraneCheckForm";
import { NEXT_ACTION, stateWords, wearOf } from "./membrane-words";
import { RatedMembrane } from "./RatedMembrane";
import { wholeMoney } from "../size/money";
import { usePrices } from "../size/usePrices";

function Figure({ name, explanation }: { readonly name: string; readonly explanation: Explanation }) {
  return (
    <View minWidth={140} flexGrow={1}>
      <Explained explanation={explanation}>
        <View>
          <Small textAlign="left">{name}</Small>
          <View flexDirection="row" alignItems="baseline" gap="$1">
            <Big textDecorationLine="underline" textDecorationStyle="dotted">
              {threeDigits(explanation.value)}
            </Big>
            <Strong>{explanation.unit}</Strong>
          </View>
        </View>
      </Explained>
    </View>
  );
}

/** What to try next, by its chance for its money. */
function Next({ wear }: { readonly wear: readonly Suspect[] }) {
  const { prices, currency } = usePrices();
  const next = nextStep(wear, prices.membrane);
  if (!next) return <Body testID="next-step">Nothing is likely enough to spend money on yet.</Body>;
  return (
    <Body testID="next-step">
      <Strong>{`Next: ${NEXT_ACTION[next.suspect.cause] ?? next.suspect.name}`}</Strong>
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
      <Small>{`As checked ${momentInWords(point.at, clockNow())}.`}</Small>
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

const READ = [
  ["feed", "feed"],
  ["product", "product"],
  ["temperature", "temperature"],
  ["pressure", "pressure running"],
  ["standingPressure", "pressure standing"],
  ["productFlow", "product’s flow"],
  ["wasteFlow", "waste’s flow"],
] as const;

/** What was read of a check that says no state. @example readOf({ pressure: 380 }) // "pressure running" */
const readOf = (check: MembraneCheck) =>
  READ.flatMap(([field, words]) => (check[field] === undefined ? [] : [words])).join(", ") || "what was seen";

/** A check of which not all was read keeps its own answer. */
const partialWords = (check: MembraneCheck, passage: number | undefined) =>
  passage === undefined
    ? `kept: ${readOf(check)}`
    : `holds back ${threeDigits(100 * (1 - passage))} %${check.clean ? ", clean" : ""}; ${readOf(check)}`;

const MOST_SHOWN = 8;

/** Every check that was entered, newest first: each can be looked at, corrected and taken back. */
function Checks({
  points,
  partial,
  passages,
}: {
  readonly points: readonly MembranePoint[];
  readonly partial: readonly MembraneCheck[];
  readonly passages: readonly PassageRead[];
}) {
  const held = new Map(passages.flatMap(({ at, passage, by }) => (by === "check" ? [[at, passage] as const] : [])));
  const [most, setMost] = useState(MOST_SHOWN);
  const all = [
    ...points.map(({ check, at, state }) => ({
      check,
      at,
      words: `holds back ${threeDigits(100 * state.rejection)} %${check.clean ? ", clean" : ""}`,
    })),
    ...partial.map((check) => ({
      check,
      at: Date.parse(check.at),
      words: partialWords(check, held.get(Date.parse(check.at))),
    })),
  ].sort((a, b) => b.at - a.at);
  return (
    <View>
      <Heading>Checks</Heading>
      <View role="list" aria-label="Checks" testID="checks">
        {all.slice(0, most).map(({ check, at, words }) => (
          <View key={check.id} role="listitem">
            <TextButton href={`/water/membrane-check?id=${check.id}`}>
              {`${momentInWords(at, clockNow())}: ${words}`}
            </TextButton>
          </View>
        ))}
      </View>
      {all.length > most ? <TextButton onPress={() => setMost(most + 4 * MOST_SHOWN)}>Earlier ones</TextButton> : null}
    </View>
  );
}

/** What it held back when it was last read at both ends, in a check or in the log. */
function Newest({ read, after }: { readonly read: PassageRead | undefined; readonly after: number }) {
  if (!read || read.at <= after) return null;
  const { at, passage, by } = read;
  return (
    <Body testID="membrane-newest">
      <Strong>{`It holds back ${threeDigits(100 * (1 - passage))} %`}</Strong>
      {`, as ${by === "log" ? "logged" : "checked"} ${momentInWords(at, clockNow())}.`}
    </Body>
  );
}

function Trend({
  points,
  passages,
}: {
  readonly points: readonly MembranePoint[];
  readonly passages: readonly PassageRead[];
}) {
  const [last, point] = [passages[passages.length - 1], points[points.length - 1]];
  if (!last || passages.length < 2) return null;
  const flow = point?.state.flowShare;
  const label = `${passages.length} looks; rejection last ${threeDigits(100 * (1 - last.passage))} %${flow === undefined ? "" : `, flow ${threeDigits(100 * flow)} % of clean`}`;
  return <MembraneChart points={points} passages={passages} label={label} />;
}

/** How a rig's membrane does, against when it was clean, and what is worn. */
export function MembraneScreen({ rig, rigs }: { readonly rig: Rig; readonly rigs: readonly Rig[] }) {
  const { records: checks } = useRecords("membrane-checks");
  const { records: visits } = useRecords("visits");
  const { records: meters } = useRecords("meters");
  const now = useNow();
  const wide = useWide();
  const trend = useMemo(
    () =>
      membraneTrend(
        asOfNow(checks, now).filter((check) => check.rigId === rig.id),
        new Map(meters.map((meter) => [meter.id, meter])),
      ),
    [checks, meters, rig.id, now],
  );
  const passages = useMemo(
    () =>
      passagesRead({
        ...{
          rig,
          visits: asOfNow(visits, now),
          membraneChecks: asOfNow(checks, now),
          pressureChecks: [],
          services: [],
        },
        meters: new Map(meters.map((meter) => [meter.id, meter])),
      }),
    [checks, visits, meters, rig, now],
  );
  const { points } = trend;
  const newest = passages[passages.length - 1];
  const last = points[points.length - 1];
  const wear = last ? wearOf(last, trend.clean) : [];
  const form = <MembraneCheckForm key={rig.id} rig={rig} />;
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
            <Newest read={newest} after={last.at} />
            <Trend points={points} passages={passages} />
            <View>
              <Heading>What may be worn, in this order</Heading>
              <Next wear={wear} />
              {wear.map((suspect, i) => (
                <SuspectCard key={suspect.cause} suspect={suspect} place={i + 1} />
              ))}
              <Small>School: weighing evidence by log-odds (Good 1950); the weights are planning assumptions.</Small>
            </View>
          </View>
        ) : newest ? (
          <View gap="$4">
            <Newest read={newest} after={0} />
            <Trend points={points} passages={passages} />
            <Body color="$soft">
              With pressure, temperature and both flows a check tells the flow too, and what may be worn.
            </Body>
          </View>
        ) : (
          <EmptyState title="No check yet">
            Enter the first figures when the membrane is new or clean: every later check is held against them.
          </EmptyState>
        )}
        {points.length + trend.partial.length > 0 ? (
          <Checks points={points} partial={trend.partial} passages={passages} />
        ) : null}
        {wide ? null : form}
        {wide ? null : rated}
      </View>
    </Screen>
  );
}
