import { router } from "expo-router";
import { EmptyState, HeavyButton } from "../../ui/boxes";
import { Screen } from "../../ui/Screen";

/** An address that leads nowhere. */
export function NotFound() {
  return (
    <Screen title="Nothing here">
      <EmptyState
        title="This address leads nowhere"
        action={<HeavyButton onPress={() => router.replace("/")}>To the rack</HeavyButton>}
      >
        The link may be old or mistyped.
      </EmptyState>
    </Screen>
  );
}
