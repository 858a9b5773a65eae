import { flowPaths, meanBreakthrough, throughputAt } from "../life/breakthrough";
import { densities, type CapacityGrid } from "./own-capacity";

/** A product reading of the charge in use, with the load on the resin at that moment. */
export interface FrontReading {
  /** Visible load put on per litre of resin and per unit of storage and packing, eq/L. */
  readonly used: number;
  /** µS/cm at 25 °C. */
  readonly ec25: number;
  readonly feedEc25: number;
  /** Meter error, one standard deviation, µS/cm: the larger of 1 ppm and 3 %. */
  readonly sd: number;
}

/** Widths of the front (coefficient of variation) and how likely each is for a vessel. */
export interface FrontWidths {
  readonly width: Float64Array;
  readonly weight: Float64Array;
}

/** Prior of the front's width: ln cv normal about ln 0.06, sd 0.5 (planning assumptions), at five points. */
const WIDTH_MEDIAN = 0.06;
const WIDTH_SD = 0.5;
const WIDTH_Z = [-2, -1, 0, 1, 2];

/** Share of readings that say nothing about the front: creep, air, a cracked bypass, the wrong cup; a planning assumption. */
const STRAY_SHARE = 0.08;
const HIT_WEIGHT = (1 - STRAY_SHARE) / Math.sqrt(2 * Math.PI);
/** Error of the predicted curve itself, as a share of it: a planning assumption. */
const MODEL_SHARE = 0.15;

export const priorWidths = (): FrontWidths => {
  const raw = WIDTH_Z.map((z) => Math.exp(-0.5 * z * z));
  const total = raw.reduce((sum, each) => sum + each, 0);
  return {
    width: Float64Array.from(WIDTH_Z, (z) => WIDTH_MEDIAN * Math.exp(WIDTH_SD * z)),
    weight: Float64Array.from(raw, (each) => each / total),
  };
};

const TABLE_END = 2.5;
const TABLE_STEPS = 500;
const tables = new Map<string, Float64Array>();

/** Breakthrough against throughput 0 to 2.5, tabled once per bed and width. */
function breakthroughTable(transferUnits: number, width: number): Float64Array {
  const key = `${transferUnits.toPrecision(4)} ${width.toPrecision(6)}`;
  const known = tables.get(key);
  if (known) return known;
  const paths = flowPaths(width);
  const table = Float64Array.from({ length: TABLE_STEPS + 1 }, (_, i) =>
    meanBreakthrough((TABLE_END * i) / TABLE_STEPS, transferUnits, paths),
  );
  if (tables.size > 200) tables.clear();
  tables.set(key, table);
  return table;
}

function lookUp(table: Float64Array, throughput: number): number {
  const position = (throughput / TABLE_END) * TABLE_STEPS;
  if (position >= TABLE_STEPS) return 1;
  const i = Math.floor(position);
  return table[i]! + (position - i) * (table[i + 1]! - table[i]!);
}

/** ln likelihood of one reading at each capacity of the grid, added into `sum`. */
function addReading(
  sum: Float64Array,
  capacity: Float64Array,
  reading: FrontReading,
  table: Float64Array,
  floor: number,
): void {
  const rise = Math.max(0, reading.feedEc25 - floor);
  const stray = STRAY_SHARE / Math.max(reading.feedEc25, reading.ec25, 1);
  for (let i = 0; i < sum.length; i += 1) {
    const predicted = floor + rise * lookUp(table, reading.used / capacity[i]!);
    const sd = Math.max(reading.sd, MODEL_SHARE * predicted);
    const z = (reading.ec25 - predicted) / sd;
    sum[i] = sum[i]! + Math.log((HIT_WEIGHT / sd) * Math.exp(-0.5 * z * z) + stray);
  }
}

/** Belief over (front width, capacity) after the readings of the charge in use. */
export interface FrontBelief {
  readonly capacity: Float64Array;
  readonly widths: FrontWidths;
  /** One row per width, one weight per capacity; all of them sum to 1. */
  readonly weight: readonly Float64Array[];
}

export interface FrontInput {
  readonly grid: CapacityGrid;
  readonly widths: FrontWidths;
  readonly readings: readonly FrontReading[];
  readonly transferUnits: number;
  /** The vessel's usual clean reading, µS/cm. */
  readonly floor: number;
}

/**
 * What the readings say about where the front stands. A reading is evidence, not a verdict: each may be a stray, so one odd
 * value moves the belief little and two rising ones much (mixture likelihood, Jaynes 2003, chapter 21).
 */
export function frontBelief(input: FrontInput): FrontBelief {
  const { grid, widths, readings, transferUnits, floor } = input;
  const capacity = grid.logCapacity.map(Math.exp);
  const logRows = Array.from(widths.width, (width, row) => {
    const sum = Float64Array.from(grid.logDensity, (each) => each + Math.log(widths.weight[row]! || Number.MIN_VALUE));
    const table = breakthroughTable(transferUnits, width);
    for (const reading of readings) addReading(sum, capacity, reading, table, floor);
    return sum;
  });
  let largest = -Infinity;
  for (const row of logRows) for (const each of row) largest = Math.max(largest, each);
  const weight = logRows.map((row) => row.map((each) => Math.exp(each - largest)));
  const total = weight.reduce((sum, row) => sum + row.reduce((inner, each) => inner + each, 0), 0);
  return { capacity, widths, weight: weight.map((row) => row.map((each) => each / total)) };
}

/** How likely each width is after one finished front: what is left when the capacity is averaged out. */
export function learnWidths(input: FrontInput): FrontWidths {
  const belief = frontBelief(input);
  return {
    width: input.widths.width,
    weight: Float64Array.from(belief.weight, (row) => row.reduce((sum, each) => sum + each, 0)),
  };
}

/** The belief over capacity alone, as a grid again. */
export function capacityOf(belief: FrontBelief): CapacityGrid {
  const logDensity = belief.capacity.map((_, i) =>
    Math.log(belief.weight.reduce((sum, row) => sum + row[i]!, 0) || Number.MIN_VALUE),
  );
  return { logCapacity: belief.capacity.map(Math.log), logDensity };
}

/**
 * The grid blurred by the uncertainty of this charge's own litres: what counts is capacity in the litres as they were counted.
 *
 * @param sd relative standard deviation of the load used
 */
export function blurred(grid: CapacityGrid, sd: number): CapacityGrid {
  const step = grid.logCapacity[1]! - grid.logCapacity[0]!;
  if (sd < step) return grid;
  const density = densities(grid);
  const reach = Math.ceil((4 * sd) / step);
  const kernel = Float64Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.exp(-0.5 * (((k - reach) * step) / sd) ** 2),
  );
  const logDensity = grid.logCapacity.map((_, i) => {
    let sum = 0;
    for (let k = Math.max(0, i - reach); k <= Math.min(density.length - 1, i + reach); k += 1)
      sum += density[k]! * kernel[k - i + reach]!;
    return Math.log(sum || Number.MIN_VALUE);
  });
  return { logCapacity: grid.logCapacity, logDensity };
}

/** Throughput at which an output is reached, for each width; the clean reading below, `spent` where the mark is above the feed. */
export function throughputsAt(
  ec25: number,
  feedEc25: number,
  floor: number,
  transferUnits: number,
  widths: FrontWidths,
): Float64Array {
  const share = (ec25 - floor) / Math.max(1e-9, feedEc25 - floor);
  return Float64Array.from(widths.width, (width) => {
    const reached = throughputAt(share, transferUnits, width);
    return reached.ok ? reached.value : 0;
  });
}
