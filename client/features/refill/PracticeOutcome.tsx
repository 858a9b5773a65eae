import { View } from "@tamagui/core";
import { explainLife, type Explanation, type FeedIons } from "@winter-bead/core";
import { MISTAKES, practise, type Effect, type MistakeName, type PracticeOutcome } from "@winter-bead/core/src/refill";
import { useEffect, useMemo, useState } from "react";
import { useDraft } from "../../data/draft";
import { useSettings } from "../../data/settings";
import { Card, HeavyButton, Row, TextButton, Tick } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { NumberField } from "../../ui/fields";
import { litres as litresWords, scaleUnit, shown, threeDigits, typedNumber } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { Big, Body, Heading, Small, Strong } from "../../ui/words";
import { LabResults } from "../lab/LabResults";
import { practisedQuestions, type LabSetup } from "../lab/variants";
import { useLab } from "../lab/useLab";
import { money } from "../size/money";
import { usePrices } from "../size/usePrices";
import {
  allOf,
  effectOf,
  mistakesOf,
  practiceInput,
  practiceWater,
  told,
  type OwnEffects,
  type Practised,
} from "./practice";

const EFFECT_WORDS: Readonly<
  Record<keyof Effect, { readonly label: string; readonly unit: string; readonly times: number; readonly most: number }>
> = {
  lost: { label: "Beads lost", unit: "%", times: 100, most: 90 },
  packing: { label: "Capacity that loose beads reach", unit: "%", times: 100, most: 100 },
  bypass: { label: "Water past the beads", unit: "%", times: 100, most: 50 },
  tapWater: { label: "Tap water in the beads", unit: "L a litre of beads", times: 1, most: 2 },
  high: { label: "First water, of the feed", unit: "%", times: 100, most: 100 },
  mend: { label: "Time to mend it", unit: "min", times: 1, most: 600 },
  fallsIn: { label: "Falls to a third in", unit: "min", times: 1, most: 60 },
};

interface AssumedProps {
  readonly about: Practised;
  readonly name: MistakeName;
  readonly own: OwnEffects;
  readonly onOwn: (part: OwnEffects) => void;
}

/** One assumed figure, as it is typed. */
function EffectField({ about, name, own, onOwn, effect }: AssumedProps & { readonly effect: keyof Effect }) {
  const { label, unit, times, most } = EFFECT_WORDS[effect];
  const usual = effectOf(about, name, {})[effect];
  const [text, setText] = useState(threeDigits(times * effectOf(about, name, own)[effect]));
  const value = typedNumber(text);
  const isFault = value === undefined || value < 0 || value > most;
  const isOwn = own[name]?.[effect] !== undefined && own[name][effect] !== usual;
  return (
    <NumberField
      label={label}
      unit={unit}
      value={text}
      onChange={(typed) => {
        setText(typed);
        const number = typedNumber(typed);
        if (number !== undefined && number >= 0 && number <= most)
          onOwn({ [name]: { ...own[name], [effect]: number / times } });
      }}
      testID={`effect-${name}-${effect}`}
      {...(isFault ? { error: `From 0 to ${most} ${unit}.` } : {})}
      {...(isOwn ? { hint: `yours, was ${threeDigits(times * usual)}` } : {})}
    />
  );
}

/** The figures of one mistake, each assumed, each to be changed. */
const Assumed = (props: AssumedProps) => (
  <View gap="$1">
    <Small>Assumed, and yours to change:</Small>
    <Row flexWrap="wrap" gap="$3">
      {told(effectOf(props.about, props.name, {})).map((effect) => (
        <EffectField key={effect} {...props} effect={effect} />
      ))}
    </Row>
  </View>
);

interface Told {
  readonly outcome: PracticeOutcome;
  readonly right: PracticeOutcome;
  readonly about: Practised;
  readonly currency: string;
}

/** @example jobsWords(0.134, "car") // "a tenth of a car" */
function jobsWords(jobs: number, jobName: string): string {
  const tenths = Math.round(10 * jobs);
  if (tenths < 1) return `less than a tenth of a ${jobName}`;
  if (tenths < 10) return `${tenths === 1 ? "a tenth" : `${tenths} tenths`} of a ${jobName}`;
  return Math.round(jobs) === 1 ? `one ${jobName}` : `${Math.round(jobs)} ${jobName}s`;
}

/** Litres, first reading, spots and money of a refill done so. */
function Figures({ outcome, right, about, currency }: Told) {
  const { units } = useSettings();
  const scale = scaleUnit(about.vessel.marks.scale);
  const lines = [
    outcome.isReachable
      ? outcome.litres < right.litres
        ? `${litresWords(outcome.litres, units)} to the limit in place of ${litresWords(right.litres, units)}`
        : `${litresWords(outcome.litres, units)} to the limit, no fewer: what goes round the beads does not spend them`
      : `Above the limit from the first litre, until it is opened again and mended; ${litresWords(right.litres, units)} otherwise`,
    `First reading ${threeDigits(Number(outcome.firstReading.toFixed(2)))} ${scale} after the rinse, the limit is ${threeDigits(about.vessel.marks.limit)} ${scale}`,
    ...(outcome.moreSalts > 0.05
      ? [
          `Each litre carries ${threeDigits(Number(outcome.moreSalts.toPrecision(2)))} mg of salts more, as long as it stays so`,
        ]
      : []),
    ...(outcome.resinLost > 0
      ? [
          `${shown("resinVolume", outcome.resinLost, units).text} ${shown("resinVolume", outcome.resinLost, units).unit} of beads lost`,
        ]
      : []),
    ...(outcome.aboveLimit > 0
      ? [
          `${litresWords(outcome.aboveLimit, units)} above the limit reach the work: ${jobsWords(outcome.spoiltJobs, about.jobName)} with spots, ${threeDigits(outcome.residue)} mg of salts where they dry`,
        ]
      : []),
  ];
  return (
    <View gap={2}>
      {lines.map((words) => (
        <Body key={words}>{words}.</Body>
      ))}
      <Strong testID="cost">{`Costs ${money(outcome.money.total, currency)}`}</Strong>
    </View>
  );
}

function Workings({ outcome }: { readonly outcome: PracticeOutcome }) {
  const life = explainLife(outcome.life);
  const explanations: readonly Explanation[] = [outcome.explanation, ...(life.ok ? [life.value] : [])];
  return (
    <View>
      {explanations.map((explanation) => (
        <Explained key={explanation.name} explanation={explanation} label={`Why: ${explanation.name.toLowerCase()}`} />
      ))}
    </View>
  );
}

/** The Lab's column, the refill done rightly beside the one that was done. */
function Column({ about, outcome, right, water }: Omit<Told, "currency"> & { readonly water: FeedIons }) {
  const { run, ...lab } = useLab();
  const setup = useMemo<LabSetup>(
    () => ({
      water,
      bed: {
        grade: "virgin",
        resin: right.life.bed.volume,
        diameter: about.vessel.diameter,
        flow: about.flow,
        temperature: 15,
      },
      limit: { value: about.vessel.marks.limit, scale: about.vessel.marks.scale },
      marks: {},
      litresPerDay: 4 * about.litresPerJob,
      cells: 60,
    }),
    [about, right, water],
  );
  useEffect(() => {
    void run(setup, practisedQuestions(setup, right.life, outcome.life));
  }, [run, setup, right, outcome]);
  return (
    <View testID="practice-column" minHeight={320}>
      {lab.trouble ? <Body role="alert">{lab.trouble}</Body> : null}
      {lab.runs.length > 0 && lab.setup ? (
        <LabResults runs={lab.runs} setup={lab.setup} />
      ) : (
        <Body role="status">The bed is run…</Body>
      )}
    </View>
  );
}

/** What would have come of it, mistake by mistake and all together, and what to remember. */
export function PracticeOutcomeView({
  about,
  made,
  onMade,
  onAgain,
}: {
  readonly about: Practised;
  readonly made: readonly MistakeName[];
  readonly onMade: (made: readonly MistakeName[]) => void;
  readonly onAgain: () => void;
}) {
  const prices = usePrices();
  const [own, patchOwn, forgetOwn] = useDraft<OwnEffects>("practice-effects", {});
  const input = useMemo(() => practiceInput(about, prices), [about, prices]);
  const water = useMemo(() => practiceWater(about), [about]);
  const right = useMemo(() => practise(input, allOf(about, [], {})), [input, about]);
  const whole = useMemo(() => practise(input, allOf(about, made, own)), [input, about, made, own]);
  if (!right.ok || !whole.ok)
    return (
      <Screen title="What came of it">
        <Body role="alert">{right.ok ? (whole.ok ? "" : whole.fault.message) : right.fault.message}</Body>
      </Screen>
    );
  const every = mistakesOf(about);
  const toggle = (name: MistakeName) =>
    onMade(made.includes(name) ? made.filter((each) => each !== name) : [...made, name]);
  return (
    <Screen title="What came of it">
      <View gap="$5">
        <Card testID="practice-whole" borderColor={made.length > 0 ? "$rowan" : "$ink"}>
          <Big>{made.length === 0 ? "Done right" : made.length === 1 ? "One mistake" : `${made.length} mistakes`}</Big>
          <Figures outcome={whole.value} right={right.value} about={about} currency={prices.currency} />
          <Small>
            {`${about.vessel.name}, ${about.feedIsRead ? "your feed" : "a feed"} of ${threeDigits(about.feed)} µS/cm, prices: ${prices.from}.`}
          </Small>
          <Workings outcome={whole.value} />
        </Card>
        <View gap="$2">
          <Heading>Make or mend a mistake</Heading>
          <View flexDirection="row" flexWrap="wrap" gap="$2">
            {every.map((name) => (
              <Tick key={name} on={made.includes(name)} onPress={() => toggle(name)} testID={`mistake-${name}`}>
                {MISTAKES[name].name}
              </Tick>
            ))}
          </View>
        </View>
        {made.map((name) => {
          const alone = practise(input, effectOf(about, name, own));
          return (
            <Card key={name} testID={`came-of-${name}`}>
              <Strong fontSize="$3">{MISTAKES[name].name}</Strong>
              <Body>{MISTAKES[name].happens}</Body>
              {alone.ok ? (
                <Figures outcome={alone.value} right={right.value} about={about} currency={prices.currency} />
              ) : null}
              <Body>
                <Strong>Remember: </Strong>
                {MISTAKES[name].remember}
              </Body>
              <Assumed about={about} name={name} own={own} onOwn={patchOwn} />
            </Card>
          );
        })}
        {Object.keys(own).length > 0 ? <TextButton onPress={forgetOwn}>All assumptions as they were</TextButton> : null}
        {made.length > 0 && water ? (
          <Column about={about} outcome={whole.value} right={right.value} water={water} />
        ) : null}
        <HeavyButton onPress={onAgain} testID="practice-again">
          Practise again
        </HeavyButton>
        <TextButton href="/weeks">To the weeks</TextButton>
      </View>
    </Screen>
  );
}
