import type { ThreeOf } from "../life/life-range";
import { MONTHLY_STORAGE_LOSS, PACKING_FACTORS, storageFactor, type Container, type Packing } from "../resin/storage";
import type { Use } from "../vessel/marks";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, succeed, within, type Result } from "../result";
import { describeWater, type Water } from "../water/water";
import { behind } from "./before";
import { purchaseOf } from "./cost";
import { WEEKS_A_YEAR } from "./demand";
import type { PlanQuestion } from "./figures";
import { bestSides } from "./best-sides";
import { beforeWith, hasMembrane, type Before, type OptionSpec } from "./options";
import { oneWater, scenario, type ScenarioAnswer } from "./scenario";
import { planQuestion, type SizeInput } from "./size";

export type HabitName =
  | "shut-off"
  | "lower-flow"
  | "tap-wash"
  | "divert-start"
  | "long-runs"
  | "better-tap"
  | "packing"
  | "upright"
  | "sealed-storage"
  | "aeration"
  | "membrane"
  | "lead-lag";

const EVERYBODY: readonly Use[] = ["glass", "paint", "aquarium"];
const HAND_HELD: readonly Use[] = ["glass", "paint"];

/**
 * Whose habit it is: pauses and the flow at the tool are of hand-held work, washing on tap water is the car's, a vessel in a
 * vehicle may lie. What belongs to a membrane is offered behind one.
 */
export const HABIT_TRADES: Readonly<Record<HabitName, readonly Use[]>> = {
  "shut-off": HAND_HELD,
  "lower-flow": HAND_HELD,
  "tap-wash": ["paint"],
  "divert-start": EVERYBODY,
  "long-runs": EVERYBODY,
  "better-tap": EVERYBODY,
  packing: EVERYBODY,
  upright: HAND_HELD,
  "sealed-storage": EVERYBODY,
  aeration: EVERYBODY,
  membrane: EVERYBODY,
  "lead-lag": EVERYBODY,
};

/** Money that a habit takes once, where it is not a stage that is bought: planning assumptions. */
export const HABIT_PURCHASES: Readonly<Partial<Record<HabitName, number>>> = {
  "shut-off": 18, // a trigger valve
  "tap-wash": 15, // a tee and a hose tail
  "divert-start": 15, // a three-way valve
  "better-tap": 25, // hose and adapters
  upright: 25, // straps
  "sealed-storage": 12, // foil bags and a clip
};

/** How the work is done today, as far as it is known; what is not is a planning assumption. */
export interface Practice {
  /** Share of the running time in which nobody uses the water. */
  readonly pauseShare: number;
  /** L/min that would do, below the present flow. */
  readonly lowerFlow: number;
  /** Share of the water used for washing, where tap water would do. */
  readonly washShare: number;
  /** Starts of a membrane a week, how many times the usual product reading a start begins at, and how it falls. */
  readonly startsPerWeek: number;
  readonly startTimes: number;
  readonly startTau: number;
  /** How the beads lie. */
  readonly packing: Packing;
  /** Share of the water that goes past the beads of a vessel on its side with a gap above them. */
  readonly leaningBypass: number;
  /** How opened resin is kept, and for how long on average. */
  readonly container: Container;
  readonly months: number;
  /** The best of the other taps. */
  readonly otherTap?: Water;
}

/** Planning assumptions. */
export const PRACTICE_ASSUMPTIONS: Omit<Practice, "lowerFlow"> = {
  pauseShare: 0.2,
  washShare: 0.4,
  startsPerWeek: 5,
  startTimes: 8,
  startTau: 60,
  packing: "poured",
  leaningBypass: 0.05,
  container: "rolled-or-zip",
  months: 3,
};

export interface Habit {
  readonly name: HabitName;
  /** L of a charge's life that it spares in a year. */
  readonly litres: number;
  /** Money a year; below 0 it costs more than it saves. */
  readonly money: number;
  /** Money that it takes once. */
  readonly oneOff: number;
  /** Weeks until that is paid by what it saves; absent where it never is, or costs nothing at first. */
  readonly paidInWeeks?: number;
  /** A year without the habit and with it. */
  readonly now: YearOf;
  readonly then: YearOf;
  /** s to divert, for the start of a membrane. */
  readonly divertSeconds?: number;
  /** A vessel that leaks past its beads can't make the limit at all. */
  readonly outOfReachNow?: boolean;
  /** For a membrane: the cheapest way without one and with one, which were held against each other. */
  readonly sides?: MembraneSides;
}

interface MembraneSides {
  readonly alone: OptionSpec;
  readonly membrane: OptionSpec;
}

/** What a year comes to. */
export interface YearOf {
  readonly litresPerYear: number;
  readonly litresPerCharge: number;
  /** Money: at each refill, beside the refills, and in all. */
  readonly perRefill: number;
  readonly besides: number;
  readonly cost: number;
}

export interface HabitsInput {
  readonly work: SizeInput;
  /** Whose work it is (glass when absent). */
  readonly use?: Use | undefined;
  /** What is in use. */
  readonly option: OptionSpec;
  readonly practice: Practice;
}

function yearOf({ litresPerYear, litresPerCharge, refills, cost, barrels }: ScenarioAnswer): YearOf {
  const atRefills = cost.resin + cost.delivery + cost.labour - barrels;
  return {
    litresPerYear,
    litresPerCharge,
    perRefill: atRefills / refills,
    besides: cost.total - atRefills,
    cost: cost.total,
  };
}

/** Litres of life spared: refills saved, each worth what a charge gives today. */
export const litresSpared = (now: YearOf, then: YearOf): number =>
  (now.litresPerYear / now.litresPerCharge - then.litresPerYear / then.litresPerCharge) * now.litresPerCharge;

/** What a habit saves before a purchase, by the year, and so when the purchase is paid. */
function payback(money: number, oneOff: number, spreadAYear: number): Pick<Habit, "oneOff" | "paidInWeeks"> {
  const saved = money + spreadAYear;
  return oneOff > 0 && saved > 0 ? { oneOff, paidInWeeks: (WEEKS_A_YEAR * oneOff) / saved } : { oneOff };
}

function habitOf(
  name: HabitName,
  now: Result<ScenarioAnswer>,
  then: Result<ScenarioAnswer>,
  years: number,
): Habit | undefined {
  if (!now.ok || !then.ok) return undefined;
  const [before, after] = [yearOf(now.value), yearOf(then.value)];
  const money = before.cost - after.cost;
  // A stage is bought: its purchase is in the year already, spread over its years.
  const spread = then.value.cost.purchase - now.value.cost.purchase;
  const oneOff = HABIT_PURCHASES[name] ?? Math.max(0, spread * years);
  return {
    name,
    now: before,
    then: after,
    litres: litresSpared(before, after),
    money,
    ...payback(money, oneOff, HABIT_PURCHASES[name] === undefined ? Math.max(0, spread) : 0),
  };
}

interface Asked {
  readonly spec: OptionSpec;
  readonly base: ScenarioAnswer;
  readonly question: PlanQuestion;
  readonly practice: Practice;
}

/** What the starts of a membrane send to the resin in a year. */
interface Starts {
  readonly perYear: number;
  /** L/min that the membrane makes. */
  readonly flow: number;
  /** µS/cm by which a start begins above the usual reading. */
  readonly above: number;
  /** L of life that one meq is worth. */
  readonly litresPerMeq: number;
  /** Money for a litre of product thrown away. */
  readonly perLitre: number;
}

function startsOf({ spec, question, practice }: Asked): Starts | undefined {
  const ways = behind(spec.before, question.waters.typical, question.peakFlow, question.setup);
  if (!ways.ok || ways.value.makingFlow === undefined) return undefined;
  const floor = describeWater(ways.value.water);
  if (!floor.ok) return undefined;
  const { cationLoad, anionLoad, ec25 } = floor.value;
  const { water, waste } = question.prices;
  return {
    perYear: practice.startsPerWeek * WEEKS_A_YEAR,
    flow: ways.value.makingFlow,
    above: (practice.startTimes - 1) * ec25,
    litresPerMeq: 1 / (question.until === "meter" ? ec25 / 100 : Math.max(cationLoad, anionLoad)),
    perLitre: ((1 + ways.value.wasteRatio) * (water + waste)) / 1000,
  };
}

/** Habits of a membrane's start (model of start-up creep): diverting while it pays, and starting half as often. */
function startHabits(asked: Asked): Habit[] {
  const starts = startsOf(asked);
  if (!starts) return [];
  const { base, practice } = asked;
  const { perYear, flow, above, litresPerMeq, perLitre } = starts;
  const now = yearOf(base);
  const price = now.perRefill / now.litresPerCharge;
  const tau = practice.startTau;
  const sent = Math.min(0.9 * base.litresPerYear, (perYear * flow * above * (tau / 60) * litresPerMeq) / 100);
  const worth = (price * litresPerMeq * above) / 100 / perLitre;
  const seconds = worth <= 1 ? 0 : tau * Math.log(worth);
  const one = (name: HabitName, spared: number, costs: number): Habit => {
    const then = {
      ...now,
      litresPerCharge: (now.litresPerCharge * now.litresPerYear) / (now.litresPerYear - spared),
      besides: now.besides + costs,
      cost: now.cost - spared * price + costs,
    };
    const money = now.cost - then.cost;
    return {
      name,
      now,
      then,
      litres: litresSpared(now, then),
      money,
      ...payback(money, HABIT_PURCHASES[name] ?? 0, 0),
    };
  };
  const HALF = 0.5;
  const diverted = one(
    "divert-start",
    sent * (1 - Math.exp(-seconds / tau)),
    perYear * (seconds / 60) * flow * perLitre,
  );
  return [{ ...diverted, divertSeconds: seconds }, one("long-runs", HALF * sent, 0)];
}

function waterHabits({ spec, base, question, practice }: Asked): (Habit | undefined)[] {
  const { pauseShare, washShare, lowerFlow, otherTap } = practice;
  const { years } = question.prices;
  const ways = behind(spec.before, question.waters.typical, question.peakFlow, question.setup);
  const isFromTank = ways.ok && ways.value.stored;
  const now = succeed(base);
  const less = (share: number) => scenario(spec, question, base.litresPerYear * (1 - share));
  const slower = { ...question, peakFlow: lowerFlow };
  const otherFeed: ThreeOf<Water> | undefined = otherTap && oneWater(otherTap);
  return [
    habitOf("shut-off", now, less(pauseShare), years),
    habitOf("tap-wash", now, less(washShare), years),
    // A tank takes its water whatever the flow that fills it.
    lowerFlow < question.peakFlow && !isFromTank
      ? habitOf("lower-flow", now, scenario(spec, slower, (base.litresPerYear * lowerFlow) / question.peakFlow), years)
      : undefined,
    otherFeed ? habitOf("better-tap", now, scenario(spec, { ...question, waters: otherFeed }), years) : undefined,
  ];
}

function careHabits({ spec, base, question, practice }: Asked): (Habit | undefined)[] {
  const { years } = question.prices;
  const good = succeed(base);
  const under = (care: NonNullable<PlanQuestion["care"]>) => scenario(spec, { ...question, care });
  const packing = PACKING_FACTORS[practice.packing];
  const stored = storageFactor({ container: practice.container, months: practice.months });
  const sealed = storageFactor({ container: "sealed-foil", months: practice.months });
  const leaning = under({ bypass: practice.leaningBypass });
  const tops: (Habit | undefined)[] = [
    packing < 1 ? habitOf("packing", under({ packing }), good, years) : undefined,
    leaning.ok ? habitOf("upright", leaning, good, years) : outOfReach(base),
  ];
  if (stored.ok && sealed.ok && MONTHLY_STORAGE_LOSS[practice.container] > MONTHLY_STORAGE_LOSS["sealed-foil"])
    tops.push(habitOf("sealed-storage", under({ storage: stored.value }), under({ storage: sealed.value }), years));
  return tops;
}

/** Water that goes past the beads alone is above the limit: the vessel gives nothing at all. */
function outOfReach(base: ScenarioAnswer): Habit {
  const then = yearOf(base);
  const oneOff = HABIT_PURCHASES.upright ?? 0;
  return { name: "upright", now: then, then, litres: then.litresPerYear, money: 0, oneOff, outOfReachNow: true };
}

/** A membrane is weighed as everywhere: the cheapest way with it against the cheapest without. */
function cheapestSides({ spec }: Asked, work: SizeInput): MembraneSides | undefined {
  const best = hasMembrane(spec.before) ? undefined : bestSides(work);
  if (!best?.ok || !best.value.alone || !best.value.membrane) return undefined;
  return { alone: best.value.alone.spec, membrane: best.value.membrane.spec };
}

function membraneHabit(question: PlanQuestion, sides: MembraneSides | undefined): Habit | undefined {
  if (!sides) return undefined;
  const { prices, setup } = question;
  const behindIt = scenario(sides.membrane, question);
  const habit = habitOf("membrane", scenario(sides.alone, question), behindIt, prices.years);
  if (!habit || !behindIt.ok) return undefined;
  // The vessel is there, or would be bought without it too: what is bought is the membrane, its pump and its tank.
  const bare = purchaseOf({ ...sides.membrane, before: "nothing" }, setup, false, prices);
  const oneOff = behindIt.value.cost.purchase * prices.years - bare;
  return { ...habit, ...payback(habit.money, oneOff, oneOff / prices.years), sides };
}

function stageHabits(asked: Asked): (Habit | undefined)[] {
  const { spec, base, question } = asked;
  const now = succeed(base);
  const as = (name: HabitName, before: Before | undefined) =>
    before && habitOf(name, now, scenario({ ...spec, before }, question), question.prices.years);
  return [
    as("aeration", beforeWith(spec.before, "aeration")),
    spec.train === "single"
      ? habitOf("lead-lag", now, scenario({ ...spec, train: "lead-lag" }, question), question.prices.years)
      : undefined,
  ];
}

const PRACTICE_RANGES = {
  pauseShare: { ...RANGES.share, below: 1, name: "The share of pauses" },
  washShare: { ...RANGES.share, below: 1, name: "The share of washing" },
  lowerFlow: { ...RANGES.flow, name: "The lower flow" },
  startsPerWeek: RANGES.starts,
  startTimes: { name: "The start above the usual reading", unit: "times", from: 1, to: 1_000 },
  startTau: { ...RANGES.seconds, name: "The fall of the start" },
  leaningBypass: RANGES.bypass,
  months: RANGES.months,
};

function checkPractice({ packing, container, otherTap, ...numbers }: Practice): Result<true> {
  if (!(packing in PACKING_FACTORS))
    return fail("unknown-packing", "Say how the beads lie: settled, poured or loose.", "packing");
  if (!(container in MONTHLY_STORAGE_LOSS)) return fail("unknown-container", "Say how the bag was kept.", "container");
  if (otherTap) {
    const water = within("otherTap", describeWater(otherTap));
    if (!water.ok) return water;
  }
  return checkRanges(numbers, PRACTICE_RANGES);
}

/** Checks what is asked, and works out the year as it is now. */
function asAsked({ work, option, practice }: HabitsInput): Result<Asked> {
  const checked = within("practice", checkPractice(practice));
  if (!checked.ok) return checked;
  const question = within("work", planQuestion(work));
  if (!question.ok) return question;
  const base = scenario(option, question.value);
  if (!base.ok) return fail(base.fault.code, base.fault.message, "option");
  return succeed({ spec: option, base: base.value, question: question.value, practice });
}

const byMoney = (a: Habit, b: Habit) => b.money - a.money || b.litres - a.litres;

/**
 * Habits of a trade ranked by the money they bring in a year for these figures, each against the same year without it.
 *
 * @returns a fault for a figure outside its range, or an option that can't do the work
 * @example rankHabits({ work, option, practice: { ...PRACTICE_ASSUMPTIONS, lowerFlow: 2.4 } }).value[0].name // "membrane"
 */
export function rankHabits(input: HabitsInput): Result<readonly Habit[]> {
  const { work, use = "glass" } = input;
  const asked = asAsked(input);
  if (!asked.ok) return asked;
  const { value } = asked;
  const all = [
    ...waterHabits(value),
    ...startHabits(value),
    ...careHabits(value),
    ...stageHabits(value),
    membraneHabit(value.question, cheapestSides(value, work)),
  ];
  return finite(
    all.filter((habit): habit is Habit => habit !== undefined && HABIT_TRADES[habit.name].includes(use)).sort(byMoney),
  );
}

/**
 * One habit of a former answer for other figures, without ranking all anew: what is shown of it while they are typed.
 * A membrane's two sides are taken as they stood; {@link rankHabits} may find cheaper ones.
 *
 * @returns undefined where the figures are none, or this habit says nothing about them
 * @example habitAgain(rankHabits(input).value[0], input).money === rankHabits(input).value[0].money // true
 */
export function habitAgain({ name, sides }: Habit, input: HabitsInput): Habit | undefined {
  const asked = asAsked(input);
  if (!asked.ok) return undefined;
  const { value } = asked;
  if (name === "membrane") return membraneHabit(value.question, sides);
  const groups = [waterHabits, startHabits, careHabits, stageHabits] as const;
  for (const group of groups) {
    const habit = group(value).find((each) => each?.name === name);
    if (habit) return habit;
  }
  return undefined;
}
