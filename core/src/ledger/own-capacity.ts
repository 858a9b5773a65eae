import { CHARGE_SD, OWNER_SD } from "../belief/grids";
import { logNormalCdf } from "../numerics/normal";
import { GRADE_CAPACITIES, smallerSide, type Grade } from "../resin/capacity";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, within, type Result } from "../result";
import { WATER_UNCERTAINTY, type WaterQuality } from "./water-used";

/** What a finished charge says about its resin. */
export interface EndedCharge {
  /** Visible load put on per litre of resin, eq/L. */
  readonly capacity: number;
  /** Whether it reached its limit, or was changed before. */
  readonly ended: "limit" | "early";
  readonly water: WaterQuality;
}

export interface OwnCapacityInput {
  readonly grade: Grade;
  readonly charges: readonly EndedCharge[];
  /** The charge in use, not yet at its limit. */
  readonly inUse?: { readonly capacity: number };
}

/** eq/L: the middle and the 10 and 90 % points. */
export interface CapacityRange {
  readonly median: number;
  readonly low: number;
  readonly high: number;
}

const GRID_POINTS = 400;
const GRID_REACH = 4; // prior standard deviations each way

/** ln densities over ln q, on an even grid. */
interface CapacityGrid {
  readonly logCapacity: Float64Array;
  readonly logDensity: Float64Array;
}

function priorGrid(median: number): CapacityGrid {
  const logCapacity = new Float64Array(GRID_POINTS);
  const logDensity = new Float64Array(GRID_POINTS);
  for (let i = 0; i < GRID_POINTS; i += 1) {
    const z = -GRID_REACH + (2 * GRID_REACH * i) / (GRID_POINTS - 1);
    logCapacity[i] = Math.log(median) + OWNER_SD * z;
    logDensity[i] = -0.5 * z * z;
  }
  return { logCapacity, logDensity };
}

function addEndedCharge(grid: CapacityGrid, charge: EndedCharge): void {
  const sd = Math.hypot(CHARGE_SD, WATER_UNCERTAINTY[charge.water]);
  const observed = Math.log(charge.capacity);
  for (let i = 0; i < grid.logCapacity.length; i += 1) {
    const z = (grid.logCapacity[i]! - observed) / sd;
    grid.logDensity[i] = grid.logDensity[i]! + (charge.ended === "limit" ? -0.5 * z * z : logNormalCdf(z));
  }
}

/** The charge in use holds at least what it took: times Φ(ln(q/used)/0.12). */
function addInUse(grid: CapacityGrid, used: number): void {
  if (used <= 0) return;
  for (let i = 0; i < grid.logCapacity.length; i += 1) {
    grid.logDensity[i] = grid.logDensity[i]! + logNormalCdf((grid.logCapacity[i]! - Math.log(used)) / CHARGE_SD);
  }
}

/**
 * Belief about the resin's capacity after past charges: lognormal prior around the grade, right-censored where a charge was
 * changed early (Kalbfleisch and Prentice 2002, chapter 3, for censored likelihoods).
 */
function capacityGrid(gradeCapacity: number, charges: readonly EndedCharge[]): CapacityGrid {
  const grid = priorGrid(gradeCapacity);
  for (const charge of charges) addEndedCharge(grid, charge);
  return grid;
}

/** Densities of a grid, scaled so that the largest is 1. */
function densities(grid: CapacityGrid): Float64Array {
  let largest = -Infinity;
  for (const each of grid.logDensity) largest = Math.max(largest, each);
  return grid.logDensity.map((each) => Math.exp(each - largest));
}

/** Capacity, eq/L, below which this share of the belief lies: trapezoid rule over ln q, interpolated. */
function capacityQuantile(grid: CapacityGrid, share: number): number {
  const density = densities(grid);
  const cumulative = new Float64Array(density.length);
  for (let i = 1; i < density.length; i += 1) cumulative[i] = cumulative[i - 1]! + (density[i - 1]! + density[i]!) / 2;
  const target = share * cumulative[cumulative.length - 1]!;
  let i = 1;
  while (i < cumulative.length - 1 && cumulative[i]! < target) i += 1;
  const part = (target - cumulative[i - 1]!) / (cumulative[i]! - cumulative[i - 1]!);
  const [below, above] = [grid.logCapacity[i - 1]!, grid.logCapacity[i]!];
  return Math.exp(below + part * (above - below));
}

const capacityRange = (grid: CapacityGrid): CapacityRange => ({
  median: capacityQuantile(grid, 0.5),
  low: capacityQuantile(grid, 0.1),
  high: capacityQuantile(grid, 0.9),
});

/**
 * An owner's own capacity, eq per litre of mixed resin on the meter-visible load, as median and 80 % interval.
 *
 * @example ownCapacity({ grade: "dyed", charges: [] }) // { median: 0.54, low: 0.392, high: 0.744 }: the prior alone
 */
export function ownCapacity(input: OwnCapacityInput): Result<CapacityRange> {
  if (!(input.grade in GRADE_CAPACITIES))
    return fail("unknown-grade", "Choose virgin, dyed or regenerated resin.", "grade");
  for (const [i, charge] of input.charges.entries()) {
    const checked = within(`charges.${i}`, checkRanges(charge, { capacity: RANGES.capacity }));
    if (!checked.ok) return checked;
  }
  if (input.inUse) {
    const checked = within("inUse", checkRanges(input.inUse, { capacity: RANGES.capacity }));
    if (!checked.ok) return checked;
  }
  const grid = capacityGrid(smallerSide(GRADE_CAPACITIES[input.grade]), input.charges);
  if (input.inUse) addInUse(grid, input.inUse.capacity);
  return finite(capacityRange(grid));
}
