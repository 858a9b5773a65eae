import { View } from "@tamagui/core";
import { useLocalSearchParams } from "expo-router";
import { EmptyState, HeavyButton, Pressable } from "../../ui/boxes";
import { NotHere } from "../../ui/NotHere";
import { Screen, useWide } from "../../ui/Screen";
import { StateRing } from "../../ui/StateRing";
import { Body, Small, Strong } from "../../ui/words";
import { StandingColumn } from "../run/RigColumn";
import { useRigs, type RigView } from "../run/useRigs";
import { HistoryDetail } from "./HistoryDetail";

const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? "" : "s"}`;

function RigRow({ view, here }: { readonly view: RigView; readonly here: boolean }) {
  const { facts, assessment } = view;
  return (
    <Pressable
      href={`/why/${facts.rig.id}`}
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
        <Body>{facts.vessel.name}</Body>
        <Small>
          {counted(facts.charges.length, "charge")}, {counted(facts.visits.length, "visit")}
        </Small>
      </View>
      {assessment?.verdict ? <StateRing state={assessment.verdict.state} size={28} /> : null}
    </Pressable>
  );
}

/** Look back: which vessel, and then its readings against litres. */
export function WhyScreen() {
  const { rig } = useLocalSearchParams<{ rig?: string }>();
  const { rigs, pending } = useRigs();
  const wide = useWide();
  const view = rigs.find((each) => each.facts.rig.id === rig);
  if (rig !== undefined && !view && !pending) return <NotHere what="rig" href="/why" way="All rigs" />;
  if (rigs.length === 0) {
    return (
      <Screen title="Look back">
        {pending ? (
          <Body role="status">One moment…</Body>
        ) : (
          <EmptyState
            title="Nothing to look back on yet"
            action={<HeavyButton href="/setup">Set up the first rig</HeavyButton>}
          >
            After a few logged days you see here how each vessel did.
          </EmptyState>
        )}
      </Screen>
    );
  }
  const list = (
    <View gap="$2">
      {rigs.map((each) => (
        <RigRow key={each.facts.rig.id} view={each} here={each === view} />
      ))}
    </View>
  );
  if (wide)
    return (
      <Screen
        title="Look back"
        detail={<HistoryDetail key={(view ?? rigs[0]!).facts.rig.id} view={view ?? rigs[0]!} />}
      >
        {list}
      </Screen>
    );
  if (view)
    return (
      <Screen name={view.facts.rig.name}>
        <HistoryDetail view={view} heading="h1" />
      </Screen>
    );
  return <Screen title="Look back">{list}</Screen>;
}
