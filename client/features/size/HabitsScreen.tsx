import { View } from "@tamagui/core";
import {
  CONTAINER,
  GRADE,
  describeWater,
  isWithin,
  RANGES,
  type Habit,
  type HabitsInput,
  type OptionSpec,
  type Practice,
  type Range,
  type Result,
  type Use,
  type VesselSize,
} from "@winter-bead/core";
import { explainHabit, HABIT_TRADES, habitAgain, optionName, PRACTICE_ASSUMPTIONS } from "@winter-bead/core/src/sizing";
import { memo, useMemo } from "react";
import { ofQuantities, useUnitDraft } from "../../forms/useUnitDraft";
import { useLastOne } from "../../data/last-one";
import { useNewestAnswer } from "../../data/newest-answer";
import { roomFor } from "../../ui/room";
import { Choice } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField } from "../../ui/fields";
import { litres, threeDigits, toInternal, toShown, typedNumber, unitOf, type Units } from "../../ui/format";
import { useWide } from "../../ui/width";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { useRigFacts } from "../rack/useRigs";
import { optionsOf } from "../../forms/options";
import { HABIT_WORDS, habitBasis } from "./habit-words";
import { wholeMoney } from "./money";
import { OF_BEFORE, SizeBar } from "./SizeBar";
import { NoTap, SizeScreen } from "./SizeScreen";
import { planner } from "./useLives";
import { useVessels } from "./useVessels";
import { useWork, type Work } from "./useWork";
import { More } from "./More";
import { WorkInputs } from "./WorkInputs";
import { watersOf } from "./work-as-typed";

const ask = (asked: HabitsInput): Promise<Result<readonly Habit[]>> =>
  planner.run((worker) => worker.rankHabits(asked));

/** How the work is done today, as typed. */
interface TypedPractice {
  /** Empty: as it is in use. */
  readonly vessel: string;
  readonly before: "" | "nothing" | "membrane";
  readonly grade: "" | "virgin" | "dyed" | "regenerated";
  readonly pause: string;
  readonly lowerFlow: string;
  readonly wash: string;
  readonly starts: string;
  readonly startTimes: string;
  readonly startTau: string;
  readonly packing: Practice["packing"];
  readonly leaning: string;
  readonly container: Practice["container"];
  readonly months: string;
}

const text = (value: number) => String(Number(value.toPrecision(3)));

const inOtherUnits = ofQuantities<TypedPractice>({ lowerFlow: "flow" });

/** What is in use, so far as a rig of this use says it. */
interface InUse {
  readonly vessel: string;
  readonly before: "nothing" | "membrane";
  readonly grade: "virgin" | "dyed" | "regenerated";
}
const NOTHING_IN_USE: InUse = { vessel: "Tank", before: "nothing", grade: "virgin" };

/** The crew's rig for this use: at this tap where there is one. */
function useInUse({ typed: { use }, water }: Work): InUse {
  const { facts } = useRigFacts();
  return useMemo(() => {
    const ofUse = facts.filter(({ rig }) => rig.use === use);
    const found = ofUse.find(({ rig }) => rig.tapId === water?.tap.id) ?? ofUse[0];
    if (!found) return NOTHING_IN_USE;
    const charge = found.charges[found.charges.length - 1];
    const hasMembrane = found.rig.stages.some(({ kind }) => kind === "membrane");
    return {
      vessel: found.vessel.name,
      before: hasMembrane ? "membrane" : "nothing",
      grade: charge?.grade ?? "virgin",
    };
  }, [facts, use, water]);
}

const start = (units: Units): TypedPractice => ({
  vessel: "",
  before: "",
  grade: "",
  pause: text(100 * PRACTICE_ASSUMPTIONS.pauseShare),
  lowerFlow: text(toShown("flow", 2.4, units)),
  wash: text(100 * PRACTICE_ASSUMPTIONS.washShare),
  starts: text(PRACTICE_ASSUMPTIONS.startsPerWeek),
  startTimes: text(PRACTICE_ASSUMPTIONS.startTimes),
  startTau: text(PRACTICE_ASSUMPTIONS.startTau),
  packing: PRACTICE_ASSUMPTIONS.packing,
  leaning: text(100 * PRACTICE_ASSUMPTIONS.leaningBypass),
  container: PRACTICE_ASSUMPTIONS.container,
  months: text(PRACTICE_ASSUMPTIONS.months),
});

type Figure = "pause" | "lowerFlow" | "wash" | "starts" | "startTimes" | "startTau" | "leaning" | "months";

interface FigureField {
  readonly label: string;
  readonly unit: string;
  readonly range: Range;
  /** Typed percent of a share. */
  readonly percent?: boolean;
}

const share: Range = { name: "The share", unit: "%", from: 0, below: 100 };
const FIGURES: Readonly<Record<Figure, FigureField>> = {
  pause: { label: "Runs unused", unit: "% of the time", range: share, percent: true },
  wash: { label: "Only washes", unit: "% of the water", range: share, percent: true },
  lowerFlow: { label: "This flow would do", unit: "", range: RANGES.flow },
  leaning: { label: "On its side, runs past the beads", unit: "%", range: share, percent: true },
  months: { label: "Resin kept", unit: "months", range: RANGES.months },
  starts: { label: "Starts of RO", unit: "a week", range: RANGES.starts },
  startTimes: {
    label: "A start reads",
    unit: "times the usual",
    range: { name: "The start above the usual reading", unit: "times", from: 1, to: 1000 },
  },
  startTau: {
    label: "The high start fades within",
    unit: "s",
    range: { ...RANGES.seconds, name: "The fall of the start" },
  },
};

/** Reads the practice; undefined while a figure is none. */
function parsePractice(typed: TypedPractice, units: Units): Omit<Practice, "otherTap"> | undefined {
  const values: Partial<Record<Figure, number>> = {};
  for (const [name, { range, percent }] of Object.entries(FIGURES) as [Figure, FigureField][]) {
    const number = typedNumber(typed[name]);
    const value = number !== undefined && name === "lowerFlow" ? toInternal("flow", number, units) : number;
    if (value === undefined || !isWithin(value, range)) return undefined;
    values[name] = percent ? value / 100 : value;
  }
  const { pause, wash, lowerFlow, leaning, months, starts, startTimes, startTau } = values as Record<Figure, number>;
  return {
    pauseShare: pause,
    washShare: wash,
    lowerFlow,
    leaningBypass: leaning,
    months,
    startsPerWeek: starts,
    startTimes,
    startTau,
    packing: typed.packing,
    container: typed.container,
  };
}

/** The purest of the other taps of the same site, by its meter. */
function usePurerTap({ waters, water }: Work) {
  return useMemo(() => {
    const ec25 = (each: (typeof waters)[number]) => {
      const described = describeWater(watersOf(each.tap, each.values).typical);
      return described.ok ? described.value.ec25 : Infinity;
    };
    const own = water ? ec25(water) : 0;
    return [...waters]
      .sort((a, b) => ec25(a) - ec25(b))
      .find(
        ({ tap, ...each }) =>
          tap.id !== water?.tap.id && tap.siteId === water?.tap.siteId && ec25({ tap, ...each }) < own,
      );
  }, [waters, water]);
}

/** What a habit takes once, and when that is paid. */
function priceWords({ oneOff, paidInWeeks, money }: Habit, currency: string): string {
  const once = `${wholeMoney(oneOff, currency)} once`;
  if (paidInWeeks === undefined) return money > 0 ? `${once}.` : `${once}, not paid back in money.`;
  if (paidInWeeks < 1.5) return `${once}, paid within a week or so.`;
  return paidInWeeks < 104
    ? `${once}, paid in ${Math.ceil(paidInWeeks)} weeks.`
    : `${once}, paid in ${threeDigits(paidInWeeks / 52)} years.`;
}

interface HabitRowProps extends Pick<Work, "prices" | "units"> {
  readonly habit: Habit;
  readonly place: number;
  readonly most: number;
  readonly basis: string;
}

function HabitRow({ habit, place, most, basis, prices, units }: HabitRowProps) {
  const because = explainHabit(habit, prices);
  const brings = habit.money >= 0.5;
  const moneyWords = habit.outOfReachNow
    ? "the whole charge"
    : habit.money < -0.5
      ? `${habit.name === "upright" ? "purer water, for" : "costs"} ${wholeMoney(-habit.money, prices.currency)} a year`
      : `${wholeMoney(Math.max(0, habit.money), prices.currency)} a year`;
  return (
    <View testID="habit" gap={2} paddingVertical="$2" borderTopColor="$line" borderTopWidth={1}>
      <Strong>{`${place}. ${HABIT_WORDS[habit.name]}`}</Strong>
      <Explained explanation={habit.outOfReachNow ? undefined : because.money}>
        <Strong
          fontSize="$4"
          textDecorationLine={habit.outOfReachNow ? "none" : "underline"}
          textDecorationStyle="dotted"
          testID="habit-money"
        >
          {moneyWords}
        </Strong>
      </Explained>
      <View height={8} backgroundColor="$ice" borderRadius="$1" overflow="hidden" aria-hidden>
        <View
          height={8}
          width={`${Math.max(0, Math.min(100, (100 * habit.money) / most))}%`}
          backgroundColor={brings ? "$ink" : "$frost"}
        />
      </View>
      {habit.outOfReachNow || Math.abs(habit.litres) < 0.5 ? null : (
        <Explained explanation={because.litres}>
          <Body textDecorationLine="underline" textDecorationStyle="dotted">
            {habit.litres > 0
              ? `Saves resin for ${litres(habit.litres, units)} a year`
              : "Saves no resin: what runs past the beads loads none, but reads high from the first litre"}
          </Body>
        </Explained>
      )}
      <Small>{basis}</Small>
      {habit.oneOff > 0 ? <Small testID="habit-price">{priceWords(habit, prices.currency)}</Small> : null}
    </View>
  );
}

interface Found {
  readonly asked: HabitsInput;
  readonly habits: readonly Habit[];
}

/** Every habit by what it brings; not drawn again for a digit typed under it. */
const HabitList = memo(function HabitList({
  found,
  purer,
  tapName,
  prices,
  units,
}: Pick<Work, "prices" | "units"> & {
  readonly found: Found;
  /** The best of the other taps. */
  readonly purer: string | undefined;
  readonly tapName: string;
}) {
  const { asked, habits } = found;
  const most = Math.max(1, ...habits.map(({ money }) => money));
  return (
    <>
      {habits.map((habit, i) => (
        <HabitRow
          key={habit.name}
          habit={habit}
          place={i + 1}
          most={most}
          basis={habitBasis(habit, asked.practice, units, purer)}
          prices={prices}
          units={units}
        />
      ))}
      <Small>{`Each by itself, for ${optionName(asked.option)} at ${tapName}; they don’t simply add up.`}</Small>
    </>
  );
});

/** Figures that only one habit rests on: a trade without it is not asked. */
const ASKED_FOR = { pause: "shut-off", wash: "tap-wash", lowerFlow: "lower-flow", leaning: "upright" } as const;

const PACKING_OPTIONS = [
  { value: "settled", label: "Well settled" },
  { value: "poured", label: "Poured only" },
  { value: "loose-cartridge", label: "Loose" },
] as const;

const PracticeInputs = memo(function PracticeInputs({
  typed,
  used,
  use,
  patch,
  units,
  vessels,
}: {
  readonly typed: TypedPractice;
  readonly used: InUse;
  readonly use: Use;
  readonly patch: (part: Partial<TypedPractice>) => void;
  readonly units: Units;
  readonly vessels: readonly VesselSize[];
}) {
  const field = (name: Figure) => {
    const { label, unit } = FIGURES[name];
    return (
      <NumberField
        key={name}
        label={label}
        unit={name === "lowerFlow" ? unitOf("flow", units) : unit}
        value={typed[name]}
        onChange={(value) => patch({ [name]: value })}
        testID={`practice-${name}`}
      />
    );
  };
  const asked = (Object.keys(ASKED_FOR) as (keyof typeof ASKED_FOR)[]).filter((name) =>
    HABIT_TRADES[ASKED_FOR[name]].includes(use),
  );
  return (
    <View gap="$4">
      <Heading>How it is done today</Heading>
      <Choice
        label="Vessel"
        value={used.vessel}
        options={vessels.map(({ name }) => ({ value: name, label: name }))}
        onChange={(vessel) => patch({ vessel })}
      />
      <Choice
        label="Before the resin"
        value={used.before}
        options={[
          { value: "nothing", label: "Nothing" },
          { value: "membrane", label: "RO" },
        ]}
        onChange={(before) => patch({ before })}
      />
      <Choice label="Resin" value={used.grade} options={optionsOf(GRADE)} onChange={(grade) => patch({ grade })} />
      {asked.length > 0 ? <FieldRow>{asked.map(field)}</FieldRow> : null}
      <Choice
        label="How the beads lie"
        value={typed.packing}
        options={PACKING_OPTIONS}
        onChange={(packing) => patch({ packing })}
      />
      <Choice
        label="How opened resin is kept"
        value={typed.container}
        options={optionsOf(CONTAINER)}
        onChange={(container) => patch({ container })}
      />
      <FieldRow>
        {(used.before === "membrane"
          ? (["months", "starts", "startTimes", "startTau"] as const)
          : (["months"] as const)
        ).map(field)}
      </FieldRow>
      <Small>All of these are assumptions until you change them.</Small>
    </View>
  );
});

const A_FIGURE_IS_MISSING = "A figure is missing or can’t be that.";

/** What helped most, with the figures as they are typed: at once, while all are ranked anew. */
const useFirstAtOnce = (asked: HabitsInput | undefined, found: Found | undefined): Habit | undefined =>
  useMemo(() => {
    const first = found?.habits[0];
    return first && asked && asked !== found.asked ? (habitAgain(first, asked) ?? first) : first;
  }, [asked, found]);

/** What would help most, in sight over the figures that are typed. */
const FirstHabit = ({
  habit,
  trouble,
  currency,
}: {
  readonly habit: Habit | undefined;
  readonly trouble: string | undefined;
  readonly currency: string;
}) => (
  <SizeBar
    name={habit && (habit.money > 0 ? HABIT_WORDS[habit.name] : "Nothing here would save money")}
    value={habit && wholeMoney(Math.max(0, habit.money), currency)}
    under="a year, the most of all"
    trouble={trouble}
    waiting="One moment…"
  />
);

/** What would help most, for these figures: every habit by litres and money a year. */
export function HabitsScreen() {
  const wide = useWide();
  const work = useWork();
  const { units, water, parsed, pending } = work;
  const inUse = useInUse(work);
  const { use } = work.typed;
  const initial = useMemo(() => start(units), [units]);
  const [typed, patch] = useUnitDraft<TypedPractice>(`practice:${use}`, initial, inOtherUnits);
  const vessels = useVessels();
  const purer = usePurerTap(work);
  const practice = useMemo(() => {
    const read = parsePractice(typed, units);
    return read && { ...read, ...(purer ? { otherTap: watersOf(purer.tap, purer.values).typical } : {}) };
  }, [typed, units, purer]);
  const used = useMemo<InUse>(
    () => ({
      vessel: typed.vessel || inUse.vessel,
      before: typed.before || inUse.before,
      grade: typed.grade || inUse.grade,
    }),
    [typed, inUse],
  );
  const vessel = vessels.find(({ name }) => name === used.vessel) ?? vessels[0]!;
  const asked = useMemo<HabitsInput | undefined>(() => {
    if (!parsed?.input || !practice) return undefined;
    const option: OptionSpec = { vessel, train: "single", before: used.before, grade: used.grade, supply: "bag" };
    return { work: parsed.input, use, option, practice };
  }, [parsed, practice, use, vessel, used.before, used.grade]);
  const { answer, answered, working } = useNewestAnswer(asked, ask);
  const found = useLastOne<Found>(
    useMemo(() => (answer?.ok && answered ? { asked: answered, habits: answer.value } : undefined), [answer, answered]),
  );
  const first = useFirstAtOnce(asked, found);
  if (!water)
    return (
      <SizeScreen title="What would help most">
        <NoTap pending={pending}>What helps follows from the water and the work: name the tap first.</NoTap>
      </SizeScreen>
    );
  const trouble = asked ? (answer && !answer.ok ? answer.fault.message : undefined) : A_FIGURE_IS_MISSING;
  const list = (
    <View
      opacity={working ? 0.6 : 1}
      aria-busy={working}
      testID="habits"
      minHeight={roomFor(answer !== undefined || wide)}
    >
      {found ? (
        <HabitList found={found} purer={purer?.tap.name} tapName={water.tap.name} prices={work.prices} units={units} />
      ) : null}
      {trouble && wide ? <Body role="alert">{found ? `${trouble} ${OF_BEFORE}` : trouble}</Body> : null}
    </View>
  );
  const inputs = (
    <View gap="$5">
      <PracticeInputs typed={typed} used={used} use={use} patch={patch} units={units} vessels={vessels} />
      <More label="The work it is for" testID="habits-work">
        <WorkInputs work={work} />
      </More>
    </View>
  );
  const bar = <FirstHabit habit={first} trouble={trouble} currency={work.prices.currency} />;
  return (
    <SizeScreen title="What would help most" detail={wide ? list : undefined} bar={wide ? undefined : bar}>
      <View gap="$5">
        {wide ? null : list}
        {inputs}
      </View>
    </SizeScreen>
  );
}
