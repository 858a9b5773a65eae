import { breakthrough, flowPaths, meanBreakthrough, spentThroughput, throughputAt } from "./breakthrough";
import { DEFAULT_SPREAD, describeBed, type Bed, type BedAnswer } from "../bed/bed";
import { describeCapacity, type Capacity, type Sides } from "../resin/capacity";
import { checkRanges, RANGES } from "../ranges";
import { finite, succeed, within, type Result } from "../result";
import { LITRES_PER_US_GALLON } from "../units/constants";
import { positiveConductivityAt25, type Reading } from "../water/meter";
import { describeWater, type Warning, type Water, type WaterAnswer } from "../water/water";

export interface LifeInput {
  readonly water: Water;
  readonly capacity: Capacity;
  readonly bed: Bed;
  /** The output the technician will not go beyond. */
  readonly limit: Reading;
  /** Share of capacity left after storage (default 1). */
  readonly storage?: number;
  /** Share of capacity reached because of how the beads lie (default 1). */
  readonly packing?: number;
}

export interface CurvePoint {
  readonly litres: number;
  readonly ec25: number;
}

export interface LifeAnswer {
  /** At the tap, until the limit. */
  readonly litres: number;
  readonly gallons: number;
  /** T_b: load put on at the limit, as a share of capacity. */
  readonly throughput: number;
  readonly limitingSide: "cation" | "anion";
  readonly transferUnits: number;
  readonly reachable: boolean;
  /** Why the limit is out of reach, or already met by the feed. */
  readonly reason?: string;
  readonly curve: readonly CurvePoint[];
  readonly warnings: readonly Warning[];
}

/** Everything a life rests on, worked out once. */
export interface LifeWorking {
  readonly water: WaterAnswer;
  readonly sides: Sides;
  readonly bed: BedAnswer;
  readonly limitEc25: number;
  /** X_b seen by the bed once the bypass is taken off; 0 or below is out of reach. */
  readonly limitShare: number;
  readonly spread: number;
  readonly bypass: number;
  readonly storage: number;
  readonly packing: number;
  readonly limitingSide: "cation" | "anion";
  /** Litres at the tap per unit of throughput. */
  readonly litresPerThroughput: number;
}

/** The side of the bed that ends first, a tie counting as cation. */
export const limitingSideOf = (sides: Sides, water: { readonly cationLoad: number; readonly anionLoad: number }) =>
  sides.cation / water.cationLoad <= sides.anion / water.anionLoad ? "cation" : "anion";

/** Checks a life's inputs and works out what the answer rests on. */
export function workOutLife(input: LifeInput): Result<LifeWorking> {
  const water = within("water", describeWater(input.water));
  if (!water.ok) return water;
  const sides = describeCapacity(input.capacity);
  if (!sides.ok) return within("capacity", sides);
  const bed = within("bed", describeBed(input.bed));
  if (!bed.ok) return bed;
  const limit = within("limit", positiveConductivityAt25(input.limit));
  if (!limit.ok) return limit;
  const factors = checkRanges(input, { storage: RANGES.factor, packing: RANGES.factor });
  if (!factors.ok) return factors;

  const { bypass = 0, spread = DEFAULT_SPREAD, volume } = input.bed;
  const { storage = 1, packing = 1 } = input;
  const feed = water.value.ec25;
  const limitingSide = limitingSideOf(sides.value, water.value);
  const litresPerCapacity =
    limitingSide === "cation" ? sides.value.cation / water.value.cationLoad : sides.value.anion / water.value.anionLoad;
  return finite({
    water: water.value,
    sides: { cation: sides.value.cation, anion: sides.value.anion },
    bed: bed.value,
    limitEc25: limit.value,
    limitShare: (limit.value - bypass * feed) / ((1 - bypass) * feed),
    spread,
    bypass,
    storage,
    packing,
    limitingSide,
    litresPerThroughput: (volume * 1000 * litresPerCapacity * storage * packing) / (1 - bypass),
  });
}

interface Reached {
  readonly throughput: number;
  readonly reachable: boolean;
  readonly reason?: string;
}

function reachLimit(working: LifeWorking): Reached {
  if (working.limitShare >= 1) {
    return {
      throughput: spentThroughput(working.bed.transferUnits),
      reachable: true,
      reason: "The feed already meets this limit; the litres are those until the resin is spent.",
    };
  }
  if (working.limitShare <= 0) {
    return {
      throughput: 0,
      reachable: false,
      reason: "The water that goes round the beads alone exceeds the limit: find and close the bypass.",
    };
  }
  const reached = throughputAt(working.limitShare, working.bed.transferUnits, working.spread);
  if (!reached.ok) return { throughput: 0, reachable: false, reason: reached.fault.message };
  return { throughput: reached.value, reachable: true };
}

const CURVE_POINTS = 101;

/** Output of the tap, µS/cm, when the bed has seen this throughput. */
export function outputAt(working: LifeWorking, throughput: number): number {
  const { bed, spread, bypass, water } = working;
  const share =
    spread === 0
      ? breakthrough(throughput, bed.transferUnits)
      : meanBreakthrough(throughput, bed.transferUnits, flowPaths(spread));
  return water.ec25 * (bypass + (1 - bypass) * share);
}

function curveOf(working: LifeWorking): CurvePoint[] {
  const end = spentThroughput(working.bed.transferUnits) * (1 + 3 * working.spread);
  return Array.from({ length: CURVE_POINTS }, (_, i) => {
    const throughput = (end * i) / (CURVE_POINTS - 1);
    return { litres: throughput * working.litresPerThroughput, ec25: outputAt(working, throughput) };
  });
}

/** A life without its curve, for ranges and for typing. */
export type LifeFigures = Omit<LifeAnswer, "curve">;

/** The life that a working gives, without drawing its curve. */
export function lifeFigures(working: LifeWorking): Result<LifeFigures> {
  const reached = reachLimit(working);
  const litres = reached.throughput * working.litresPerThroughput;
  return finite({
    litres,
    gallons: litres / LITRES_PER_US_GALLON,
    ...reached,
    limitingSide: working.limitingSide,
    transferUnits: working.bed.transferUnits,
    warnings: [...working.water.warnings, ...working.bed.warnings],
  });
}

/**
 * Litres a bed gives until its limit: `V T_b min(qc/Lc, qa/La) × storage × packing / (1 - bypass)`, with `T_b` from the
 * constant-pattern curve (Hall et al. 1966) averaged over uneven flow.
 *
 * @returns litres at the tap, the side that ends it, the curve of 101 points; a limit out of reach is an answer, not a fault
 * @example life({ water: { reading: { value: 163, scale: "nacl" } }, capacity: { grade: "virgin" },
 *   bed: { volume: 10.4, diameter: 165, flow: 3.4 }, limit: { value: 8, scale: "nacl" } }) // 1,610 L, anion side
 */
export function life(input: LifeInput): Result<LifeAnswer> {
  const working = workOutLife(input);
  if (!working.ok) return working;
  const figures = lifeFigures(working.value);
  if (!figures.ok) return figures;
  return finite({ ...figures.value, curve: curveOf(working.value) });
}

/**
 * Share of one throughput between two outputs on the rising front; times `litresPerThroughput` it is the litres left
 * between two marks, such as a limit and the stop point.
 *
 * @example throughputBetween(working, 20, 40) // T at 40 µS/cm less T at 20 µS/cm
 */
export function throughputBetween(working: LifeWorking, fromEc25: number, toEc25: number): Result<number> {
  const shareOf = (ec25: number) =>
    (ec25 - working.bypass * working.water.ec25) / ((1 - working.bypass) * working.water.ec25);
  const atOutput = (ec25: number): Result<number> => {
    const share = shareOf(ec25);
    if (share <= Math.exp(-working.bed.transferUnits)) return succeed(0);
    return throughputAt(share, working.bed.transferUnits, working.spread);
  };
  const from = atOutput(fromEc25);
  if (!from.ok) return from;
  const to = atOutput(toEc25);
  if (!to.ok) return to;
  return succeed(Math.max(0, to.value - from.value));
}
