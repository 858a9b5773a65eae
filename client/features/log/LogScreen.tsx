import { clockNowIso, useClockAhead } from "../../data/clock";
import { View } from "@tamagui/core";
import { explainHeadline, type Explanation, type Visit } from "@winter-bead/core";
import { router } from "expo-router";
import { memo, useCallback, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { ScrollView, useWindowDimensions, View as PlainView } from "react-native";
import { bodyOf, changed, kept, type Step } from "../../data/acts";
import type { Kept } from "../../data/api";
import { useSettings } from "../../data/settings";
import { act, newId, useRecords, type Done } from "../../data/store";
import { Choice, HeavyButton, Pressable, TextButton } from "../../ui/boxes";
import { explainedIn } from "../../ui/explain-units";
import { Working } from "../../ui/Explained";
import { scaleUnit } from "../../ui/format";
import { isForThePlace } from "../../ui/keys";
import { useNewest } from "../../ui/newest";
import { NumberPad, typed } from "../../ui/NumberPad";
import { usePlaceTitle } from "../../ui/place-title";
import { useWide } from "../../ui/width";
import { showToast } from "../../ui/toast";
import { Small, Strong } from "../../ui/words";
import { HistoryDetail } from "../history/HistoryDetail";
import type { Assessment, RigFacts } from "../rack/assess";
import { rememberRig } from "../rack/last-rig";
import type { RigView } from "../rack/useRigs";
import { carryOver } from "./carry-over";
import { ClockQuestion, type TimeOf } from "./ClockQuestion";
import { textIn, typedInto } from "./draft-visit";
import { isOddNow, lookToRepeat } from "./asks";
import { LiveVerdict, verdictAloud } from "./LiveVerdict";
import { LogFields, MeterChoice, MoreFields, OtherPoints, WATER_WAYS } from "./LogFields";
import { doubtfulField, LogHelp } from "./LogHelp";
import { LogRigs } from "./LogRigs";
import { useLive } from "./useLive";
import { useLog, type Log } from "./useLog";
import { useRested } from "./useRested";

const wordsKept = (visit: Omit<Visit, "id" | "at">, rigName: string) => {
  const output = [...visit.readings].reverse().find((reading) => reading.point === "output");
  return output ? `Kept for ${rigName}: out ${output.value}.` : `Kept for ${rigName}.`;
};

/** Heard from the moment the pad is seen, and before the shell's keys for places. */
function usePhysicalKeys(onKey: (key: string) => void, onEnter: () => void): void {
  const handlers = useRef({ onKey, onEnter });
  useLayoutEffect(() => {
    handlers.current = { onKey, onEnter };
  });
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!isForThePlace(event)) return;
      const key = event.key === "," ? "." : event.key === "Backspace" ? "back" : event.key;
      if (/^([0-9.]|back)$/.test(key)) {
        event.stopPropagation();
        handlers.current.onKey(key);
      } else if (key === "Enter" && !(event.target instanceof HTMLElement && event.target.closest("button")))
        handlers.current.onEnter();
    };
    document.addEventListener("keydown", listen, true);
    return () => document.removeEventListener("keydown", listen, true);
  }, []);
}

/** Which time the visit is kept under, with the question about it where this phone's clock is off. */
function useTimeOf(): { readonly timeOf: TimeOf; readonly clock: ReactNode } {
  const [timeOf, setTimeOf] = useState<TimeOf>("right");
  const isOff = useClockAhead() !== 0;
  const clock = useMemo(() => (isOff ? <ClockQuestion value={timeOf} onChange={setTimeOf} /> : null), [isOff, timeOf]);
  return { timeOf, clock };
}

/** The newest charge with what the meter showed at its filling, where that was said now. */
function withTotal(charges: readonly Kept<"charges">[], facts: RigFacts, startTotal: number | undefined): Step[] {
  const current = facts.charges[facts.charges.length - 1];
  const charge = startTotal === undefined ? undefined : charges.find(({ id }) => id === current?.id);
  return charge ? [changed("charges", charge, { ...bodyOf(charge), startTotal })] : [];
}

/** Keeps the visit on this device, clears the draft and offers the way back. */
function useSave(facts: RigFacts, log: Log, timeOf: TimeOf) {
  const [saving, setSaving] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const [lookedAt, setLookedAt] = useState<number>();
  const charges = useRecords("charges").records;
  const { visit } = log;
  const canKeep = visit.body !== undefined && Object.keys(visit.errors).length === 0 && !saving;
  /** @param stays on the log, to look again */
  const save = async (stays = false) => {
    if (!visit.body || !canKeep) return;
    setSaving(true);
    setTrouble(undefined);
    const at = timeOf === "phone" ? new Date().toISOString() : clockNowIso();
    const body = { ...visit.body, at };
    let done: Done;
    try {
      const steps = [kept("visits", body, newId()), ...withTotal(charges, facts, visit.atFilling)];
      done = await act(`Log of ${facts.rig.name}`, steps, body.at);
    } catch (error) {
      setSaving(false);
      return setTrouble((error as Error).message);
    }
    rememberRig(facts.rig.id);
    log.clear();
    log.forgetIds();
    showToast({ words: wordsKept(body, facts.rig.name), undo: done.undo });
    setSaving(false);
    if (stays) {
      setLookedAt(Date.parse(body.at));
      log.setFocus("output");
    } else router.navigate({ pathname: "/", params: { rig: facts.rig.id } });
  };
  const newest = useNewest(save);
  const keep = useCallback(() => void newest.current(), [newest]);
  const lookAgain = useCallback(() => void newest.current(true), [newest]);
  return { canKeep, keep, lookAgain, trouble, lookedAt };
}

/** ms without a key after which the answer is read out. */
const ALOUD_AFTER = 800;

/** What those hear who don't see it: once the hand rests, not with every digit. */
function Aloud({
  facts,
  assessment,
  dates,
}: {
  readonly facts: RigFacts;
  readonly assessment: Assessment;
  readonly dates: string;
}) {
  const { units } = useSettings();
  const [rested, restedDates] = [useRested(assessment, ALOUD_AFTER), useRested(dates, ALOUD_AFTER)];
  const words = useMemo(() => verdictAloud(facts, rested, restedDates, units), [facts, rested, restedDates, units]);
  return (
    <View role="status" testID="live-aloud" position="absolute" width={1} height={1} overflow="hidden">
      <Small>{words}</Small>
    </View>
  );
}

/** Who is logged, at which tap, by which meter. */
const LogHead = memo(function LogHead({
  view,
  others,
  under,
  more,
  onMore,
  onLeave,
  points,
}: {
  readonly points: ReactNode;
  readonly view: RigView;
  readonly others: readonly RigView[];
  /** Tap and meter. */
  readonly under: string;
  readonly more: boolean;
  readonly onMore: () => void;
  readonly onLeave: (to: RigView) => void;
}) {
  return (
    <View>
      <View flexDirection="row" alignItems="center" gap="$3">
        <Pressable href="/" aria-label="Back to the rack">
          <Strong fontWeight="600">‹ Rack</Strong>
        </Pressable>
        <LogRigs here={view} others={others} onLeave={onLeave} />
        <TextButton onPress={onMore} expanded={more} testID="log-more">
          {more ? "Less" : "More"}
        </TextButton>
      </View>
      <View flexDirection="row" alignItems="center" gap="$2">
        <Small flex={1} minWidth={0} numberOfLines={1}>
          {under}
        </Small>
        {points}
      </View>
    </View>
  );
});

/** What is asked before the figures mean something, and seldom; mostly nothing. */
function questionsOf(view: RigView, log: Log, more: boolean, clock: ReactNode): ReactNode {
  const { draft, patch, focus, visit, meters } = log;
  const asksWater = focus === "water";
  const asksMeter = meters.length > 1 && draft.meterId === "";
  const asksMore = more || visit.errors.temperature !== undefined;
  if (!asksWater && !asksMeter && !asksMore && !clock) return null;
  return (
    <>
      {clock}
      {asksWater ? (
        <Choice
          hideLabel
          label="How the water is known"
          value={draft.waterBy}
          options={WATER_WAYS}
          onChange={(waterBy) => patch({ waterBy, water: "" })}
        />
      ) : null}
      {asksMeter ? <MeterChoice log={log} label="Which meter? Its scale makes the figures mean something" /> : null}
      {asksMore ? <MoreFields view={view} log={log} /> : null}
    </>
  );
}

/** The working in place of the pad, so that it opens in sight. */
function WhyInstead({ explanation, onClose }: { readonly explanation: Explanation; readonly onClose: () => void }) {
  const { units } = useSettings();
  return (
    <View flex={1} minHeight={0} gap={6} paddingBottom={8}>
      <ScrollView style={{ flex: 1 }} contentContainerStyle={{ paddingVertical: 4 }}>
        <Working explanation={explainedIn(units, explanation)} />
      </ScrollView>
      <HeavyButton onPress={onClose} testID="close-why">
        Back to the pad
      </HeavyButton>
    </View>
  );
}

/** px of the answer that stay in sight over its working. */
const BESIDE_WHY = 112;
/** Lower than this the pad stands beside what it types. */
const LOW = 560;

/** Frames that only lay out: drawn with each digit, they are to cost nothing. */
const ONE = {
  flex: 1,
  minHeight: 0,
  width: "100%",
  maxWidth: 620,
  paddingHorizontal: 12,
  paddingTop: 2,
  gap: 6,
} as const;
const FRAME = {
  phone: ONE,
  wide: { ...ONE, paddingHorizontal: 26, paddingTop: 20 },
  low: { ...ONE, maxWidth: undefined, flexDirection: "row", gap: 12 },
  top: { flex: 1, minHeight: 0, minWidth: 0, gap: 6 },
  still: { minHeight: 0, minWidth: 0, gap: 6 },
  foot: { flex: 1, minWidth: 0, justifyContent: "flex-end" },
  pad: { paddingBottom: 8, gap: 6 },
  column: { flex: 1, minHeight: 0, minWidth: 0, alignItems: "center" },
} as const;

/** The answer, and over it what is asked; drawn again for an answer, not for a digit. */
const AnswerInSight = memo(function AnswerInSight({
  questions,
  above,
  ...answer
}: {
  readonly facts: RigFacts;
  readonly assessment: Assessment;
  readonly dates: string;
  /** Its working stands under it, and takes the room. */
  readonly above: boolean;
  readonly questions: ReactNode;
}) {
  const [room, setRoom] = useState(0);
  const [height, setHeight] = useState(0);
  // What is longer than its room scrolls by keys too.
  const scrolls = height > room + 1 ? { tabIndex: 0 as const, role: "group" as const, "aria-label": "The answer" } : {};
  return (
    <ScrollView
      {...scrolls}
      style={above ? { height: BESIDE_WHY } : { flex: 1 }}
      contentContainerStyle={{ gap: 8, paddingVertical: 4 }}
      onLayout={({ nativeEvent }) => setRoom(Math.round(nativeEvent.layout.height))}
      onContentSizeChange={(_, tall) => setHeight(Math.round(tall))}
    >
      {questions}
      <LiveVerdict {...answer} room={room} />
    </ScrollView>
  );
});

const KeepIt = memo(function KeepIt({
  name,
  ...press
}: {
  readonly name: string;
  readonly onPress: () => void;
  readonly disabled: boolean;
}) {
  return <HeavyButton {...press} testID="keep-it">{`Log ${name}`}</HeavyButton>;
});

/** The log in one column; on a low screen in two, with the pad at the right hand. */
function Frame({
  top,
  foot,
  grows,
}: {
  readonly top: ReactNode;
  readonly foot: ReactNode;
  readonly grows: "top" | "foot";
}) {
  const wide = useWide();
  const { height } = useWindowDimensions();
  const low = height < LOW && !wide;
  const across = low ? FRAME.low : wide ? FRAME.wide : FRAME.phone;
  return (
    <PlainView style={across}>
      <PlainView style={low || grows === "top" ? FRAME.top : FRAME.still}>{top}</PlainView>
      {low ? <PlainView style={FRAME.foot}>{foot}</PlainView> : foot}
    </PlainView>
  );
}

/** How the answer came about, once it is the whole answer. */
function useExplained({ facts, awaited }: RigView, { standing, lead }: Assessment): Explanation | undefined {
  return useMemo(
    () => (standing && !awaited ? explainHeadline(standing, { ...facts, lead }) : undefined),
    [standing, awaited, facts, lead],
  );
}

/** Logging answers while the digits fall: the train's fields, the column and the verdict, a pad and one button. */
export function LogScreen({ view, others }: { readonly view: RigView; readonly others: readonly RigView[] }) {
  const { facts } = view;
  const { name } = facts.rig;
  const wide = useWide();
  const log = useLog(view);
  const { draft, visit } = log;
  const [more, setMore] = useState(false);
  const [why, setWhy] = useState(false);
  const { timeOf, clock } = useTimeOf();
  const { canKeep, keep, lookAgain, trouble, lookedAt } = useSave(facts, log, timeOf);
  const { assessment, dateWords } = useLive(view, visit);
  const meter = facts.meters.find((each) => each.id === draft.meterId);
  const tap = facts.taps.find((each) => each.id === draft.tapId);
  const newest = useNewest(log);
  const onKey = useCallback(
    (key: string) => {
      const { draft: before, focus, patch } = newest.current;
      patch(typedInto(before, focus, typed(textIn(before, focus), key)));
    },
    [newest],
  );
  const onLeave = useCallback((to: RigView) => carryOver(newest.current, to), [newest]);
  const toggleMore = useCallback(() => setMore((open) => !open), []);
  const openWhy = useCallback(() => setWhy(true), []);
  usePhysicalKeys(onKey, keep);
  usePlaceTitle(`Log ${name}`);
  const history = useMemo(
    () => (wide ? <HistoryDetail key={facts.rig.id} view={view} beside /> : null),
    [wide, facts, view],
  );
  const { standing } = assessment;
  const explanation = useExplained(view, assessment);
  const isWhy = why && explanation !== undefined;
  const points = useMemo(() => (log.boxes.waiting.length > 0 ? <OtherPoints log={log} /> : null), [log]);
  const top = (
    <>
      <LogHead
        view={view}
        others={others}
        under={[tap?.name, meter?.name].filter(Boolean).join(" · ")}
        more={more}
        onMore={toggleMore}
        onLeave={onLeave}
        points={points}
      />
      <LogFields
        facts={facts}
        log={log}
        unit={meter || log.meters.length === 0 ? scaleUnit(meter?.scale ?? "nacl") : "by which meter?"}
      />
      <AnswerInSight
        facts={facts}
        assessment={assessment}
        dates={dateWords}
        above={isWhy}
        questions={questionsOf(view, log, more, clock)}
      />
      {visit.isEmpty ? null : <Aloud facts={facts} assessment={assessment} dates={dateWords} />}
    </>
  );
  const foot = isWhy ? (
    <WhyInstead explanation={explanation} onClose={() => setWhy(false)} />
  ) : (
    <PlainView style={FRAME.pad} testID="log-pad">
      <LogHelp
        facts={facts}
        log={log}
        trouble={trouble}
        asked={doubtfulField(draft, facts.rig, assessment.standing)}
        onWhy={explanation && openWhy}
        onLookAgain={canKeep && isOddNow(standing, visit) ? lookAgain : undefined}
        lookedAt={lookToRepeat(view.assessment?.standing, facts, facts.now) ?? lookedAt}
      />
      <NumberPad onKey={onKey} />
      <KeepIt onPress={keep} disabled={!canKeep} name={name} />
    </PlainView>
  );
  return (
    <View render="main" id="place" className="place" flex={1} minHeight={0} flexDirection="row">
      <PlainView style={FRAME.column}>
        <Frame top={top} foot={foot} grows={isWhy ? "foot" : "top"} />
      </PlainView>
      {history ? (
        <View flex={1} minHeight={0} minWidth={0} backgroundColor="$card" borderLeftColor="$line" borderLeftWidth={1}>
          <ScrollView style={{ flex: 1 }} contentContainerStyle={{ padding: 32 }}>
            {history}
          </ScrollView>
        </View>
      ) : null}
    </View>
  );
}
