import { useHalfFilled } from "../../ui/half-filled";
import { View } from "@tamagui/core";
import { carbonWords, explainHeadline, shownLitres, GRADE, type Scale } from "@winter-bead/core";
import { lostToAgeing, sizeOfLitres, TRADES, type Trade } from "@winter-bead/core/src/start";
import { router } from "expo-router";
import { useMemo, useState } from "react";
import { ScrollView } from "react-native";
import { isExample, openExample } from "../../data/example";
import { inUse } from "../../data/in-use";
import { useNewestAnswer } from "../../data/newest-answer";
import { useNow } from "../../data/present";
import { useSettings } from "../../data/settings";
import { useRecords } from "../../data/store";
import { optionsOf } from "../../forms/options";
import { useUnitDraft } from "../../forms/useUnitDraft";
import { Choice, HeavyButton, Opener, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { WithPad } from "../../ui/FieldPad";
import { FieldRow, NumberField, TextField } from "../../ui/fields";
import {
  capital,
  litresRange,
  scaleUnit,
  shown,
  threeDigits,
  toInternal,
  toShown,
  typedNumber,
  unitOf,
  type Units,
} from "../../ui/format";
import { usePlaceTitle } from "../../ui/place-title";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small, Strong, Title } from "../../ui/words";
import { answerStartFirstInWorker, answerStartInWorker } from "../rack/assess-service";
import { rememberRig } from "../rack/last-rig";
import { wordingIn } from "../rack/words";
import { AnswerBar } from "./AnswerBar";
import type { StartAnswer, StartQuestion } from "./answer";
import { keepStart } from "./keep-start";
import { ScaleHelp } from "./ScaleHelp";
import { parseStart, startDraft, startInOtherUnits, withTrade, type Asked, type StartDraft } from "./start-form";
import { ToolAsked, WasherWords } from "./ToolAsked";
import { tidyLitres, VesselWall } from "./VesselWall";

const TRADE_OPTIONS = (Object.keys(TRADES) as Trade[]).map((value) => ({ value, label: TRADES[value].name }));

/** What the water is for: everything else has its sound default from here. */
const TradeAsked = ({ draft, patch, units }: Asked) => (
  <Choice
    label="What is the water for?"
    value={draft.trade}
    options={TRADE_OPTIONS}
    onChange={(trade) => patch(withTrade(draft, trade, units))}
    testID="start-trade"
  />
);

const SCALES = ["nacl", "442", "ec", "kcl"] as const;

/** Of a draft whose meter is none of those that are there, before its scale is said. */
const OTHER_METER = "other";

/** What the meter shows, and on which scale; each scale with the litres that this number means on it. */
function MeterAsked({ draft, patch, errors, answer, units }: Asked & { readonly answer: StartAnswer | undefined }) {
  const taps = inUse(useRecords("taps").records);
  const meters = inUse(useRecords("meters").records);
  const [help, setHelp] = useState(false);
  const tap = taps.find(({ id }) => id === draft.tapId);
  const named = meters.find(({ id }) => id === draft.meter);
  const isScale = SCALES.some((each) => each === draft.meter);
  const scale = named?.scale ?? (isScale ? (draft.meter as Scale) : undefined);
  const litresOn = (each: Scale) => answer?.byScale.find((other) => other.scale === each)?.litres;
  const label = (each: Scale, words: string) => {
    const litres = litresOn(each);
    return litres === undefined ? words : `${words}: ${shown("volume", litres, units).text} ${unitOf("volume", units)}`;
  };
  const scales = SCALES.map((each) => ({
    value: each as string,
    label: label(each, scaleUnit(each)),
  }));
  const options = [...scales, { value: "unknown", label: "I don’t know" }];
  // Another meter than those that are there is one whose scale is yet to be said.
  const known = meters.length === 0 ? undefined : (named?.id ?? (draft.meter === "" ? "" : OTHER_METER));
  return (
    <View gap="$3">
      {taps.length > 0 ? (
        <Choice
          label="At which tap?"
          value={draft.tapId || "new"}
          options={[
            ...taps.map(({ id, name }) => ({ value: id, label: name })),
            { value: "new", label: "Another tap" },
          ]}
          onChange={(id) => patch({ tapId: id === "new" ? "" : id })}
        />
      ) : null}
      {tap ? null : (
        <View gap="$2">
          <Heading>Your meter shows</Heading>
          <FieldRow>
            <NumberField
              label="Tap water"
              unit={scale === undefined ? "ppm or µS/cm" : scaleUnit(scale)}
              value={draft.shown}
              onChange={(text) => patch({ shown: text })}
              testID="start-shown"
              {...(errors.shown ? { error: errors.shown } : {})}
            />
            <View flex={1} minWidth={150} justifyContent="flex-end" paddingBottom="$1">
              <Small>Cold, after the tap has run a minute. An example: 143.</Small>
            </View>
          </FieldRow>
        </View>
      )}
      {tap ? null : (
        <>
          {known === undefined ? null : (
            <Choice
              label="By which meter?"
              value={known}
              options={[
                ...meters.map(({ id, name, scale: own }) => ({ value: id, label: `${name}, ${scaleUnit(own)}` })),
                { value: OTHER_METER, label: "Another" },
              ]}
              onChange={(meter) => patch({ meter })}
              testID="start-known-meter"
            />
          )}
          {known === undefined || known === OTHER_METER ? (
            <Choice
              label="Your meter’s ppm is"
              value={draft.meter}
              options={options}
              onChange={(meter) => patch({ meter })}
              testID="start-meter"
            />
          ) : null}
          <Opener onPress={() => setHelp(!help)} expanded={help} testID="which-scale">
            {help ? "Close" : "Which is mine?"}
          </Opener>
          {help ? <ScaleHelp /> : null}
        </>
      )}
    </View>
  );
}

function VesselAsked({ draft, patch, errors, units }: Asked) {
  const litres = toInternal("volume", typedNumber(draft.vessel) ?? NaN, units);
  const set = (value: number) => patch({ vessel: threeDigits(toShown("volume", value, units)).replaceAll(",", "") });
  const size = litres > 0 ? sizeOfLitres(litres) : undefined;
  const resin = size ? shown("resinVolume", size.grossVolume * size.fillFraction, units) : undefined;
  return (
    <View gap="$2">
      <Heading>Your vessel</Heading>
      <Small>Slide along, drag its top, or type its litres: the whole inside, as it is sold.</Small>
      <VesselWall litres={litres} units={units} onChange={(value) => set(tidyLitres(value))} />
      <FieldRow>
        <NumberField
          label="Inside"
          unit={unitOf("volume", units)}
          value={draft.vessel}
          onChange={(vessel) => patch({ vessel })}
          testID="start-vessel"
          {...(errors.vessel ? { error: errors.vessel } : {})}
        />
        <View flex={1} minWidth={150} justifyContent="flex-end" paddingBottom="$3">
          {resin ? <Body>{`filled as usual: ${resin.text} ${resin.unit} of resin`}</Body> : null}
        </View>
      </FieldRow>
      <Choice
        label="What is in it?"
        value={draft.used}
        options={[
          { value: "no", label: "Filled fresh" },
          { value: "jobs", label: `In use: ${TRADES[draft.trade].jobName}s done` },
          { value: "weeks", label: "In use: weeks" },
          { value: "unknown", label: "In use, nobody knows" },
        ]}
        onChange={(used) => patch({ used })}
        testID="start-used"
      />
      {draft.used === "jobs" || draft.used === "weeks" ? (
        <NumberField
          label={draft.used === "jobs" ? `${capital(TRADES[draft.trade].jobName)}s so far` : "Weeks so far"}
          value={draft.usedCount}
          onChange={(usedCount) => patch({ usedCount })}
          testID="start-used-count"
          {...(errors.usedCount ? { error: errors.usedCount } : {})}
        />
      ) : null}
    </View>
  );
}

/** How often, and what it dries on: a date and a limit. */
function WorkAsked({ draft, patch, errors }: Asked) {
  const { surfaces, jobName, use } = TRADES[draft.trade];
  const { marks } = surfaces[Number(draft.surface)] ?? surfaces[0];
  return (
    <View gap="$3">
      <Heading>Your work</Heading>
      <FieldRow>
        <NumberField
          label={`${capital(jobName)}s a week`}
          value={draft.jobs}
          onChange={(jobs) => patch({ jobs })}
          testID="start-jobs"
          {...(errors.jobs ? { error: errors.jobs } : {})}
        />
        <View flex={1} minWidth={150} />
      </FieldRow>
      <Choice
        label={use === "aquarium" ? "What lives in it?" : "What does it dry on?"}
        value={draft.surface}
        options={surfaces.map(({ name }, i) => ({ value: String(i), label: name }))}
        onChange={(surface) => patch({ surface })}
        hint={`Then change at ${threeDigits(marks.limit)} ${scaleUnit(marks.scale)}; watch it from ${threeDigits(marks.watch)}.`}
        testID="start-surface"
      />
    </View>
  );
}

/** What most leave as it is, folded under one line that says it. */
function Defaults(props: Asked) {
  const { draft, patch, errors, units } = props;
  const [open, setOpen] = useState(false);
  const { toolFlow, jobName } = TRADES[draft.trade];
  const grade = optionsOf(GRADE).find(({ value }) => value === draft.grade)!.label;
  const line = [
    `called ${draft.name}`,
    `${draft.perJob} ${unitOf("volume", units)} a ${jobName}`,
    `${grade.toLowerCase()} resin`,
    draft.before === "membrane" ? "behind RO" : "nothing before it",
    ...(toolFlow === undefined ? [] : [draft.tool === "washer" ? "pressure washer" : "hose"]),
  ].join(" · ");
  return (
    <View gap="$3">
      <Body>{`Taken as usual: ${line}`}</Body>
      <Opener onPress={() => setOpen(!open)} expanded={open} testID="start-defaults">
        {open ? "Close" : "Change these"}
      </Opener>
      {open ? null : <WasherWords {...props} />}
      {open ? (
        <View gap="$3">
          <TextField
            label="Name of the rig"
            value={draft.name}
            onChange={(name) => patch({ name })}
            testID="start-name"
            {...(errors.name ? { error: errors.name } : {})}
          />
          <NumberField
            label={`Water of a ${jobName}`}
            unit={unitOf("volume", units)}
            value={draft.perJob}
            onChange={(perJob) => patch({ perJob })}
            testID="start-per-job"
            {...(errors.perJob ? { error: errors.perJob } : {})}
          />
          <Choice
            label="Resin"
            value={draft.grade}
            options={optionsOf(GRADE)}
            onChange={(value) => patch({ grade: value })}
          />
          <Choice
            label="Before the resin"
            value={draft.before}
            options={[
              { value: "nothing", label: "Nothing" },
              { value: "membrane", label: "Sediment, carbon, RO" },
            ]}
            onChange={(before) => patch({ before })}
            testID="start-before"
          />
          {toolFlow === undefined ? null : <ToolAsked {...props} />}
        </View>
      ) : null}
    </View>
  );
}

/** What would make the range narrower, and what the count does not see. */
function Narrower({
  answer,
  draft,
  units,
}: {
  readonly answer: StartAnswer;
  readonly draft: StartDraft;
  readonly units: Units;
}) {
  const { narrowed, left, ageing, standing, facts } = answer;
  if (!left) return null;
  const explained = explainHeadline(standing, facts);
  const own = shownLitres(standing, facts.rig);
  const carbon = carbonWords(standing, facts.rig, wordingIn(units));
  return (
    <View gap="$2" testID="start-narrower">
      <Heading>What makes it narrower</Heading>
      {draft.meter === "unknown" ? (
        <Body>
          Your meter’s scale: until it is known the range spans all that ppm meters have. What follows is worked out as
          on NaCl.
        </Body>
      ) : null}
      {draft.used === "unknown" ? <Body>How much the charge has done: its readings will soon tell.</Body> : null}
      {narrowed ? (
        <Body>
          Your own first charge: once it has run to its limit, the next one is{" "}
          <Strong>{litresRange(narrowed.low, narrowed.high, units)}</Strong> where this one is{" "}
          {litresRange(own!.low, own!.high, units)}.
        </Body>
      ) : null}
      {carbon ? <Body testID="start-carbon">{carbon}</Body> : null}
      <Body>Each output you log, and the feed read where you hook up: that is all the log asks for.</Body>
      {ageing ? (
        <Explained explanation={ageing.explanation} testID="start-ageing">
          <Body>
            {`It would last ${threeDigits(ageing.years)} years; beads that stand wet age about ${threeDigits(100 * lostToAgeing(1))} % a year, which takes `}
            <Strong textDecorationLine="underline" textDecorationStyle="dotted">
              {`${threeDigits(100 * ageing.lost)} %`}
            </Strong>
            {" of it by then. A smaller charge, filled more often, wastes less."}
          </Body>
        </Explained>
      ) : null}
      <Explained explanation={explained} testID="why-start" />
    </View>
  );
}

const OPEN_WORDS = {
  shown: "Type what your meter shows in tap water: they stand here at once.",
  meter: "Now say which ppm your meter shows.",
} as const;

/** What makes two questions the same but for the moment at which they are asked. */
const figuresOf = (question: StartQuestion | undefined) => question && JSON.stringify({ ...question, now: 0 });

/** The answer; behind a membrane, where its curves take a while, first by the conductivity alone. */
function useStartAnswer(question: StartQuestion | undefined) {
  const { answer: whole, answered } = useNewestAnswer(question, answerStartInWorker);
  const asksFirst = question?.behindMembrane ? question : undefined;
  const { answer: first, answered: firstAnswered } = useNewestAnswer(asksFirst, answerStartFirstInWorker);
  const isBehind = figuresOf(answered) !== figuresOf(question);
  return isBehind && first && figuresOf(firstAnswered) === figuresOf(question) ? first : whole;
}

/** The first day: what the meter shows, which meter, which vessel; litres at once, and one button that keeps it. */
export function FirstDayScreen() {
  const { units } = useSettings();
  const taps = useRecords("taps").records;
  const meters = useRecords("meters").records;
  const initial = useMemo(() => startDraft(units), [units]);
  const [draft, patch, clear] = useUnitDraft<StartDraft>("first-day", initial, startInOtherUnits);
  useHalfFilled(JSON.stringify(draft) !== JSON.stringify({ ...initial, typedIn: units }));
  const {
    question: parsed,
    errors,
    open,
  } = useMemo(
    () => parseStart(draft, { taps: inUse(taps), meters: inUse(meters) }, units),
    [draft, taps, meters, units],
  );
  const now = useNow();
  const question = useMemo((): StartQuestion | undefined => parsed && { ...parsed, now }, [parsed, now]);
  const given = useStartAnswer(question);
  const answer = given && !("fault" in given) ? given : undefined;
  const trouble = Object.values(errors)[0] ?? (given && "fault" in given ? given.fault.message : undefined);
  const [keeping, setKeeping] = useState(false);
  usePlaceTitle("First day");
  const keepIt = async () => {
    if (!question || keeping) return;
    setKeeping(true);
    try {
      const { rigId, undo } = await keepStart(question);
      rememberRig(rigId);
      clear();
      showToast({ words: `${question.name} hangs on the rack. Now its first reading.`, undo });
      router.navigate(`/log/${rigId}`);
    } finally {
      setKeeping(false);
    }
  };
  const asked: Asked = { draft, patch, errors, units };
  return (
    <View render="main" id="place" className="place" flex={1} minHeight={0} alignItems="center">
      <View flex={1} minHeight={0} width="100%" maxWidth={620}>
        <AnswerBar
          answer={answer}
          open={open && OPEN_WORDS[open]}
          trouble={open ? undefined : trouble}
          now={now}
          units={units}
        />
        <WithPad>
          <ScrollView style={{ flex: 1 }} contentContainerStyle={{ padding: 18, paddingTop: 12, gap: 24 }}>
            <Title fontSize="$3" lineHeight="$3">
              Three questions
            </Title>
            <TradeAsked {...asked} />
            <MeterAsked {...asked} answer={answer} />
            <VesselAsked {...asked} />
            <WorkAsked {...asked} />
            <Defaults {...asked} />
            {answer && question && !answer.isFirst ? <Narrower answer={answer} draft={draft} units={units} /> : null}
            <View gap="$1">
              {isExample ? null : (
                <TextButton onPress={() => void openExample()} testID="open-example">
                  Look at an example crew first
                </TextButton>
              )}
              <TextButton href="/setup" testID="go-setup">
                Or set up tap, meter and rig one by one
              </TextButton>
            </View>
          </ScrollView>
        </WithPad>
        <View paddingHorizontal={18} paddingVertical={8}>
          <HeavyButton onPress={() => void keepIt()} disabled={!question || keeping} testID="keep-start">
            Keep as my rig, and log
          </HeavyButton>
        </View>
      </View>
    </View>
  );
}
