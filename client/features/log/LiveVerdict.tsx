import { View } from "@tamagui/core";
import type { State } from "@winter-bead/core";
import { memo } from "react";
import { View as PlainView } from "react-native";
import { useSettings } from "../../data/settings";
import type { Units } from "../../ui/format";
import { StateRing } from "../../ui/StateRing";
import { Body, Heading, Huge, Small, Strong } from "../../ui/words";
import type { Assessment, RigFacts } from "../rack/assess";
import { LeakLine } from "../rack/LeakLine";
import { StandingColumn } from "../rack/RigColumn";
import { headlineShown, verdictWords } from "../rack/words";

const LEAST_COLUMN = 72;
const MOST_COLUMN = 230;
/** Above and below the column. */
const ROUND_IT = 10;

/** The column gives way first: pad and button stay in sight on a phone with its browser's bars. */
const columnIn = (room: number) => Math.max(LEAST_COLUMN, Math.min(MOST_COLUMN, room - ROUND_IT));

const SAYS_NOTHING = { title: "", reason: "", more: [], left: undefined, word: undefined, range: "", work: "" };

/** What the verdict says, in words. */
function wordsOf(facts: RigFacts, { standing, because, lead, before }: Assessment, units: Units) {
  if (!standing) return { ...SAYS_NOTHING, title: because ?? "" };
  const words = verdictWords({ ...facts, lead, before }, standing, units);
  const headline = headlineShown(standing, { ...facts, lead, before }, units);
  const range = headline?.range ?? "";
  const { big: text = "", unit = "", small: to = "", isWord = false, work = "" } = headline ?? {};
  return {
    ...words,
    // What stands in the headline isn't said twice.
    more: words.more.filter((sentence) => !(isWord && range !== "" && sentence.includes(range))),
    word: headline && isWord ? { text, to } : undefined,
    left: headline && !isWord ? { text, unit, to } : undefined,
    // What the reason or a sentence after it says already isn't said twice.
    range: [words.reason, ...words.more].some((sentence) => !isWord && sentence.includes(range)) ? "" : range,
    work,
  };
}

/** Litres, reason and date as they are read out once the hand rests. */
export function verdictAloud(facts: RigFacts, assessment: Assessment, dates: string, units: Units): string {
  const { title, reason, left, word, range, work } = wordsOf(facts, assessment, units);
  const litres = left ? `${left.text} ${left.unit} ${left.to}` : (word?.to ?? "");
  const figures = [litres, range, work, dates].filter(Boolean).join(", ");
  return [/[.…]$/.test(title) ? title : `${title}.`, figures && `${figures}.`, reason].filter(Boolean).join(" ");
}

const WORDS = { flex: 1, gap: 4, minWidth: 0 } as const;

/** Lines that are drawn again only when their words change: a digit changes few of them. */
const StateLine = memo(function StateLine({
  state,
  title,
  isLarge,
}: {
  readonly state: State;
  readonly title: string;
  /** In place of the litres. */
  readonly isLarge: boolean;
}) {
  return (
    <View flexDirection="row" gap="$2" alignItems="center">
      <StateRing state={state} size={28} />
      {isLarge ? (
        <Huge fontSize="$6" lineHeight="$6" testID="live-verdict" flexShrink={1}>
          {title}
        </Huge>
      ) : (
        <Heading testID="live-verdict" flexShrink={1}>
          {title}
        </Heading>
      )}
    </View>
  );
});
const LeftLine = memo(function LeftLine({
  text,
  unit,
  to,
}: {
  readonly text: string;
  readonly unit: string;
  readonly to: string;
}) {
  return (
    <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
      <Huge fontSize="$6" lineHeight="$6" testID="live-left">
        {text}
      </Huge>
      <Strong>
        {unit} {to}
      </Strong>
    </View>
  );
});
const BodyLine = memo(function BodyLine({ words, testID }: { readonly words: string; readonly testID: string }) {
  return <Body testID={testID}>{words}</Body>;
});
const SmallLine = memo(function SmallLine({
  words,
  testID,
  ink = false,
}: {
  readonly words: string;
  readonly testID: string;
  readonly ink?: boolean;
}) {
  return (
    <Small testID={testID} color={ink ? "$ink" : "$soft"}>
      {words}
    </Small>
  );
});

/** The column and what it says, as the digits fall. */
export const LiveVerdict = memo(function LiveVerdict({
  facts,
  assessment,
  dates,
  room,
}: {
  readonly facts: RigFacts;
  readonly assessment: Assessment;
  readonly dates: string;
  /** px there are for it. */
  readonly room: number;
}) {
  const { units } = useSettings();
  const { standing, verdict } = assessment;
  const { title, reason, more, left, word, range, work } = wordsOf(facts, assessment, units);
  if (!standing || !verdict) return <Body testID="live-verdict">{title}</Body>;
  const height = columnIn(room);
  return (
    <PlainView style={{ flexDirection: "row", gap: 12, minHeight: height }}>
      <StandingColumn view={{ facts, assessment }} height={height} />
      <PlainView style={WORDS}>
        <StateLine state={verdict.state} title={word?.text ?? title} isLarge={word !== undefined} />
        {word && word.to !== "" ? (
          <SmallLine testID="live-if-wrong" words={[word.to, range].filter(Boolean).join(", ")} ink />
        ) : null}
        {left ? (
          <>
            <LeftLine {...left} />
            <SmallLine testID="live-range" words={[range, work, dates].filter(Boolean).join(", ")} />
          </>
        ) : null}
        <BodyLine testID="live-reason" words={reason} />
        {more.map((sentence) => (
          <SmallLine key={sentence} testID="live-more" words={sentence} ink />
        ))}
        <LeakLine facts={facts} standing={standing} explained={false} />
      </PlainView>
    </PlainView>
  );
});
