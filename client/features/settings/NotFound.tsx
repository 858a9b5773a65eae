import { EmptyState, HeavyButton } from "../../ui/boxes";
import { Screen } from "../../ui/Screen";

/** An address that leads nowhere. */
export function NotFound() {
  return (
    <Screen title="Nothing here">
      <EmptyState title="This address leads nowhere" action={<HeavyButton href="/">To the rack</HeavyButton>}>
        The link may be old or mistyped.
      </EmptyState>
    </Screen>
  );
}
