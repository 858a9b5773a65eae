import { router, useLocalSearchParams } from "expo-router";
import { EmptyState, HeavyButton } from "../../ui/boxes";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";
import { LogScreen } from "./LogScreen";
import { useRigs } from "./useRigs";

/** The log of the rig in the address. */
export function LogPlace() {
  const { rig } = useLocalSearchParams<{ rig: string }>();
  const { rigs, pending } = useRigs();
  const view = rigs.find((each) => each.facts.rig.id === rig);
  if (view) return <LogScreen key={view.facts.rig.id} view={view} />;
  if (pending)
    return (
      <Screen>
        <Body role="status">One moment…</Body>
      </Screen>
    );
  return (
    <Screen>
      <EmptyState
        title="This rig is not here"
        action={<HeavyButton onPress={() => router.navigate("/")}>To the rack</HeavyButton>}
      >
        It may have been set up on another device that has not sent it yet.
      </EmptyState>
    </Screen>
  );
}
