import { View } from "@tamagui/core";
import { useLocalSearchParams } from "expo-router";
import { useState } from "react";
import { EmptyState, HeavyButton, Pressable, TextButton } from "../../ui/boxes";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { StateRing } from "../../ui/StateRing";
import { Body, Small, Strong } from "../../ui/words";
import { StandingColumn } from "../rack/RigColumn";
import { vesselsHere } from "../rack/train-views";
import { useRigs, type RigView } from "../rack/useRigs";
import { HistoryDetail } from "./HistoryDetail";
import { TakenBackRigs } from "./TakenBackRigs";

const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? "" : "s"}`;

function RigRow({ view, here }: { readonly view: RigView; readonly here: boolean }) {
  const { facts, assessment } = view;
  const standing = vesselsHere(facts).map(({ name }) => name);
  return (
    <Pressable
      href={`/history/${facts.rig.id}`}
      aria-current={here ? "true" : undefined}
      flexDirection="row"
      justifyContent="flex-start"
      gap="$3"
      paddingVertical="$2"
      borderBottomColor={here ? "$ink" : "$line"}
      borderBottomWidth={here ? 3 : 1}
    >
      <StandingColumn view={view} height={84} />
      <View flex={1} alignItems="flex-start">
        <Strong fontSize="$3">{facts.rig.name}</Strong>
        <Body>{standing.join(", then ") || "No vessel stands here"}</Body>
        <Small>
          {counted(facts.charges.length, "charge")}, {counted(facts.visits.length, "visit")}
        </Small>
      </View>
      {assessment?.verdict ? <StateRing state={assessment.verdict.state} size={28} /> : null}
    </Pressable>
  );
}

const isInUse = ({ facts }: RigView) => facts.rig.retiredOn === undefined;

/** Rigs that are sold or gone: history keeps them. */
function Retired({ rigs, here }: { readonly rigs: readonly RigView[]; readonly here: RigView | undefined }) {
  const [open, setOpen] = useState(false);
  if (rigs.length === 0) return null;
  return (
    <View gap="$2">
      <TextButton onPress={() => setOpen(!open)} expanded={open} testID="retired">
        {open ? "Close the retired ones" : `Retired: ${rigs.length}`}
      </TextButton>
      {open ? rigs.map((each) => <RigRow key={each.facts.rig.id} view={each} here={each === here} />) : null}
    </View>
  );
}

/** Look back: which vessel, and then its readings against litres. */
export function HistoryScreen() {
  const { rig } = useLocalSearchParams<{ rig?: string }>();
  const { rigs, pending } = useRigs();
  const wide = useWide();
  const view = rigs.find((each) => each.facts.rig.id === rig);
  if (rig !== undefined && !view && !pending) return <NotHere what="rig" href="/history" way="All rigs" />;
  if (rigs.length === 0) {
    return (
      <Screen title="History">
        {pending ? (
          <Body role="status">One moment…</Body>
        ) : (
          <>
            <EmptyState
              title="Nothing to look back on yet"
              action={<HeavyButton href="/setup">Set up the first rig</HeavyButton>}
            >
              After a few logged days you see here how each vessel did.
            </EmptyState>
            <TakenBackRigs />
          </>
        )}
      </Screen>
    );
  }
  const list = (
    <View gap="$2">
      {rigs.filter(isInUse).map((each) => (
        <RigRow key={each.facts.rig.id} view={each} here={each === view} />
      ))}
      <Retired rigs={rigs.filter((each) => !isInUse(each))} here={view} />
      <TakenBackRigs />
    </View>
  );
  const shown = view ?? rigs.find(isInUse) ?? rigs[0]!;
  if (wide)
    return (
      <Screen title="History" detail={<HistoryDetail key={shown.facts.rig.id} view={shown} />}>
        {list}
      </Screen>
    );
  if (view)
    return (
      <Screen name={view.facts.rig.name}>
        <HistoryDetail view={view} heading="h1" />
      </Screen>
    );
  return <Screen title="History">{list}</Screen>;
}
