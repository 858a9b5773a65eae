import { View } from "@tamagui/core";
import {
  ageWords,
  explainHeadline,
  lastReadWords,
  markWords,
  verdictTitle,
  type Id,
  type Standing,
} from "@winter-bead/core";
import { router, useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import { useWindowDimensions } from "react-native";
import { SETUP_NEEDS } from "../../data/needs";
import { useSettings } from "../../data/settings";
import { Card, HeavyButton, PlainButton, Pressable, Row, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { capital, momentInWords } from "../../ui/format";
import { go } from "../../ui/go";
import { place } from "../../ui/place";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { StateRing } from "../../ui/StateRing";
import { useLargeText } from "../../ui/text-scale";
import { Body, Heading, Small, Strong, Title } from "../../ui/words";
import { HistoryDetail } from "../history/HistoryDetail";
import { WaterUnknown } from "../log/WaterUnknown";
import { OpenWorkLine } from "../refill/OpenWorkLine";
import { ActsWorth } from "./ActsWorth";
import { lastRig } from "./last-rig";
import { LeakLine } from "./LeakLine";
import { dateRange, datesInWords, isToBeLookedAt, RigColumn, StandingColumn, spokenOf } from "./RigColumn";
import { isTrain, TrainDrawing } from "./TrainDrawing";
import { vesselsHere } from "./train-views";
import { byNeed, useRigs, type RigView } from "./useRigs";
import { VerdictWays } from "./VerdictWays";
import { headlineShown, STATE_WORDS, verdictWords, wordingIn } from "./words";

/** A kept answer older than this says its age, ms. */
const OLD_FROM = 60_000;
const MOST_COLUMNS = 3;
/** px of the tallest vessel, and where a browser’s bars leave little: names and states stay in sight. */
const TALLEST = 262;
const TALLEST_LOW = 230;
const LOW = 700;

/** Vessels keep their order of size on the wall, within what stays readable. */
function heightOf(view: RigView, all: readonly RigView[], tallest: number): number {
  const largest = Math.max(...all.map((each) => each.facts.vessel.grossVolume));
  const share = (view.facts.vessel.grossVolume / largest) ** 0.22;
  return Math.round(tallest * Math.max(0.6, share));
}

function Wall({
  rigs,
  selected,
  onSelect,
}: {
  readonly rigs: readonly RigView[];
  readonly selected: RigView | undefined;
  readonly onSelect: (view: RigView) => void;
}) {
  const tallest = useWindowDimensions().height < LOW ? TALLEST_LOW : TALLEST;
  return (
    <View>
      <View flexDirection="row" gap="$3" alignItems="stretch" paddingTop="$2">
        {rigs.map((view) => (
          <View key={view.facts.rig.id} flex={1} minWidth={0} alignItems="flex-start">
            <RigColumn
              view={view}
              height={heightOf(view, rigs, tallest)}
              selected={view === selected}
              onPress={() => onSelect(view)}
            />
          </View>
        ))}
      </View>
      <View height={3} backgroundColor="$ink" marginTop={-1} />
      <View flexDirection="row" gap="$3" paddingTop="$2">
        {rigs.map((view) => (
          <View key={view.facts.rig.id} flex={1} minWidth={0} gap={2}>
            <Strong
              fontSize="$3"
              borderBottomColor="$ink"
              borderBottomWidth={view === selected ? 3 : 0}
              alignSelf="flex-start"
            >
              {view.facts.rig.name}
            </Strong>
            {view.assessment?.verdict ? (
              <View flexDirection="row" alignItems="center" gap="$1">
                <StateRing state={view.assessment.verdict.state} size={18} />
                <Small testID={`state-${view.facts.rig.name}`} color="$ink" fontWeight="700">
                  {STATE_WORDS[view.assessment.verdict.state]}
                </Small>
              </View>
            ) : null}
            <Small testID={`date-${view.facts.rig.name}`}>{isToBeLookedAt(view) ? "" : datesInWords(view)}</Small>
            <AgeLine standing={view.assessment?.standing} />
          </View>
        ))}
      </View>
    </View>
  );
}

/** How old the log is, where that hides something. */
function AgeLine({ standing }: { readonly standing: Standing | undefined }) {
  const words = standing ? ageWords(standing) : "";
  return words ? <Small>{words}</Small> : null;
}

function NeedList({
  rigs,
  onSelect,
}: {
  readonly rigs: readonly RigView[];
  readonly onSelect: (view: RigView) => void;
}) {
  const { units } = useSettings();
  return (
    <View gap="$2">
      {rigs.map((view) => {
        const { standing } = view.assessment ?? {};
        const headline = standing && headlineShown(standing, spokenOf(view), units);
        return (
          <Pressable
            key={view.facts.rig.id}
            onPress={() => onSelect(view)}
            flexDirection="row"
            justifyContent="flex-start"
            gap="$3"
            borderBottomColor="$line"
            borderBottomWidth={1}
            paddingVertical="$2"
          >
            <StandingColumn view={view} height={96} />
            <View flex={1} gap={2} alignItems="flex-start">
              <Strong fontSize="$3" textAlign="left">
                {view.facts.rig.name}
              </Strong>
              <Body textAlign="left">
                {headline
                  ? headline.isWord
                    ? headline.big
                    : `${headline.range} ${headline.small}`
                  : standing
                    ? verdictTitle(standing, view.facts.rig, view.assessment?.lead)
                    : view.assessment?.because}
              </Body>
              <Small>
                {(standing &&
                  (!headline || headline.isWord) &&
                  lastReadWords(standing, view.facts.vessel, wordingIn(units))) ||
                  datesInWords(view)}
              </Small>
              <AgeLine standing={standing} />
            </View>
            {view.assessment?.verdict ? <StateRing state={view.assessment.verdict.state} /> : null}
          </Pressable>
        );
      })}
    </View>
  );
}

/** Where a rig has nothing in use: to the refill, or to who stands where if nobody does. */
function WayToFill({ view: { facts } }: { readonly view: RigView }) {
  return vesselsHere(facts).length === 0 ? (
    <TextButton href={`/setup/train?rig=${facts.rig.id}`} testID="to-hang-in">
      Hang a vessel in
    </TextButton>
  ) : (
    <TextButton href={`/refill?rig=${facts.rig.id}`} testID="to-fill">
      Fill it
    </TextButton>
  );
}

function VerdictCard({ view }: { readonly view: RigView }) {
  const { units } = useSettings();
  const { assessment, facts } = view;
  if (!assessment)
    return (
      <Card>
        <Body>Working it out…</Body>
      </Card>
    );
  const { standing, verdict } = assessment;
  if (!standing || !verdict)
    return (
      <Card testID="verdict">
        <Strong>{facts.rig.name}</Strong>
        <Body>{assessment.because}</Body>
        {verdict?.reasons[0] === "no-charge" ? <WayToFill view={view} /> : null}
      </Card>
    );
  const spoken = spokenOf(view);
  const words = verdictWords(spoken, standing, units);
  const range = dateRange(view);
  const work = headlineShown(standing, spoken, units)?.work;
  return (
    <Card testID="verdict" borderColor="$ink">
      <Row alignItems="flex-start">
        <StateRing state={verdict.state} />
        <View flex={1} gap="$1">
          <Heading testID="verdict-title">
            {facts.rig.name}: {words.title.charAt(0).toLowerCase() + words.title.slice(1)}
          </Heading>
          <Body testID="verdict-reason">{words.reason}</Body>
          {work ? <Body testID="verdict-work">{capital(work)}.</Body> : null}
          {words.more.map((sentence) => (
            <Body key={sentence} testID="verdict-more">
              {sentence}
            </Body>
          ))}
          <VerdictWays view={view} />
          <WaterUnknown view={view} />
          <Explained explanation={view.asOf === undefined ? explainHeadline(standing, spoken) : undefined} />
          <LeakLine facts={facts} standing={standing} />
          {range ? (
            <Small>
              {isToBeLookedAt(view) ? "If it was wrong, the" : "The"} {markWords(standing, facts.rig)} falls {range}, at
              your booked and usual water.
            </Small>
          ) : null}
        </View>
      </Row>
    </Card>
  );
}

/** Where a lead is spent, what can be done about it; else it stands where the train is arranged. */
function WorthOfActs({ view }: { readonly view: RigView }) {
  const { facts, assessment } = view;
  if (!assessment?.lead || !assessment.worth) return null;
  return (
    <Card gap="$3">
      <ActsWorth view={view} />
      <TextButton href={`/setup/train?rig=${facts.rig.id}`} testID="to-train">
        Rotate, swap, take out
      </TextButton>
    </Card>
  );
}

function needWords(rigs: readonly RigView[]): string {
  const needy = rigs.filter((view) => view.assessment?.verdict && view.assessment.verdict.state !== "fine").length;
  if (rigs.some((view) => !view.assessment)) return "Working it out…";
  const oldest = Math.min(...rigs.map((view) => view.asOf ?? Infinity));
  if (Date.now() - oldest > OLD_FROM) return `The newest answer here is of ${momentInWords(oldest, Date.now())}.`;
  if (needy === 0) return "All fine.";
  return needy === 1 ? "One needs you." : `${needy} need you.`;
}

/** On a phone the taps, meters and rigs themselves stand behind the rack's title. */
const TitleToSetUp = () => (
  <View flexDirection="row" alignItems="center" justifyContent="space-between" minHeight={48}>
    <Title>The rack</Title>
    <TextButton href="/setup" testID="to-setup">
      Set up
    </TextButton>
  </View>
);

/** Home: the wall where the vessels hang, and what needs a hand today. */
export function RackScreen() {
  const { rigs: all, pending } = useRigs();
  const rigs = useMemo(() => all.filter(({ facts }) => facts.rig.retiredOn === undefined), [all]);
  const wide = useWide();
  const largeText = useLargeText();
  const { rig: chosen } = useLocalSearchParams<{ rig?: string }>();
  const sorted = useMemo(() => [...rigs].sort(byNeed), [rigs]);
  // The one logged last on this device comes before the neediest: another hand's reading must not land on the wrong rig.
  const isHere = (id: string | undefined) => rigs.find((view) => view.facts.rig.id === id);
  const selected = isHere(chosen) ?? isHere(lastRig()) ?? sorted[0];
  const select = (view: RigView) => router.setParams({ rig: view.facts.rig.id });
  if (rigs.length === 0) return <EmptyRack pending={pending} />;
  const logButton = (
    <HeavyButton href={`/log/${selected!.facts.rig.id}`} testID="log-a-reading">
      {`Log ${selected!.facts.rig.name}`}
    </HeavyButton>
  );
  const footer = wide ? undefined : (
    <View paddingHorizontal={18} paddingVertical={10}>
      {logButton}
    </View>
  );
  const rack = (
    <View gap="$4" flexGrow={1}>
      <View>
        {wide ? <Title>The rack</Title> : <TitleToSetUp />}
        <Body color="$soft">{needWords(rigs)}</Body>
      </View>
      <OpenWorkLine />
      {rigs.length <= MOST_COLUMNS && !largeText ? (
        <Wall rigs={rigs} selected={selected} onSelect={select} />
      ) : (
        <NeedList rigs={sorted} onSelect={select} />
      )}
      {selected && isTrain(selected) ? (
        <TrainDrawing view={selected} onChoose={(vesselId) => go(historyOf(selected.facts.rig.id, vesselId))} />
      ) : null}
      {selected ? <VerdictCard view={selected} /> : null}
      {selected ? <WorthOfActs view={selected} /> : null}
      {wide ? logButton : null}
      {!wide && selected ? (
        <PlainButton
          href={`/history/${selected.facts.rig.id}`}
          testID="open-history"
        >{`History of ${selected.facts.rig.name}`}</PlainButton>
      ) : null}
    </View>
  );
  return (
    <Screen
      name="The rack"
      footer={footer}
      detail={wide && selected ? <HistoryDetail key={selected.facts.rig.id} view={selected} beside /> : undefined}
    >
      {rack}
    </Screen>
  );
}

const historyOf = (rigId: Id, vesselId: Id) => `/history/${rigId}?vessel=${vesselId}`;

const FirstDay = place("First day", async () => (await import("../start/FirstDayScreen")).FirstDayScreen, SETUP_NEEDS);

/** An empty wall asks the three questions of a first day. */
function EmptyRack({ pending }: { readonly pending: boolean }) {
  if (!pending) return <FirstDay />;
  return (
    <Screen title="The rack">
      <Body role="status">Fetching your rack… it opens without a signal once it was here.</Body>
    </Screen>
  );
}
