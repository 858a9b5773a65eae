import { EmptyState, HeavyButton } from "./boxes";
import { Screen } from "./Screen";

/** What the address names is not among what this crew has. */
export function NotHere({ what, href, way }: { readonly what: string; readonly href: string; readonly way: string }) {
  return (
    <Screen title={`This ${what} is not here`}>
      <EmptyState title="Nothing goes by this address" action={<HeavyButton href={href}>{way}</HeavyButton>}>
        It may have been taken back, or set up on another device that has not sent it yet.
      </EmptyState>
    </Screen>
  );
}
