import { View } from "@tamagui/core";
import {
  explainHeadline,
  headlineOf,
  resinFeedPoint,
  workWords,
  type DepletionAnswer,
  type Id,
  type Rig,
  type Standing,
  type Visit,
} from "@winter-bead/core";
import { router } from "expo-router";
import { useDeferredValue, useLayoutEffect, useMemo, useRef, useState } from "react";
import { ScrollView, useWindowDimensions } from "react-native";
import { useUnitDraft } from "../../forms/useUnitDraft";
import { useSettings } from "../../data/settings";
import { kept } from "../../data/acts";
import { act, newId, type Done } from "../../data/store";
import { Choice, HeavyButton, Pressable, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField, TextField } from "../../ui/fields";
import {
  dateInWords,
  litresRange,
  localDate,
  momentInWords,
  scaleUnit,
  shown,
  toShown,
  unitOf,
  type Units,
} from "../../ui/format";
import { isForThePlace } from "../../ui/keys";
import { NumberPad, typed } from "../../ui/NumberPad";
import { usePlaceTitle } from "../../ui/place-title";
import { useWide } from "../../ui/Screen";
import { StateRing } from "../../ui/StateRing";
import { showToast } from "../../ui/toast";
import { Body, Heading, Huge, Small, Strong, Title } from "../../ui/words";
import { assessQuickly, type Assessment, type RigFacts } from "./assess";
import { doubt, tapRangeOf } from "./doubt";
import {
  draftVisit,
  EMPTY_DRAFT,
  figureOf,
  logInOtherUnits,
  type DraftField,
  type DraftVisit,
  type LogDraft,
} from "./draft-visit";
import { inUse } from "../../data/in-use";
import { lastReading, lastWater, usualMeter } from "./last-values";
import { LeakLine } from "./LeakLine";
import { StandingColumn } from "./RigColumn";
import { useDatesWhileTyping } from "./useDatesWhileTyping";
import type { RigView } from "./useRigs";
import { verdictWords } from "./words";

interface FieldBoxProps {
  /** Digits that fit in the large size. */
  readonly most: number;
  readonly label: string;
  readonly text: string;
  readonly unit: string;
  readonly last: string;
  readonly focused: boolean;
  readonly error: string | undefined;
  readonly onPress: () => void;
  readonly testID: string;
}

function FieldBox({ most, label, text, unit, last, focused, error, onPress, testID }: FieldBoxProps) {
  return (
    <Pressable
      onPress={onPress}
      testID={testID}
      aria-pressed={focused}
      aria-label={`${label}: ${text === "" ? "empty" : text} ${unit}. ${last}`}
      flex={1}
      minWidth={0}
      alignItems="flex-start"
      justifyContent="flex-start"
      backgroundColor="$card"
      borderColor={error ? "$rowan" : focused ? "$ink" : "$line"}
      borderWidth={2}
      borderRadius="$3"
      paddingHorizontal={10}
      paddingVertical={8}
      gap={0}
      minHeight={92}
    >
      <Small textAlign="left" fontWeight={focused ? "800" : "400"} color={focused ? "$ink" : "$soft"}>
        {label}
      </Small>
      <View flexDirection="row" alignItems="center">
        <Body fontSize={text.length > most ? "$3" : "$5"} lineHeight="$5" fontWeight="800">
          {text === "" && !focused ? "–" : text}
        </Body>
        {focused ? <View width={2} height={28} backgroundColor="$ink" marginLeft={2} /> : null}
      </View>
      <Small textAlign="left">{unit}</Small>
    </Pressable>
  );
}

interface Offer {
  readonly text: string;
  readonly words: string;
}

const WATER_LABEL = { total: "Total", timed: "Minutes run", jobs: "Jobs" } as const;

/** Everything the log needs, worked out from the draft as it stands. */
function useLog(view: RigView) {
  const { facts } = view;
  const { units } = useSettings();
  const initial = useMemo<LogDraft>(() => {
    const current = facts.charges[facts.charges.length - 1];
    const { water } = lastWater(facts.visits, current?.startTotal);
    const lastVisit = facts.visits[facts.visits.length - 1];
    return {
      ...EMPTY_DRAFT,
      meterId: usualMeter(facts.visits, facts.meters) ?? "",
      tapId: lastVisit?.tapId ?? facts.rig.tapId,
      waterBy: water?.by ?? "total",
    };
    // The draft starts once; what comes later must not overwrite what was typed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [facts.rig.id]);
  const [kept, patch, clear] = useUnitDraft<LogDraft>(`log:${facts.rig.id}`, initial, logInOtherUnits);
  const meters = useMemo(() => inUse(facts.meters), [facts.meters]);
  // A draft may name a meter that was retired since.
  const draft = useMemo(
    () =>
      meters.some(({ id }) => id === kept.meterId)
        ? kept
        : { ...kept, meterId: usualMeter(facts.visits, meters) ?? "" },
    [kept, meters, facts.visits],
  );
  const [focus, setFocus] = useState<DraftField>("output");
  const current = facts.charges[facts.charges.length - 1];
  const last = useMemo(() => lastWater(facts.visits, current?.startTotal), [facts.visits, current]);
  const ids = useRef<Id[]>([]);
  const stableIds = () => {
    let next = 0;
    return () => (ids.current[next++] ??= newId());
  };
  const parts = { rig: facts.rig, meters, units, lastTotal: last.total };
  const visit = draftVisit(draft, parts, stableIds());
  return {
    draft,
    patch,
    clear,
    focus,
    setFocus,
    visit,
    last,
    meters,
    forgetIds: () => {
      ids.current = [];
    },
    units,
  };
}

type Log = ReturnType<typeof useLog>;

/** Id of the visit that is being typed. */
const DRAFT = "draft";

const withDraft = (facts: RigFacts, visit: DraftVisit, now: number): RigFacts =>
  visit.body
    ? { ...facts, visits: [...facts.visits, { ...visit.body, id: DRAFT, at: new Date(now).toISOString() }] }
    : facts;

function offerFor(field: DraftField, facts: RigFacts, log: Log): Offer | undefined {
  const { draft, last, units } = log;
  if (field === "temperature") return undefined;
  if (field === "water") {
    const { water, total } = last;
    if (draft.waterBy === "total")
      return total === undefined
        ? undefined
        : {
            text: "",
            words: `Last ${Math.round(toShown("volume", total, units)).toLocaleString("en-US")} ${unitOf("volume", units)}`,
          };
    if (!water || water.by === "total" || water.by !== draft.waterBy) return undefined;
    const amount = water.by === "timed" ? water.minutes : water.jobs;
    return { text: String(amount), words: `Last ${amount}` };
  }
  const point = field === "membrane" ? "after-membrane" : field;
  const reading = lastReading(facts.visits, point, field === "feed" ? draft.tapId : undefined);
  return (
    reading && { text: String(reading.value), words: `Last ${reading.value}, ${momentInWords(reading.at, facts.now)}` }
  );
}

const LEAST_COLUMN = 110;
const MOST_COLUMN = 230;
const ROOM_OF_THE_REST = 540;

function LiveVerdict({
  view,
  assessment,
  dates,
}: {
  readonly view: RigView;
  readonly assessment: Assessment;
  readonly dates: string;
}) {
  const { units } = useSettings();
  const { height } = useWindowDimensions();
  // The column gives way first: pad and button stay in sight on a phone with its browser's bars.
  const columnHeight = Math.max(LEAST_COLUMN, Math.min(MOST_COLUMN, height - ROOM_OF_THE_REST));
  const { standing, verdict } = assessment;
  if (!standing || !verdict)
    return (
      <Body testID="live-verdict" role="status">
        {assessment.because}
      </Body>
    );
  const words = verdictWords(view.facts, standing, units);
  const headline = headlineOf(standing, view.facts);
  const left = headline && shown("volume", headline.litres.typical, units);
  const work = headline ? workWords(headline.litres.typical, view.facts.rig) : "";
  const range = headline ? litresRange(headline.litres.low, headline.litres.high, units) : "";
  // What the reason or a sentence after it says already isn't said twice.
  const rangeOnce = [words.reason, ...words.more].some((sentence) => sentence.includes(range)) ? "" : range;
  return (
    <View flexDirection="row" gap="$3" minHeight={columnHeight}>
      <StandingColumn view={{ facts: view.facts, assessment }} height={columnHeight} />
      <View flex={1} gap="$1" minWidth={0}>
        <View flexDirection="row" gap="$2" alignItems="center" role="status">
          <StateRing state={verdict.state} size={28} />
          <Heading testID="live-verdict" flexShrink={1}>
            {words.title}
          </Heading>
        </View>
        <Body testID="live-reason">{words.reason}</Body>
        {headline && left ? (
          <>
            <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
              <Huge fontSize="$6" lineHeight="$6" testID="live-left">
                {left.text}
              </Huge>
              <Strong>
                {left.unit} {headline.to}
              </Strong>
            </View>
            <Small testID="live-range">{[rangeOnce, work, dates].filter(Boolean).join(", ")}</Small>
          </>
        ) : null}
        {words.more.map((sentence) => (
          <Small key={sentence} testID="live-more" color="$ink">
            {sentence}
          </Small>
        ))}
        <LeakLine facts={view.facts} standing={standing} explained={false} />
      </View>
    </View>
  );
}

const wordsKept = (visit: Omit<Visit, "id" | "at">, rigName: string) => {
  const output = visit.readings.find((reading) => reading.point === "output");
  return output ? `Kept for ${rigName}: out ${output.value}.` : `Kept for ${rigName}.`;
};

/** By which meter the figures are read. */
const MeterChoice = ({ log, label }: { readonly log: Log; readonly label: string }) => (
  <Choice
    label={label}
    value={log.draft.meterId}
    options={log.meters.map(({ id, name, scale }) => ({ value: id, label: `${name}, ${scaleUnit(scale)}` }))}
    onChange={(meterId) => log.patch({ meterId })}
    testID="log-meter"
  />
);

function MoreFields({ view, log }: { readonly view: RigView; readonly log: Log }) {
  const { draft, patch } = log;
  const { facts } = view;
  const taps = inUse(facts.taps, draft.tapId);
  return (
    <View gap="$3">
      {log.meters.length > 0 && draft.meterId !== "" ? <MeterChoice log={log} label="Meter" /> : null}
      {taps.length > 1 ? (
        <Choice
          label="Tap"
          value={draft.tapId}
          options={taps.map((tap) => ({ value: tap.id, label: tap.name }))}
          onChange={(tapId) => patch({ tapId })}
        />
      ) : null}
      <FieldRow>
        {draft.waterBy === "timed" ? (
          <NumberField
            label="Flow while it ran"
            unit={unitOf("flow", log.units)}
            value={draft.flow}
            onChange={(flow) => patch({ flow })}
            hint={`Usually ${shown("flow", facts.rig.flow, log.units).text}`}
            testID="log-flow"
          />
        ) : null}
        {draft.waterBy === "jobs" ? (
          <NumberField
            label={`Water per ${facts.rig.jobName}`}
            unit={unitOf("volume", log.units)}
            value={draft.perJob}
            onChange={(perJob) => patch({ perJob })}
            hint={`Usually ${shown("volume", facts.rig.litresPerJob, log.units).text}`}
            testID="log-per-job"
          />
        ) : null}
        <NumberField
          label="Water temperature"
          unit={unitOf("temperature", log.units)}
          value={draft.temperature}
          onChange={(temperature) => patch({ temperature })}
          {...(log.visit.errors.temperature ? { error: log.visit.errors.temperature } : {})}
          testID="log-temperature"
        />
      </FieldRow>
      <TextField label="Note" value={draft.note} onChange={(note) => patch({ note })} />
    </View>
  );
}

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

function waterUnitOf({ waterBy, flow, perJob }: LogDraft, { rig }: RigFacts, units: Units): string {
  const one = (quantity: "flow" | "volume", value: number) =>
    `${shown(quantity, value, units).text} ${unitOf(quantity, units)}`;
  if (waterBy === "total") return unitOf("volume", units);
  if (waterBy === "timed") return `min at ${flow === "" ? one("flow", rig.flow) : `${flow} ${unitOf("flow", units)}`}`;
  return `${rig.jobName}s, ${perJob === "" ? one("volume", rig.litresPerJob) : `${perJob} ${unitOf("volume", units)}`} each`;
}

/** Words about the last value that fit into a field's box. */
const shortWords = (offer: Offer | undefined) => offer?.words.split(", ")[0] ?? "";

function LogFields({ facts, log, unit }: { readonly facts: RigFacts; readonly log: Log; readonly unit: string }) {
  const { draft, focus, setFocus, visit, units } = log;
  const hasMembrane = facts.rig.stages.some((stage) => stage.kind === "membrane");
  const box = (field: DraftField, label: string, fieldUnit: string) => (
    <FieldBox
      most={hasMembrane ? 4 : 6}
      testID={`log-${field}`}
      label={label}
      text={draft[field]}
      unit={fieldUnit}
      last={shortWords(offerFor(field, facts, log))}
      focused={focus === field}
      error={visit.errors[field]}
      onPress={() => setFocus(field)}
    />
  );
  return (
    <View flexDirection="row" gap="$2">
      {box("feed", "Feed", unit)}
      {hasMembrane ? box("membrane", "After RO", unit) : null}
      {box("output", "Output", unit)}
      {box("water", WATER_LABEL[draft.waterBy], waterUnitOf(draft, facts, units))}
    </View>
  );
}

const WATER_WAYS = [
  { value: "total", label: "Meter total" },
  { value: "timed", label: "Minutes" },
  { value: "jobs", label: "Jobs" },
] as const;

const FAR_FROM_USUAL = {
  feed: "Far from the usual feed. It counts once you say it is right, or read it again.",
  membrane: "Far from what usually comes through the membrane. It counts once you say it is right, or read it again.",
  water: "Far above the last total. Its water counts once you say it is right, or the next total bears it out.",
} as const;

/** What was typed so far from usual that it does not count by itself. */
function doubtfulField(
  draft: LogDraft,
  rig: Rig,
  standing: Standing | undefined,
): keyof typeof FAR_FROM_USUAL | undefined {
  if (standing?.heldBack.totals.includes(DRAFT)) return "water";
  if (!standing?.heldBack.feeds.some(({ recordId }) => recordId === DRAFT)) return undefined;
  return resinFeedPoint(rig) === "after-membrane" && draft.membrane.trim() !== "" ? "membrane" : "feed";
}

/** What is wrong, what is worth a second look, or the last value one tap away: one line whose room is always kept. */
function LogHelp({
  facts,
  log,
  trouble,
  standing,
}: {
  readonly facts: RigFacts;
  readonly log: Log;
  readonly trouble: string | undefined;
  readonly standing: Standing | undefined;
}) {
  const { draft, patch, visit } = log;
  const firstError = trouble ?? Object.values(visit.errors)[0];
  const range = useMemo(() => tapRangeOf(facts, draft.tapId), [facts, draft.tapId]);
  const asked = doubtfulField(draft, facts.rig, standing);
  const question = doubt(facts, draft, range) ?? (asked && FAR_FROM_USUAL[asked]);
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
    </View>
  );
}

/** The last value of the field in hand, one tap away. */
function SameAgain({ facts, log }: { readonly facts: RigFacts; readonly log: Log }) {
  const { draft, patch, focus } = log;
  const offer = offerFor(focus, facts, log);
  if (!offer || draft[focus] !== "") return null;
  if (!offer.text) return <Small>{offer.words}</Small>;
  return (
    <TextButton
      testID="use-last"
      onPress={() => patch({ [focus]: offer.text })}
    >{`Same again: ${offer.words.replace("Last ", "")}`}</TextButton>
  );
}

/** Keeps the visit on this device, clears the draft and offers the way back. */
function useSave(facts: RigFacts, log: Log) {
  const [saving, setSaving] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const { visit } = log;
  const canKeep = visit.body !== undefined && Object.keys(visit.errors).length === 0 && !saving;
  const save = async () => {
    if (!visit.body || !canKeep) return;
    setSaving(true);
    setTrouble(undefined);
    const body = { ...visit.body, at: new Date().toISOString() };
    let done: Done;
    try {
      done = await act(`Log of ${facts.rig.name}`, [kept("visits", body, newId())], body.at);
    } catch (error) {
      setSaving(false);
      return setTrouble((error as Error).message);
    }
    log.clear();
    log.forgetIds();
    showToast({ words: wordsKept(body, facts.rig.name), undo: done.undo });
    setSaving(false);
    router.navigate({ pathname: "/", params: { rig: facts.rig.id } });
  };
  return { canKeep, save, trouble };
}

/** The likely day, and the early and the late one where they are others. */
function spanInWords({ early, likely, late }: DepletionAnswer, today: string): string {
  const [from, middle, to] = [early, likely, late].map((day) => dateInWords(day, today));
  return from === to ? middle! : `${middle}, ${from} to ${to}`;
}

const WORKING_IT_OUT: Assessment = { because: "Working it out…" };

function useLiveAssessment(view: RigView, visit: DraftVisit) {
  const { facts } = view;
  const draftKey = JSON.stringify(visit.body ?? null);
  // The key stands for the visit: a new object with the same content changes nothing.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const draftFacts = useMemo(() => withDraft(facts, visit, Math.max(facts.now, Date.now())), [facts, draftKey]);
  const settled = useDeferredValue(draftFacts);
  // Until it is known what all ended charges taught, the last answer stands: half the facts would give another number.
  const { assessment: last, awaited } = view;
  const owner = last?.owner;
  const assessment = useMemo(
    () => (awaited ? (last ?? WORKING_IT_OUT) : assessQuickly(settled, owner)),
    [awaited, last, settled, owner],
  );
  const dates = useDatesWhileTyping(awaited ? undefined : settled, owner) ?? (awaited ? last?.dates : undefined);
  const today = localDate(facts.now);
  const dateWords = dates ? spanInWords(dates, today) : "";
  return { assessment, dateWords };
}

/** Logging answers while the digits fall: three fields, the column and the verdict, a pad and one button. */
export function LogScreen({ view }: { readonly view: RigView }) {
  const { facts } = view;
  const wide = useWide();
  const log = useLog(view);
  const { draft, patch, focus, visit } = log;
  const [more, setMore] = useState(false);
  const { canKeep, save, trouble } = useSave(facts, log);
  const { assessment, dateWords } = useLiveAssessment(view, visit);
  const meter = facts.meters.find((each) => each.id === draft.meterId);
  const tap = facts.taps.find((each) => each.id === draft.tapId);
  const onKey = (key: string) => patch({ [focus]: typed(draft[focus], key) });
  usePhysicalKeys(onKey, () => void save());

  const name = facts.rig.name;
  usePlaceTitle(`Log ${name}`);
  return (
    <View render="main" id="place" className="place" flex={1} minHeight={0} alignItems="center">
      <View
        flex={1}
        minHeight={0}
        width="100%"
        maxWidth={620}
        paddingHorizontal={wide ? 26 : 12}
        paddingTop={wide ? 20 : 2}
        gap={6}
      >
        <View flexDirection="row" alignItems="center" gap="$2">
          <TextButton href="/" label="Back to the rack">
            ‹ Rack
          </TextButton>
          <View flex={1} minWidth={0} alignItems="center">
            <Title fontSize="$3" lineHeight="$3">
              {name}
            </Title>
            <Small textAlign="center">{[tap?.name, meter?.name].filter(Boolean).join(" · ")}</Small>
          </View>
          <TextButton onPress={() => setMore(!more)} expanded={more} testID="log-more">
            {more ? "Less" : "More"}
          </TextButton>
        </View>
        <LogFields
          facts={facts}
          log={log}
          unit={meter || log.meters.length === 0 ? scaleUnit(meter?.scale ?? "nacl") : "by which meter?"}
        />
        <ScrollView style={{ flex: 1 }} contentContainerStyle={{ gap: 8, paddingVertical: 4 }}>
          {focus === "water" ? (
            <Choice
              hideLabel
              label="How the water is known"
              value={draft.waterBy}
              options={WATER_WAYS}
              onChange={(waterBy) => patch({ waterBy, water: "" })}
            />
          ) : null}
          {log.meters.length > 1 && draft.meterId === "" ? (
            <MeterChoice log={log} label="Which meter? Its scale makes the figures mean something" />
          ) : null}
          {more || visit.errors.temperature ? <MoreFields view={view} log={log} /> : null}
          <LiveVerdict view={view} assessment={assessment} dates={dateWords} />
          <Explained
            explanation={
              assessment.standing && !view.awaited ? explainHeadline(assessment.standing, view.facts.rig) : undefined
            }
            testID="why-left"
          />
        </ScrollView>
        <View paddingBottom={8} gap={6} testID="log-pad">
          <LogHelp facts={facts} log={log} trouble={trouble} standing={assessment.standing} />
          <NumberPad onKey={onKey} />
          <HeavyButton onPress={() => void save()} disabled={!canKeep} testID="keep-it">
            {visit.isEmpty ? "Type a reading" : "Keep it"}
          </HeavyButton>
        </View>
      </View>
    </View>
  );
}
