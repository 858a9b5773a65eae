import { describeBed, type BedAnswer } from "../bed/bed";
import { recentDailyUse } from "../dates/daily-use";
import type { DailyUse, DepletionInput } from "../dates/depletion";
import {
  blurred,
  capacityOf,
  frontBelief,
  learnWidths,
  priorWidths,
  throughputsAt,
  type FrontBelief,
  type FrontReading,
  type FrontWidths,
} from "../ledger/front";
import {
  addInUse,
  capacityGrid,
  capacityRange,
  type CapacityGrid,
  type CapacityRange,
  type EndedCharge,
} from "../ledger/own-capacity";
import { loadUsed, type LoadUsed } from "../ledger/water-used";
import type { ThreeOf } from "../life/life-range";
import { frontDepth } from "../life/breakthrough";
import { weightedQuantile } from "../numerics/quantile";
import type { Charge, Tap, Vessel } from "../records/records";
import { GRADE_CAPACITIES, GRADE_HEALTH, smallerSide } from "../resin/capacity";
import { PACKING_FACTORS, standingFactor, storageFactor } from "../resin/storage";
import { fail, finite, succeed, within, type Result } from "../result";
import { scaleFactor } from "../water/meter";
import {
  chargeLedgers,
  statedFeed,
  time,
  type ChargeLedger,
  type LedgerFacts,
  type OutputReading,
} from "./charge-ledger";

/** Where the charge in use stands; everything comes from one belief over the resin's capacity. */
export interface Standing {
  readonly charge: Charge;
  readonly ledger: ChargeLedger;
  readonly used: LoadUsed;
  readonly bed: BedAnswer;
  /** Share of capacity left by storage, packing and standing. */
  readonly condition: number;
  /** eq/L, in the litres as they were counted. */
  readonly capacity: CapacityRange;
  /** eq/L by the count alone, before this charge's readings spoke. */
  readonly capacityByCount: CapacityRange;
  /** µS/cm that reaches the resin now. */
  readonly feed: ThreeOf<number>;
  /** Load put on as a share of capacity: low pairs with the high capacity. */
  readonly throughput: ThreeOf<number>;
  /** Load put on as a share of what grade and past charges promise, whatever this charge's readings say. */
  readonly promisedShare: number;
  /** Throughput at the limit for the likeliest width. */
  readonly limitThroughput: number;
  /** Litres to the limit; once above it, to the hard mark (`leftTo`). */
  readonly left: ThreeOf<number>;
  readonly leftTo: "limit" | "hard";
  /** Litres to the hard mark. */
  readonly leftToHard: ThreeOf<number>;
  /** meq to the mark in `leftTo`, for the dates. */
  readonly meqLeft: CapacityRange;
  readonly daily: readonly DailyUse[];
  /** Depth of the front, 0 at the inlet: early, likely, late. */
  readonly front: ThreeOf<number>;
  /** µS/cm of the vessel when clean. */
  readonly floor: number;
  readonly outputs: readonly OutputReading[];
  /** How much of the charge is past, for the state ring: T / T_limit, 0 to 1. */
  readonly spentShare: number;
}

const DAYS_PER_MONTH = 30.44;
const MS_PER_DAY = 86_400_000;
/** Months in the vessel after which standing itself counts. */
const STANDING_COUNTS_AFTER = 12;
/** Share of the feed a clean reading may be; more is no floor. */
const FLOOR_CEILING = 0.02;

/** Share of capacity that storage, packing and standing leave. */
export function chargeCondition(charge: Charge, now: number): number {
  const stored = charge.stored ? storageFactor(charge.stored) : undefined;
  const months = Math.max(0, (now - time(charge.filledAt)) / MS_PER_DAY / DAYS_PER_MONTH);
  const standing = months > STANDING_COUNTS_AFTER ? standingFactor(Math.min(months, 1200)) : undefined;
  return (stored?.ok ? stored.value : 1) * PACKING_FACTORS[charge.packing] * (standing?.ok ? standing.value : 1);
}

function bedOf(charge: Charge, vessel: Vessel, flow: number, temperature: number | undefined): Result<BedAnswer> {
  return describeBed({
    volume: charge.resinLitres,
    diameter: vessel.diameter,
    flow,
    health: GRADE_HEALTH[charge.grade],
    ...(temperature === undefined ? {} : { temperature }),
  });
}

function floorOf(outputs: readonly OutputReading[]): number {
  if (outputs.length === 0) return 0;
  const early = outputs
    .slice(0, 6)
    .map((reading) => reading.ec25)
    .sort((a, b) => a - b);
  return Math.min(early[Math.floor((early.length - 1) / 2)]!, FLOOR_CEILING * outputs[0]!.feedEc25);
}

const frontReadings = (outputs: readonly OutputReading[], litres: number): FrontReading[] =>
  outputs.map(({ meq, ec25, feedEc25, sd }) => ({ used: meq / 1000 / litres, ec25, feedEc25, sd }));

/** What an ended charge says of its resin: load per litre at its end, taken back to full capacity by the throughput at its limit. */
export function endedCharge(ledger: ChargeLedger, limitThroughput: number): EndedCharge | undefined {
  const { charge, lines } = ledger;
  if (!charge.ended || charge.ended.why === "fault" || lines.length === 0) return undefined;
  const used = loadUsed(lines);
  const capacity = used.meq / 1000 / (charge.resinLitres * chargeCondition(charge, time(charge.ended.at)));
  if (!(capacity > 0) || capacity > 5) return undefined;
  const reachedLimit = charge.ended.why === "limit";
  return {
    capacity: reachedLimit ? capacity / limitThroughput : capacity,
    ended: reachedLimit ? "limit" : "early",
    water: used.quality,
  };
}

/** What a vessel's ended charges taught about its resin and the width of its front. */
export interface Lessons {
  readonly grid: CapacityGrid;
  readonly widths: FrontWidths;
  readonly ended: readonly EndedCharge[];
}

function learnFromPast(
  ledgers: readonly ChargeLedger[],
  current: Charge,
  transferUnits: number,
  limitEc25: number,
): Lessons {
  const gradeCapacity = smallerSide(GRADE_CAPACITIES[current.grade]);
  let widths = priorWidths();
  const ended: EndedCharge[] = [];
  for (const ledger of ledgers) {
    const { charge, outputs } = ledger;
    if (
      charge.id === current.id ||
      charge.vesselId !== current.vesselId ||
      charge.grade !== current.grade ||
      !charge.ended
    )
      continue;
    const feed = outputs[outputs.length - 1]?.feedEc25 ?? 400;
    const atLimit = throughputsAt(limitEc25, feed, 0, transferUnits, widths)[2] ?? 1;
    const past = endedCharge(ledger, atLimit || 1);
    if (past) ended.push(past);
    if (charge.ended.why !== "limit" || outputs.length === 0) continue;
    const litres = charge.resinLitres * chargeCondition(charge, time(charge.ended.at));
    widths = learnWidths({
      grid: capacityGrid(gradeCapacity, []),
      widths,
      readings: frontReadings(outputs, litres),
      transferUnits,
      floor: floorOf(outputs),
    });
  }
  return { grid: capacityGrid(gradeCapacity, ended), widths, ended };
}

/** Middle of each of `count` equal parts of a triangular range. */
function triangularNodes({ low, typical, high }: ThreeOf<number>, count = 5): number[] {
  if (high <= low) return Array.from({ length: count }, () => typical);
  const turn = (typical - low) / (high - low);
  return Array.from({ length: count }, (_, i) => {
    const u = (i + 0.5) / count;
    return u < turn
      ? low + Math.sqrt(u * (high - low) * (typical - low))
      : high - Math.sqrt((1 - u) * (high - low) * (high - typical));
  });
}

const LEFT_BINS = 600;

/** 10, 50 and 90 % points of the litres (or, at load 1, the meq) that a belief leaves until a throughput. */
function leftUntil(
  belief: FrontBelief,
  mark: Float64Array,
  usedPerLitre: number,
  effectiveLitres: number,
  loads: readonly number[],
): ThreeOf<number> {
  const meqLeft = (w: number, i: number) =>
    Math.max(0, (mark[w]! * belief.capacity[i]! - usedPerLitre) * effectiveLitres * 1000);
  let most = 0;
  forEachBelief(belief, (w, i) => {
    most = Math.max(most, meqLeft(w, i));
  });
  const binWidth = most / Math.min(...loads) / LEFT_BINS || 1;
  const weights = new Float64Array(LEFT_BINS + 1);
  forEachBelief(belief, (w, i, weight) => {
    const meq = meqLeft(w, i);
    for (const load of loads) {
      const bin = Math.min(LEFT_BINS, Math.ceil(meq / load / binWidth));
      weights[bin] = weights[bin]! + weight;
    }
  });
  const values = weights.map((_, bin) => bin * binWidth);
  return {
    low: weightedQuantile(values, weights, 0.1),
    typical: weightedQuantile(values, weights, 0.5),
    high: weightedQuantile(values, weights, 0.9),
  };
}

const NEGLIGIBLE = 1e-7;

function forEachBelief(belief: FrontBelief, visit: (width: number, capacity: number, weight: number) => void): void {
  belief.weight.forEach((row, w) => {
    for (let i = 0; i < row.length; i += 1) if (row[i]! > NEGLIGIBLE) visit(w, i, row[i]!);
  });
}

/** Days of work whose feed stands for the days to come. */
const FEED_LOOKS_BACK = 21;

/**
 * Feed to expect: the mean of the last three weeks' water, each litre with the feed it had, for a rig may hang on several
 * taps; the ends are the tap's stated range, widened to hold what was read.
 */
function feedNow(ledger: ChargeLedger, stated: ThreeOf<number>): ThreeOf<number> {
  const { lines } = ledger;
  const last = lines[lines.length - 1];
  if (!last) return stated;
  const recent = lines.filter((line) => last.at - line.at <= FEED_LOOKS_BACK * MS_PER_DAY);
  const litres = recent.reduce((sum, line) => sum + line.litres, 0);
  const typical =
    litres > 0 ? recent.reduce((sum, line) => sum + line.litres * line.feedEc25, 0) / litres : last.feedEc25;
  const read = recent.filter((line) => line.feedMeasured).map((line) => line.feedEc25);
  return { low: Math.min(stated.low, typical, ...read), typical, high: Math.max(stated.high, typical, ...read) };
}

export interface StandingInput extends LedgerFacts {
  readonly vessel: Vessel;
  /** Milliseconds since 1970. */
  readonly now: number;
  /** ISO date of today where the crew works. */
  readonly today: string;
  /** The ISO date of an instant where the crew works. */
  readonly dateOf: (milliseconds: number) => string;
}

interface Situation {
  readonly ledgers: readonly ChargeLedger[];
  readonly ledger: ChargeLedger;
  readonly bed: BedAnswer;
  readonly tap: Tap;
}

function situationOf(input: StandingInput): Result<Situation> {
  const { vessel, rig } = input;
  const ledgers = chargeLedgers({ ...input, charges: input.charges.filter((charge) => charge.vesselId === vessel.id) });
  const ledger = [...ledgers].reverse().find((each) => each.charge.ended === undefined);
  if (!ledger) return fail("no-charge", "This vessel has no charge in use.");
  const tap = input.taps.get(rig.tapId);
  if (!tap) return fail("no-tap", "This rig has no tap.");
  const bed = within("bed", bedOf(ledger.charge, vessel, rig.flow, tap.temperature));
  return bed.ok ? succeed({ ledgers, ledger, bed: bed.value, tap }) : bed;
}

const limitOf = (vessel: Vessel) => vessel.marks.limit / scaleFactor(vessel.marks.scale);

/** What the ended charges taught; it changes only when a charge ends, so a caller may keep it while a reading is typed. */
export function lessons(input: StandingInput): Result<Lessons> {
  const situation = situationOf(input);
  if (!situation.ok) return situation;
  const { ledgers, ledger, bed } = situation.value;
  return finite(learnFromPast(ledgers, ledger.charge, bed.transferUnits, limitOf(input.vessel)));
}

/**
 * Where the charge in a vessel stands: load used against a belief over capacity that starts at the grade, learns from the
 * vessel's past charges and is moved by the product readings.
 *
 * @param learnt what `lessons` gave for the same facts; worked out here when absent
 * @returns a standing, or the fault `no-charge` when the vessel is empty
 */
export function standing(input: StandingInput, learnt?: Lessons): Result<Standing> {
  const situation = situationOf(input);
  if (!situation.ok) return situation;
  const { ledgers, ledger, bed, tap } = situation.value;
  const past = learnt ?? learnFromPast(ledgers, ledger.charge, bed.transferUnits, limitOf(input.vessel));
  return finite(standingOf(input, situation.value, past, feedNow(ledger, statedFeed(input.rig, tap))));
}

function standingOf(
  input: StandingInput,
  { ledgers, ledger, bed }: Situation,
  past: Lessons,
  feed: ThreeOf<number>,
): Standing {
  const { vessel, now, today, dateOf } = input;
  const { charge, outputs, lines } = ledger;
  const { transferUnits } = bed;
  const toEc25 = (ppm: number) => ppm / scaleFactor(vessel.marks.scale);
  const [limitEc25, hardEc25] = [toEc25(vessel.marks.limit), toEc25(vessel.marks.hard)];
  const condition = chargeCondition(charge, now);
  const effectiveLitres = charge.resinLitres * condition;
  const used = loadUsed(lines);
  const usedPerLitre = used.meq / 1000 / effectiveLitres;
  const floor = floorOf(outputs);

  const counted = blurred(past.grid, used.sd);
  const latest = outputs[outputs.length - 1];
  if (!latest || latest.ec25 < limitEc25) addInUse(counted, usedPerLitre);
  const readings = frontReadings(outputs, effectiveLitres);
  const belief = frontBelief({ grid: counted, widths: past.widths, readings, transferUnits, floor });

  const atLimit = throughputsAt(limitEc25, feed.typical, floor, transferUnits, past.widths);
  const atHard = throughputsAt(hardEc25, feed.typical, floor, transferUnits, past.widths);
  const loads = triangularNodes({ low: feed.low / 100, typical: feed.typical / 100, high: feed.high / 100 });
  const leftTo = latest && latest.ec25 >= limitEc25 ? "hard" : "limit";
  const left = leftUntil(belief, leftTo === "hard" ? atHard : atLimit, usedPerLitre, effectiveLitres, loads);
  const meq = leftUntil(belief, leftTo === "hard" ? atHard : atLimit, usedPerLitre, effectiveLitres, [1]);
  const capacity = capacityRange(capacityOf(belief));
  const throughput = {
    low: usedPerLitre / capacity.high,
    typical: usedPerLitre / capacity.median,
    high: usedPerLitre / capacity.low,
  };
  const likeliest = belief.weight.map((row) => row.reduce((sum, each) => sum + each, 0));
  const limitThroughput = atLimit[likeliest.indexOf(Math.max(...likeliest))]!;
  return {
    charge,
    ledger,
    used,
    bed,
    condition,
    capacity,
    capacityByCount: capacityRange(counted),
    feed,
    throughput,
    promisedShare: usedPerLitre / capacityRange(past.grid).median,
    limitThroughput,
    left,
    leftTo,
    leftToHard: leftUntil(belief, atHard, usedPerLitre, effectiveLitres, loads),
    meqLeft: { low: Math.max(1e-3, meq.low), median: Math.max(1e-3, meq.typical), high: Math.max(1e-3, meq.high) },
    daily: recentDailyUse(allDays(ledgers, dateOf), today),
    front: {
      low: frontDepth(throughput.low, transferUnits),
      typical: frontDepth(throughput.typical, transferUnits),
      high: frontDepth(throughput.high, transferUnits),
    },
    floor,
    outputs,
    spentShare: Math.min(1, throughput.typical / (limitThroughput || 1)),
  };
}

const allDays = (ledgers: readonly ChargeLedger[], dateOf: (milliseconds: number) => string) =>
  ledgers.flatMap((ledger) => ledger.lines.map((line) => ({ date: dateOf(line.at), litres: line.litres })));

/** The dates question that a standing asks of the simulation, seeded so that the same facts give the same dates. */
export function depletionQuestion(where: Standing, today: string): DepletionInput {
  const load = { low: where.feed.low / 100, typical: where.feed.typical / 100, high: where.feed.high / 100 };
  return { capacityLeft: where.meqLeft, daily: where.daily, load, start: today, seed: 20 };
}
