import type { ReactNode } from "react";
import { EmptyState, HeavyButton } from "../../ui/boxes";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";
import { SizeNav } from "./SizeNav";

/** A place of sizing: its name, the way to the others, and what it says. */
export const SizeScreen = ({
  title,
  children,
  detail,
  bar,
}: {
  readonly title: string;
  readonly children: ReactNode;
  readonly detail?: ReactNode;
  /** The answer, in sight over its inputs. */
  readonly bar?: ReactNode;
}) => (
  <Screen title={title} detail={detail} bar={bar}>
    <SizeNav />
    {children}
  </Screen>
);

/** What stands in place of an answer before there is a tap. */
export const NoTap = ({ pending, children }: { readonly pending: boolean; readonly children: string }) =>
  pending ? (
    <Body role="status">One moment…</Body>
  ) : (
    <EmptyState
      title="No tap yet"
      action={
        <HeavyButton testID="first-tap" href="/setup/tap?then=/size/vessel">
          Add the first tap
        </HeavyButton>
      }
    >
      {children}
    </EmptyState>
  );
