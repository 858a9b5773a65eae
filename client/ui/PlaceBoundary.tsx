import { Component, type ReactNode } from "react";
import { EmptyState, HeavyButton, TextButton } from "./boxes";
import { Screen } from "./Screen";

interface Props {
  readonly children: ReactNode;
}

/**
 * Stands around every place: one that breaks takes nothing else along, and what was typed is kept. It stands inside the
 * router's own slot: above it, it would take the address along.
 */
export class PlaceBoundary extends Component<Props, { readonly broken: boolean }> {
  override state = { broken: false };

  static getDerivedStateFromError() {
    return { broken: true };
  }

  override render() {
    if (!this.state.broken) return this.props.children;
    return (
      <Screen title="Something broke here">
        <EmptyState
          title="This place broke while it was drawn"
          action={
            <HeavyButton onPress={() => this.setState({ broken: false })} testID="draw-again">
              Open it again
            </HeavyButton>
          }
        >
          What you entered is kept, on this device or with the server. If it breaks again, load the app anew.
        </EmptyState>
        <TextButton href="/">To the rack</TextButton>
      </Screen>
    );
  }
}
