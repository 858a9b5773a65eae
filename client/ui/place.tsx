import type { RecordKind } from "@winter-bead/contract";
import { useEffect, useState, type ComponentType } from "react";
import { fetchAgain } from "../data/fetch-again";
import { reach } from "../data/reach";
import { usePresence } from "../data/store";
import { EmptyState, HeavyButton, TextButton } from "./boxes";
import { PlaceBoundary } from "./PlaceBoundary";
import { Screen } from "./Screen";
import { Body } from "./words";

/** The log stands without the tabs: there too is a way out of a place that is not here. */
const WayOut = () => <TextButton href="/">To the rack</TextButton>;

/** Nothing is said of what was never fetched: no empty list, no "no check yet". */
const NotHereYet = ({ title, wayOut }: { readonly title: string; readonly wayOut: boolean }) => (
  <Screen title={title}>
    <EmptyState title="Not on this device yet">
      What stands here was never fetched to this device, and the server does not answer now. It comes by itself once
      there is a signal.
    </EmptyState>
    {wayOut ? <WayOut /> : null}
  </Screen>
);

function NotFetched({ title, onAgain }: { readonly title: string; readonly onAgain: () => void }) {
  return (
    <Screen title={title}>
      <EmptyState
        title="This part of the app could not be fetched"
        action={
          <HeavyButton onPress={onAgain} testID="fetch-again">
            Try again
          </HeavyButton>
        }
      >
        It was tried three times. What you entered is kept. It is fetched again once there is a signal.
      </EmptyState>
      <WayOut />
    </Screen>
  );
}

const Waiting = ({ title }: { readonly title: string }) => (
  <Screen title={title}>
    <Body role="status">One moment…</Body>
  </Screen>
);

/** A place's code once it is here, or what became of fetching it. */
function usePiece(known: () => ComponentType | undefined, fetchPiece: () => Promise<void>) {
  const [turn, setTurn] = useState(0);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    if (known()) return;
    let wanted = true;
    fetchAgain(fetchPiece).then(
      () => wanted && setTurn((before) => before + 1),
      () => wanted && setFailed(true),
    );
    return () => {
      wanted = false;
    };
    // `turn` asks again; what is fetched stays the same for as long as the place lives.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [turn]);
  const again = () => {
    setFailed(false);
    setTurn((before) => before + 1);
  };
  useEffect(() => {
    if (!failed) return;
    return reach.subscribe(() => {
      if (reach.snapshot().state === "reached") again();
    });
  }, [failed]);
  return { failed, again };
}

/**
 * A place of the app: its code comes in a piece of its own, and it is drawn once what it speaks of is on this device.
 *
 * @param title what it is called while nothing else is here
 * @param fetchPlace its code
 * @param needs the kinds of records it rests on
 * @param here its code, where that is here already
 */
export function place(
  title: string,
  fetchPlace: () => Promise<ComponentType>,
  needs: readonly RecordKind[] = [],
  here?: ComponentType,
): ComponentType {
  let Ready = here;
  const fetchPiece = async () => {
    Ready = await fetchPlace();
  };
  return function Place() {
    const { failed, again } = usePiece(() => Ready, fetchPiece);
    const presence = usePresence(needs);
    if (presence === "absent") return <NotHereYet title={title} wayOut={here === undefined} />;
    if (failed) return <NotFetched title={title} onAgain={again} />;
    if (!Ready || presence === "coming") return <Waiting title={title} />;
    return (
      <PlaceBoundary>
        <Ready />
      </PlaceBoundary>
    );
  };
}

/** The same for a place whose code is on the first page. */
export const placeHere = (title: string, here: ComponentType, needs: readonly RecordKind[]): ComponentType =>
  place(title, () => Promise.resolve(here), needs, here);
