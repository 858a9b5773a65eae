import type { ThreeOf } from "../life/life-range";
import { checkRated } from "../membrane/membrane";
import type { Use } from "../vessel/marks";
import { checkRanges, RANGES } from "../ranges";
import { succeed, within, type Result } from "../result";
import { TWO_PERSON_WEIGHT } from "../vessel/weight";
import { positiveConductivityAt25, type Reading } from "../water/meter";
import { describeWater, type Water } from "../water/water";
import { demand, type Demand, type DemandInput } from "./demand";
import { BEFORE_ASSUMPTIONS, type BeforeSetup } from "./before";
import {
  optionFigures,
  optionLife,
  type OptionFigures,
  type OptionLife,
  type PlanQuestion,
  type Until,
} from "./figures";
import { generateOptions, type OptionSpec, type VesselSize } from "./options";
import { DEFAULT_PRICES, type Prices } from "./prices";

/** What matters most to the user. */
export type Priority = "money" | "weight" | "refills";

export interface SizeInput {
  readonly demand: DemandInput;
  readonly waters: ThreeOf<Water>;
  readonly limit: Reading;
  /** L/min. */
  readonly peakFlow: number;
  /** kg (default 25). */
  readonly liftLimit?: number;
  /** Money a year. */
  readonly budget?: number;
  /** kPa at the tap while running, and what the tool needs. */
  readonly pressure?: { readonly supply: number; readonly needed: number };
  readonly prices?: Prices;
  /** When a charge counts as used up (default at the first leak of anything). */
  readonly until?: Until;
  /** What stands before the resin, where it is not as assumed. */
  readonly before?: Partial<BeforeSetup>;
  /** What is ranked by (default money). */
  readonly priority?: Priority;
  /** Vessels the user has. */
  readonly own?: readonly VesselSize[];
  /** What the water is for; an aquarium is not offered resin that has served elsewhere. */
  readonly use?: Use | undefined;
}

export interface RankedOption extends OptionFigures {
  readonly place: number;
  /** Another one is at least as good in money, weight and refills, and better in one. */
  readonly dominated: boolean;
  /** Why it stands where it stands. */
  readonly because: string;
}

export interface SizeAnswer {
  readonly demand: Demand;
  readonly options: readonly RankedOption[];
}

const KEYS: Readonly<Record<Priority, (option: OptionFigures) => number>> = {
  money: (option) => option.cost.total,
  weight: (option) => option.weight,
  refills: (option) => option.refillsPerYear,
};
const ALL: readonly Priority[] = ["money", "refills", "weight"];

/** By the priority first, the others breaking ties, so that the first is never dominated. */
function compareBy(priority: Priority) {
  const order = [priority, ...ALL.filter((each) => each !== priority)].map((each) => KEYS[each]);
  return (a: OptionFigures, b: OptionFigures) => {
    if (a.feasible !== b.feasible) return a.feasible ? -1 : 1;
    for (const key of order) if (key(a) !== key(b)) return key(a) - key(b);
    return 0;
  };
}

/** Whether `other` is at least as good in money, refills and weight, and better in one. */
export function dominates(other: OptionFigures, option: OptionFigures): boolean {
  if (!other.feasible || !option.feasible) return false;
  const money = other.cost.total - option.cost.total;
  const refills = other.refillsPerYear - option.refillsPerYear;
  const weight = other.weight - option.weight;
  return money <= 0 && refills <= 0 && weight <= 0 && (money < 0 || refills < 0 || weight < 0);
}

const PRIORITY_WORDS: Readonly<Record<Priority, string>> = {
  money: "costs least a year",
  weight: "is the lightest to lift",
  refills: "needs the fewest refills",
};

function becauseOf(option: OptionFigures, place: number, dominated: boolean, priority: Priority): string {
  if (!option.feasible) return option.reasons[0]!;
  if (place === 1) return `It ${PRIORITY_WORDS[priority]} of those that can do the work.`;
  return dominated
    ? "Another is at least as good in money, weight and refills."
    : "Nothing else beats it in money, weight and refills at once.";
}

/**
 * What nothing beats in everything. In order of money whatever beats an option comes before it, so that one look at the
 * front found so far is enough.
 */
function frontOf(options: readonly OptionFigures[]): ReadonlySet<OptionFigures> {
  const front: OptionFigures[] = [];
  for (const option of [...options].sort(compareBy("money")))
    if (!front.some((other) => dominates(other, option))) front.push(option);
  return new Set(front);
}

/** Options ranked by what matters, the infeasible last with their reason. */
export function rankOptions(options: readonly OptionFigures[], priority: Priority): RankedOption[] {
  const undominated = frontOf(options);
  return [...options].sort(compareBy(priority)).map((option, i) => {
    const dominated = option.feasible && !undominated.has(option);
    return { ...option, place: i + 1, dominated, because: becauseOf(option, i + 1, dominated, priority) };
  });
}

const BEFORE_RANGES = {
  recovery: RANGES.recovery,
  tapPressure: RANGES.pressure,
  boostedPressure: RANGES.pressure,
  aerationHours: RANGES.hours,
  airFlow: { ...RANGES.flow, name: "The air" },
  fillFlow: { ...RANGES.flow, name: "The filling flow" },
  batch: { ...RANGES.litres, above: 0, name: "The barrel" },
};

function checkSetup({ rated, secondMembrane: _, ...rest }: Partial<BeforeSetup>): Result<true> {
  const checked = within("before", checkRanges(rest, BEFORE_RANGES));
  return checked.ok && rated ? within("before.rated", checkRated(rated)) : checked;
}

function checkSize(input: SizeInput): Result<true> {
  const { peakFlow, liftLimit, budget, pressure } = input;
  const ranges = checkRanges(
    { peakFlow, liftLimit, budget },
    {
      peakFlow: { ...RANGES.flow, name: "The peak flow" },
      liftLimit: { ...RANGES.weight, name: "What one person lifts" },
      budget: { ...RANGES.price, name: "The budget" },
    },
  );
  if (!ranges.ok) return ranges;
  if (pressure) {
    const checked = within("pressure", checkRanges(pressure, { supply: RANGES.pressure, needed: RANGES.pressure }));
    if (!checked.ok) return checked;
  }
  const setup = checkSetup(input.before ?? {});
  if (!setup.ok) return setup;
  for (const key of ["low", "typical", "high"] as const) {
    const water = within(`waters.${key}`, describeWater(input.waters[key]));
    if (!water.ok) return water;
  }
  const limit = within("limit", positiveConductivityAt25(input.limit));
  return limit.ok ? succeed(true) : limit;
}

/** What supply and a lag don't change is worked out once: the life of a charge. */
function figuresOfAll(specs: readonly OptionSpec[], question: PlanQuestion): Result<OptionFigures[]> {
  const all: OptionFigures[] = [];
  const lives = new Map<string, Result<OptionLife>>();
  for (const spec of specs) {
    const { vessel, before, grade, train } = spec;
    const { name, grossVolume, diameter, fillFraction } = vessel;
    const key = [name, grossVolume, diameter, fillFraction, before, grade, train === "twin"].join(" ");
    const life = lives.get(key) ?? optionLife(spec, question);
    lives.set(key, life);
    const figures = optionFigures(spec, question, life);
    if (!figures.ok) return figures;
    all.push(figures.value);
  }
  return succeed(all);
}

/**
 * The checked question that every calculation of a plan starts from.
 * @returns a fault for a figure outside its range or no demand at all
 */
export function planQuestion(input: SizeInput): Result<PlanQuestion> {
  const checked = checkSize(input);
  if (!checked.ok) return checked;
  const wanted = within("demand", demand(input.demand));
  if (!wanted.ok) return wanted;
  const { waters, limit, peakFlow, liftLimit = TWO_PERSON_WEIGHT, budget, pressure, until = "leak", use } = input;
  const tapPressure = pressure ? { tapPressure: pressure.supply } : {};
  return succeed({
    demand: wanted.value,
    waters,
    limit,
    peakFlow,
    liftLimit,
    until,
    budget,
    pressure,
    use,
    setup: { ...BEFORE_ASSUMPTIONS, ...tapPressure, ...input.before },
    prices: input.prices ?? DEFAULT_PRICES,
  });
}

/**
 * The right vessel, train and resin for this work and this tap, and what it costs: every option with every figure, ranked.
 *
 * @returns a fault for a figure outside its range or no demand at all; options that can't do the work are in the answer,
 *   with their reason
 * @example size({ demand: { items }, waters, limit: { value: 10, scale: "nacl" }, peakFlow: 3 }).value.options[0].name
 *   // "Tank, after RO with a booster pump, regenerated resin in bulk"
 */
export function size(input: SizeInput): Result<SizeAnswer> {
  const question = planQuestion(input);
  if (!question.ok) return question;
  const figures = figuresOfAll(generateOptions(input.own ?? []), question.value);
  if (!figures.ok) return figures;
  return succeed({
    demand: question.value.demand,
    options: rankOptions(figures.value, input.priority ?? "money"),
  });
}
