import { NORMAL_90 } from "../numerics/quantile";
import { describeBed, type Bed, type BedAnswer } from "../bed/bed";
import { spentThroughput } from "../life/breakthrough";
import { lifeFigures, workOutLife, type LifeFigures, type LifeInput, type LifeWorking } from "../life/life";
import { meterThroughput, plateauShows } from "../front/meter-throughput";
import type { CurveWater } from "../front/product-curve";
import type { ThreeOf } from "../life/life-range";
import { GRADE_HEALTH, smallerSide, type Batch } from "../resin/capacity";
import type { Use } from "../vessel/marks";
import { finite, succeed, type Result } from "../result";
import { wetWeight } from "../vessel/weight";
import { positiveConductivityAt25, type Reading } from "../water/meter";
import { ionFeed } from "../water/ion-feed";
import { describeWater, type Water } from "../water/water";
import { behind, type BeforeSetup, type BehindBefore } from "./before";
import { energyOf, flushOf, minutesAhead, NO_COST, pumpHours, purchaseOf, yearlyCost, type YearlyCost } from "./cost";
import type { Demand } from "./demand";
import { filledAtOnce, optionName, resinIn, type OptionSpec } from "./options";
import type { Prices } from "./prices";
import { litresStanding } from "./standing-in-use";

/** When a charge counts as used up: at the first leak of anything, or when a meter shows the limit. */
export type Until = "leak" | "meter";

/** How the resin was kept and how it lies; each 1 or 0 when nothing is wrong. */
export interface Care {
  /** Share of capacity left after storage. */
  readonly storage?: number;
  /** Share of capacity reached because of how the beads lie. */
  readonly packing?: number;
  /** Share of the water that goes round the beads. */
  readonly bypass?: number;
}

/** What all options have to do. */
export interface PlanQuestion {
  readonly demand: Demand;
  readonly waters: ThreeOf<Water>;
  /** The tap's usual water, where `waters` are others: the shape of a meter's curve is made from it (default the typical). */
  readonly usual?: Water | undefined;
  readonly limit: Reading;
  /** L/min at the brush, the lance or the tank. */
  readonly peakFlow: number;
  /** kg that one person lifts. */
  readonly liftLimit: number;
  readonly until: Until;
  readonly setup: BeforeSetup;
  readonly prices: Prices;
  /** Money a year; absent for no bound. */
  readonly budget?: number | undefined;
  /** kPa at the tap while running, and what the tool needs; absent when nobody measured. */
  readonly pressure?: { readonly supply: number; readonly needed: number } | undefined;
  readonly care?: Care | undefined;
  /** What the water is for. */
  readonly use?: Use | undefined;
  /** Which batch of its grade the resin is taken for (usual); it matters where batches differ. */
  readonly batch?: Batch | undefined;
}

/** The batch that goes with each feed at the ends of a range: the hardest water meets the weakest resin. */
export const BATCH_OF = { low: "strong", typical: "usual", high: "weak" } as const satisfies ThreeOf<Batch>;

export interface OptionFigures {
  readonly name: string;
  readonly spec: OptionSpec;
  readonly feasible: boolean;
  /** Why not, in words; empty for a feasible one. */
  readonly reasons: readonly string[];
  /** L for one charge of resin, until what counts here. */
  readonly litres: ThreeOf<number>;
  /** The same until anything leaks, and until a meter shows the limit. */
  readonly lives: Readonly<Record<Until, ThreeOf<number>>>;
  /** µS/cm of what reaches the resin, typically; 0 where no water comes. */
  readonly resinFeed: number;
  /** What reaches the resin meets the limit already: the resin polishes what no meter sees. */
  readonly polishes: boolean;
  /** L of resin that one refill takes. */
  readonly resinLitres: number;
  /** Days between refills in the busiest and the quietest month. */
  readonly daysBusiest: ThreeOf<number>;
  readonly daysQuietest: ThreeOf<number>;
  /** L/min through one vessel. */
  readonly flow: number;
  readonly contactSeconds: number;
  readonly bedVolumesPerHour: number;
  /** kPa through the beads of the train. */
  readonly pressureLoss: number;
  /** kg of one wet vessel. */
  readonly weight: number;
  readonly twoPeople: boolean;
  readonly purchase: number;
  readonly refillsPerYear: number;
  readonly minutesPerYear: number;
  /** L of tap water that go to waste in a year. */
  readonly wastePerYear: number;
  /** L of resin, L of tap water with what is wasted, and kWh, in a year. */
  readonly resinPerYear: number;
  readonly waterPerYear: number;
  readonly energyPerYear: number;
  readonly cost: YearlyCost;
  /** Money a year when the work is least and the resin lasts longest, and the other way round: corners. */
  readonly costRange: { readonly low: number; readonly high: number };
  readonly per1000Litres: number;
  /** Absent when the demand counts no jobs. */
  readonly perJob?: number;
  readonly endsFirst: "cation" | "anion";
}

/** A lead that is guarded by a lag is used until all its sites have been paid for once. */
const GUARDED = 1;
const NOTHING: ThreeOf<number> = { low: 0, typical: 0, high: 0 };

/** Of the low, the typical and the high feed; behind a membrane the feed that reads highest need not load most. */
const rangeOf = (litres: readonly number[]): ThreeOf<number> => ({
  low: Math.min(...litres),
  typical: litres[1]!,
  high: Math.max(...litres),
});

/** The same once standing in the vessel for years has taken its share. */
const standingRange = ({ low, typical, high }: ThreeOf<number>, { year }: Demand): ThreeOf<number> => ({
  low: litresStanding(low, year.typical),
  typical: litresStanding(typical, year.typical),
  high: litresStanding(high, year.typical),
});

/** How long a charge lasts; a train of a lead and a lag goes by `lead`. */
export interface OptionLife {
  readonly alone: Readonly<Record<Until, ThreeOf<number>>>;
  readonly lead: Readonly<Record<Until, ThreeOf<number>>>;
  readonly typical: LifeFigures | undefined;
  readonly ways: BehindBefore | undefined;
  /** Why no water comes at all. */
  readonly impossible?: string;
}

/** The bed of one vessel of an option at the flow it gets. */
export const optionBed = (
  { vessel, grade, train }: OptionSpec,
  flow: number,
  temperature: number | undefined,
  bypass = 0,
): Bed => ({
  volume: resinIn(vessel),
  diameter: vessel.diameter,
  flow: train === "twin" ? flow / 2 : flow,
  health: GRADE_HEALTH[grade],
  bypass,
  ...(temperature === undefined ? {} : { temperature }),
});

/** What the planner asks of one vessel of an option for one feed. */
export function optionLifeInput(
  spec: OptionSpec,
  ways: BehindBefore,
  { limit, care = {}, batch = "usual" }: Pick<PlanQuestion, "limit" | "care" | "batch">,
): LifeInput {
  const { storage = 1, packing = 1, bypass = 0 } = care;
  return {
    water: ways.water,
    capacity: { grade: spec.grade, batch },
    bed: optionBed(spec, ways.flow, ways.water.temperature, bypass),
    limit,
    storage,
    packing,
  };
}

/**
 * How much longer the beads last for the load that a meter sees than for the whole.
 * @example visibleRatio(working) // 1.115 at 168 ppm NaCl, pH 7.3, alkalinity 118 and silica 6 mg/L
 */
export function visibleRatio({ water, sides, limitingSide }: LifeWorking): number {
  const visible = smallerSide(sides) / (water.ec25 / 100);
  const whole = limitingSide === "cation" ? sides.cation / water.cationLoad : sides.anion / water.anionLoad;
  return visible / whole;
}

/** How it is known when a meter shows the limit. */
export interface MeterLife {
  /**
   * `column`: by the product curve, carbonic plateau and all; `plateau`: with the first leak, whose carbonic acid is above
   * the limit; `load`: by the load that a meter sees, which is cautious.
   */
  readonly by: "column" | "plateau" | "load";
  /** Load that a meter sees, at the limit, as a share of the smaller side's capacity. */
  readonly throughput: number;
  /** Times the life until anything leaks, 1 or more. */
  readonly factor: number;
}

/** A water whose composition is known, as the curve of a meter takes it. */
export interface MeterShape extends CurveWater {
  readonly behindMembrane: boolean;
}

/** The shape of a water that reaches the resin; nothing where nobody knows its alkalinity. */
export function meterShapeOf(water: Water, behindMembrane: boolean): MeterShape | undefined {
  const alkalinity = water.analysis?.alkalinity ?? water.alkalinity;
  const described = alkalinity === undefined ? undefined : describeWater(water);
  const ions = described?.ok ? ionFeed(water) : undefined;
  if (!described?.ok || !ions?.ok) return undefined;
  return { ions: ions.value.feed, ec25: described.value.ec25, behindMembrane };
}

/** The shape of what reaches the resin behind a stage. */
export const meterShape = ({ water, makingFlow }: BehindBefore): MeterShape | undefined =>
  meterShapeOf(water, makingFlow !== undefined);

/**
 * How long a meter takes to show the limit, against the life until anything leaks. It needs an alkalinity to say more than
 * that a meter sees a part of the load.
 *
 * @param shape of the typical water: harder and softer days stretch it
 * @param throughput at the limit of the whole load, as the life has it
 * @example meterLife(alkaline, working, 0.93).factor // 1.3 in alkaline water with a limit above its plateau
 */
export function meterLife(shape: MeterShape | undefined, working: LifeWorking, throughput: number): MeterLife {
  const { sides, bed, limitShare, limitEc25 } = working;
  const ratio = visibleRatio(working);
  const byLoad: MeterLife = { by: "load", throughput, factor: Math.max(1, ratio) };
  if (!shape || !(throughput > 0 && limitShare > 0 && limitShare < 1)) return byLoad;
  if (shape.behindMembrane)
    return plateauShows(shape.ions, limitEc25) ? { by: "plateau", throughput, factor: 1 } : byLoad;
  const shown = meterThroughput(bed.transferUnits, shape, sides, limitShare);
  return { by: "column", throughput: shown, factor: Math.max(1, (shown * ratio) / throughput) };
}

/** The corners hold the carbon dioxide that nobody measured: standard deviations at 10, 50 and 90 %. */
const CARBON_AT: Readonly<Record<"low" | "typical" | "high", number>> = {
  low: -NORMAL_90,
  typical: 0,
  high: NORMAL_90,
};

/**
 * Litres of a bed until something leaks or until a meter shows the limit, by the one curve that the planner, the habits and
 * the practice take.
 *
 * @param shape of the water; absent where nobody knows its alkalinity
 */
export function litresOfLife(
  working: LifeWorking,
  figures: LifeFigures,
  until: Until,
  shape: MeterShape | undefined,
): number {
  const one = Math.min(figures.litres, spentThroughput(working.bed.transferUnits) * working.litresPerThroughput);
  return until === "leak" ? one : one * meterLife(shape, working, figures.throughput).factor;
}

/** Litres of a charge for the three feeds; a lag and the supply change nothing in it. */
export function optionLife(spec: OptionSpec, question: PlanQuestion): Result<OptionLife> {
  const { waters, peakFlow, setup } = question;
  const litres = { leak: [] as number[], meter: [] as number[] };
  const lead = { leak: [] as number[], meter: [] as number[] };
  let typical: LifeFigures | undefined;
  let usual: BehindBefore | undefined;
  const middle = behind(spec.before, question.usual ?? waters.typical, peakFlow, setup);
  const shape = middle.ok ? meterShape(middle.value) : undefined;
  for (const key of ["low", "typical", "high"] as const) {
    const ways = behind(spec.before, waters[key], peakFlow, setup, CARBON_AT[key]);
    if (!ways.ok) return succeed({ ...noLife, impossible: ways.fault.message });
    const working = workOutLife(optionLifeInput(spec, ways.value, { ...question, batch: BATCH_OF[key] }));
    if (!working.ok) return working;
    const figures = lifeFigures(working.value);
    if (!figures.ok) return figures;
    const { litresPerThroughput } = working.value;
    const one = litresOfLife(working.value, figures.value, "leak", shape);
    const guarded = figures.value.reachable ? Math.max(one, GUARDED * litresPerThroughput) : one;
    const { throughput } = figures.value;
    const meter = meterLife(shape, working.value, throughput);
    const factors = { leak: filledAtOnce(spec), meter: filledAtOnce(spec) * meter.factor };
    for (const until of ["leak", "meter"] as const) {
      litres[until].push(one * factors[until]);
      lead[until].push(guarded * factors[until]);
    }
    if (key === "typical") [typical, usual] = [figures.value, ways.value];
  }
  return succeed({
    alone: { leak: rangeOf(litres.leak), meter: rangeOf(litres.meter) },
    lead: { leak: rangeOf(lead.leak), meter: rangeOf(lead.meter) },
    typical,
    ways: usual,
  });
}

const noLife = {
  alone: { leak: NOTHING, meter: NOTHING },
  lead: { leak: NOTHING, meter: NOTHING },
  typical: undefined,
  ways: undefined,
} as const;

const SERVED_ELSEWHERE = "Regenerated resin has served in waters nobody knows: not for animals.";

/** Days between refills below which nobody would work so. */
const LEAST_DAYS = 3;
/** Hours a week that a membrane may have to run, or a tank be filled, in the busiest month. */
const MOST_HOURS = 100;

function reasonsAgainst(
  figures: Omit<OptionFigures, "feasible" | "reasons">,
  life: OptionLife,
  { pressure, budget, demand, use }: PlanQuestion,
): string[] {
  if (life.impossible) return [life.impossible];
  if (use === "aquarium" && figures.spec.grade === "regenerated") return [SERVED_ELSEWHERE];
  const { typical, ways } = life;
  if (!typical?.reachable) return [typical?.reason ?? "The limit is out of reach."];
  const reasons: string[] = [];
  if (figures.daysBusiest.typical < LEAST_DAYS)
    reasons.push(`A charge lasts ${figures.daysBusiest.typical.toPrecision(2)} days in the busiest month.`);
  const hours = ways && (ways.makingFlow || ways.stored) ? demand.busiest / (ways.makingFlow ?? ways.flow) / 60 : 0;
  if (hours > MOST_HOURS)
    reasons.push(
      `The ${ways?.makingFlow ? "membrane would have to run" : "tank would have to be filled for"} ${Number(hours.toPrecision(3))} hours in a week of the busiest month.`,
    );
  if (pressure && !ways?.stored && pressure.supply - figures.pressureLoss < pressure.needed)
    reasons.push(
      `The beads take ${figures.pressureLoss.toPrecision(2)} kPa at peak flow: the tool gets less than the ${Number(pressure.needed.toPrecision(3))} kPa it needs.`,
    );
  if (budget !== undefined && figures.cost.total > budget) reasons.push("It costs more a year than your budget.");
  return reasons;
}

/** Days from litres and litres a week, the corners opposite. */
function daysBetween(litres: ThreeOf<number>, perWeek: number, { week }: Demand): ThreeOf<number> {
  const usual = 7 / perWeek;
  return {
    low: (litres.low * usual * week.typical) / week.high,
    typical: litres.typical * usual,
    high: (litres.high * usual * week.typical) / week.low,
  };
}

function moneyOf(spec: OptionSpec, question: PlanQuestion, litres: ThreeOf<number>, ways: BehindBefore | undefined) {
  const { demand, prices, setup, peakFlow } = question;
  const possible = ways !== undefined && litres.low > 0;
  const at = (year: number, charge: number): YearlyCost =>
    possible ? yearlyCost({ spec, ways, prices, setup, peakFlow }, year, charge) : NO_COST;
  return {
    refillsPerYear: possible ? demand.year.typical / litres.typical : 0,
    cost: at(demand.year.typical, litres.typical),
    costRange: { low: at(demand.year.low, litres.high).total, high: at(demand.year.high, litres.low).total },
  };
}

/** What a year takes beside money. */
function amountsOf(spec: OptionSpec, question: PlanQuestion, refills: number, ways: BehindBefore | undefined) {
  const { demand, setup, peakFlow } = question;
  const { typical: year } = demand.year;
  const wastePerYear = ways ? year * ways.wasteRatio + flushOf(spec, question.prices) : 0;
  return {
    resinPerYear: refills * filledAtOnce(spec) * resinIn(spec.vessel),
    waterPerYear: year + wastePerYear,
    wastePerYear,
    energyPerYear: ways ? energyOf(pumpHours(spec, ways, setup, peakFlow, year)) : 0,
  };
}

function minutesOf(
  spec: OptionSpec,
  { demand, prices, setup }: PlanQuestion,
  refills: number,
  ways: BehindBefore | undefined,
): number {
  const ahead = ways ? minutesAhead(spec, ways, prices) : 0;
  return refills * filledAtOnce(spec) * prices.minutesPerRefill + (demand.year.typical / setup.batch) * ahead;
}

function inTheVessel(spec: OptionSpec, bed: BedAnswer, flow: number) {
  return {
    flow,
    contactSeconds: bed.contactSeconds,
    bedVolumesPerHour: bed.bedVolumesPerHour,
    pressureLoss: bed.pressureLoss * (spec.train === "lead-lag" ? 2 : 1),
  };
}

/**
 * Every figure of one option: life, refills, contact, pressure, weight and money, with what stands against it.
 *
 * @param life of the same option, where it is known already
 * @returns the fault of a figure that all options share, such as a water without a reading
 */
export function optionFigures(
  spec: OptionSpec,
  question: PlanQuestion,
  life: Result<OptionLife> = optionLife(spec, question),
): Result<OptionFigures> {
  const { demand, peakFlow, liftLimit, prices, waters, until } = question;
  if (!life.ok) return life;
  const { ways, typical } = life.value;
  const bedAsked = optionBed(spec, ways?.flow ?? peakFlow, waters.typical.temperature);
  const bed = describeBed(bedAsked);
  if (!bed.ok) return bed;
  const { vessel } = spec;
  const weight = wetWeight({ empty: vessel.emptyWeight, resin: resinIn(vessel), grossVolume: vessel.grossVolume });
  if (!weight.ok) return weight;
  const fresh = spec.train === "lead-lag" ? life.value.lead : life.value.alone;
  const lives = { leak: standingRange(fresh.leak, demand), meter: standingRange(fresh.meter, demand) };
  const litres = lives[until];
  const money = moneyOf(spec, question, litres, ways);
  const reaches = ways ? describeWater(ways.water) : undefined;
  const limit = positiveConductivityAt25(question.limit);
  const resinFeed = reaches?.ok ? reaches.value.ec25 : 0;
  const figures: Omit<OptionFigures, "feasible" | "reasons"> = {
    name: optionName(spec),
    spec,
    litres,
    lives,
    resinFeed,
    polishes: resinFeed > 0 && limit.ok && resinFeed <= limit.value,
    resinLitres: resinIn(vessel) * filledAtOnce(spec),
    daysBusiest: daysBetween(litres, demand.busiest, demand),
    daysQuietest: daysBetween(litres, demand.quietest, demand),
    ...inTheVessel(spec, bed.value, bedAsked.flow),
    weight: weight.value.kilograms,
    twoPeople: weight.value.kilograms > liftLimit,
    purchase: purchaseOf(spec, question.setup, ways?.buysTank ?? false, prices),
    ...money,
    minutesPerYear: minutesOf(spec, question, money.refillsPerYear, ways),
    ...amountsOf(spec, question, money.refillsPerYear, ways),
    per1000Litres: (1000 * money.cost.total) / demand.year.typical,
    ...(demand.jobsPerYear > 0 ? { perJob: money.cost.total / demand.jobsPerYear } : {}),
    endsFirst: typical?.limitingSide ?? "anion",
  };
  const reasons = reasonsAgainst(figures, life.value, question);
  return finite({ ...figures, feasible: reasons.length === 0, reasons });
}
