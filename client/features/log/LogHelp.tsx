import { View } from "@tamagui/core";
import { resinFeedPoint, type Rig, type Standing } from "@winter-bead/core";
import { memo, useMemo } from "react";
import { Opener, TextButton } from "../../ui/boxes";
import { Body, Small } from "../../ui/words";
import type { RigFacts } from "../rack/assess";
import { doubt, tapRangeOf } from "./doubt";
import { figureOf, textIn, typedInto, type LogDraft } from "./draft-visit";
import { DRAFT } from "./useLive";
import { LookAgain } from "./LookAgain";
import { offerFor, type Log } from "./useLog";

const FAR_FROM_USUAL = {
  feed: "Far from the usual feed. It counts once you say it is right, or read it again.",
  membrane: "Far from what usually comes through the membrane. It counts once you say it is right, or read it again.",
  water: "Far above the last total. Its water counts once you say it is right, or the next total bears it out.",
} as const;

type DoubtfulField = keyof typeof FAR_FROM_USUAL;

/** What was typed so far from usual that it does not count by itself. */
export function doubtfulField(draft: LogDraft, rig: Rig, standing: Standing | undefined): DoubtfulField | undefined {
  if (standing?.heldBack.totals.includes(DRAFT)) return "water";
  if (!standing?.heldBack.feeds.some(({ recordId }) => recordId === DRAFT)) return undefined;
  return resinFeedPoint(rig) === "after-membrane" && draft.membrane.trim() !== "" ? "membrane" : "feed";
}

const WhyLine = memo(function WhyLine({ onWhy }: { readonly onWhy: () => void }) {
  return (
    <View marginLeft="auto" testID="why-left">
      <Opener onPress={onWhy} label="Why this number">
        Why this number
      </Opener>
    </View>
  );
});

/** What is wrong, what is worth a second look, or the last value one tap away: one line whose room is always kept. */
export const LogHelp = memo(function LogHelp({
  facts,
  log,
  trouble,
  asked,
  onWhy,
  onLookAgain,
  lookedAt,
}: {
  readonly facts: RigFacts;
  readonly log: Log;
  readonly trouble: string | undefined;
  /** A figure that is held back until it is said to be right. */
  readonly asked: DoubtfulField | undefined;
  /** Opens the working of the answer; absent while there is none. */
  readonly onWhy: (() => void) | undefined;
  /** Keeps what is typed and looks again; absent where nothing typed asks for it. */
  readonly onLookAgain: (() => void) | undefined;
  /** When a look was taken that is to be repeated; absent while none waits. */
  readonly lookedAt: number | undefined;
}) {
  const { draft, patch, visit } = log;
  const firstError = trouble ?? Object.values(visit.errors)[0];
  const range = useMemo(() => tapRangeOf(facts, draft.tapId), [facts, draft.tapId]);
  const question = doubt(facts, draft, range) ?? (asked && FAR_FROM_USUAL[asked]);
  const isFirst = log.asksFilling && (draft.atFilling ?? "") === "";
  const isNewMeter = visit.errors.water?.includes("new meter");
  return (
    <View
      flexDirection="row"
      alignItems="center"
      justifyContent="space-between"
      columnGap="$3"
      minHeight={48}
      testID="log-help"
    >
      {firstError ? (
        <Body role="alert" color="$rowan" flexShrink={1}>
          {firstError}
        </Body>
      ) : question ? (
        <Body role="status" flexShrink={1}>
          {question}
        </Body>
      ) : onLookAgain ? (
        <TextButton onPress={onLookAgain} testID="look-again">
          Look again in a minute
        </TextButton>
      ) : isFirst ? (
        <View flexDirection="row" flexWrap="wrap" columnGap="$3" alignItems="center" flexShrink={1}>
          <Body role="status" flexShrink={1}>
            The first total. What did it show at the filling?
          </Body>
          <TextButton onPress={() => patch({ atFilling: "0" })} testID="new-at-filling">
            0, it was new
          </TextButton>
        </View>
      ) : lookedAt !== undefined && visit.isEmpty ? (
        <LookAgain key={lookedAt} at={lookedAt} />
      ) : (
        <SameAgain facts={facts} log={log} />
      )}
      {!firstError && asked ? (
        <TextButton
          testID="confirm-figure"
          onPress={() => patch({ confirmed: [...(draft.confirmed ?? []), figureOf(draft, asked)] })}
        >
          It is right
        </TextButton>
      ) : null}
      {isNewMeter ? (
        <TextButton onPress={() => patch({ newMeter: true })}>It is a new meter, started at 0</TextButton>
      ) : null}
      {onWhy && !firstError ? <WhyLine onWhy={onWhy} /> : null}
    </View>
  );
});

/** The last value of the field in hand, one tap away. */
function SameAgain({ facts, log }: { readonly facts: RigFacts; readonly log: Log }) {
  const { draft, patch, focus } = log;
  const offer = offerFor(focus, facts, log);
  if (!offer || textIn(draft, focus) !== "") return null;
  if (!offer.text) return <Small>{offer.words}</Small>;
  return (
    <TextButton
      testID="use-last"
      onPress={() => patch(typedInto(draft, focus, offer.text))}
    >{`Same again: ${offer.words.split(", ")[0]!.replace("Last ", "")}`}</TextButton>
  );
}
