import { firstPass, TABLE_LOW, TABLE_STEP, type FrontTable } from "../front/front-table";
import { FRONT_WIDTHS, frontsOfAll, LOADS, seenFront, type Load, type ProductCurve } from "../front/product-curve";
import { RememberedOf } from "../numerics/remembered";
import { BYPASSES, WIDTHS, X_LOW, X_POINTS, X_STEP } from "./grids";
import type { Id } from "../descriptor/identity";
import type { ReadingGroup } from "./groups";

/**
 * A charge's scale: what its resin should hold, and where its curve of each width first passes the limit. A lane is one
 * curve at one width; of a water whose carbon dioxide nobody measured there are five curves, else one.
 */
export interface ChargeScale {
  /** meq of the smaller side by the grade, storage and packing in it. */
  readonly meq: number;
  /** By rising carbon dioxide. */
  readonly curves: readonly ProductCurve[];
  /** The tap whose carbon dioxide it is. */
  readonly tapId: Id | undefined;
  /** By lane, the widths running fastest. */
  readonly fronts: readonly FrontTable[];
  /** By lane: ln T on its curve at the load `exp(logPromised)`, where the resin is as its grade says. */
  readonly logLimit: Float64Array;
  /** ln of the load, meq, at which the limit is reached when the resin is as its grade says, by the middle curve. */
  readonly logPromised: number;
  /** By curve: ln of how much later than by the middle one the limit is reached. */
  readonly later: Float64Array;
  /** What all of it hangs on. */
  readonly key: string;
}

/** A mark this close under the feed is never met before the resin is spent. */
const MOST_OF_THE_FEED = 0.99;
const USUAL_WIDTH = 0.05;

/** ln T at the usual width, between the widths of the grid by a straight line in ln w. */
function atUsualWidth(logLimit: Float64Array): number {
  const at = FRONT_WIDTHS.findIndex((width) => width >= USUAL_WIDTH);
  const [below, above] = [Math.log(FRONT_WIDTHS[at - 1]!), Math.log(FRONT_WIDTHS[at]!)];
  const part = (Math.log(USUAL_WIDTH) - below) / (above - below);
  return logLimit[at - 1]! + part * (logLimit[at]! - logLimit[at - 1]!);
}

/** A mark as a share of the feed, as a front can reach it. @param ec25 µS/cm of the mark */
export const shareOfFeed = (ec25: number, feedEc25: number) => Math.min(MOST_OF_THE_FEED, ec25 / feedEc25);

/**
 * The scale of a charge: it reaches its limit at the load `meq × T₀ e^x` whatever the width of its front, so that the count
 * teaches what a meter sees.
 *
 * @param meq of the smaller side by grade, storage and packing
 * @param limitEc25 µS/cm
 * @param feedEc25 µS/cm at the bed now; of an ended charge at its end
 */
export function chargeScale(
  meq: number,
  curves: readonly ProductCurve[],
  limitEc25: number,
  feedEc25: number,
  tapId?: Id,
): ChargeScale {
  const share = shareOfFeed(limitEc25, feedEc25);
  const fronts = frontsOfAll(curves);
  const passes = Float64Array.from(fronts, (front) => firstPass(front, share));
  const usual = Float64Array.from(curves, (_, curve) =>
    atUsualWidth(passes.subarray(curve * WIDTHS, (curve + 1) * WIDTHS)),
  );
  const middle = usual[usual.length >> 1]!;
  const later = usual.map((each) => each - middle);
  const logLimit = passes.map((each, lane) => each - later[Math.floor(lane / WIDTHS)]!);
  const logPromised = Math.log(meq) + middle;
  const key = `${logPromised} ${logLimit.join(" ")} ${curves.map((curve) => curve.key).join("|")}`;
  return { meq, curves, tapId, fronts, logLimit, logPromised, later, key };
}

/** The same scale for a charge of other resin. @param meq of its smaller side */
export function scaledTo(meq: number, scale: ChargeScale): ChargeScale {
  const logPromised = scale.logPromised + Math.log(meq / scale.meq);
  return { ...scale, meq, logPromised, key: `${logPromised} ${scale.key}` };
}

/** Rows of a belief on this scale: each lane with each share of water round the beads. */
export const rowsOf = ({ fronts }: Pick<ChargeScale, "fronts">) => fronts.length * BYPASSES.length;
/** Number of (lane, bypass, x) points, x running fastest. */
export const cellsOf = (scale: Pick<ChargeScale, "fronts">) => rowsOf(scale) * X_POINTS;

/** Share of single looks that are simply wrong, what is left of it with each that agrees, and the least: planning assumptions. */
const WRONG_SHARE = 0.08;
const REPEATED = 0.06;
const LEAST_WRONG = 0.004;

/** Share of groups that are simply wrong. @param agreeing looks of a group that agree @example wrongShare(2) // 0.0048 */
export const wrongShare = (agreeing: number) => Math.max(LEAST_WRONG, WRONG_SHARE * REPEATED ** (agreeing - 1));
const MISSES = 1 / 5;
const NORMAL_PEAK = 1 / Math.sqrt(2 * Math.PI);
/** ppm, and shares: the meter's own error, the curve's shape that nobody knows, and a place in the charge. */
const METER_PPM = 1;
const METER_SHARE = 0.03;
const SHAPE_SHARE = 0.25;
const PLACE_SHARE = 0.02;
/** ppm added before the logarithm, so that a clean reading compares. */
const OFFSET_PPM = 2;
/** Below this share of the feed only what goes round the beads shows. */
const CLEAN = 1e-4;
/** A point this unlikely beside the likeliest is let go; of readings alone later, since a belief may still lift it. */
const FORGOTTEN = 1e-12;
const FORGOTTEN_OF_READINGS = 1e-150;
/** Weights whose largest leaves these bounds are brought back to 1. */
const SMALLEST = 1e-100;
const LARGEST = 1e100;

/** Likelihood of a reading whose expected value is `expected`, its slope `slope` against ln T, a share of them wrong. */
function likelihood(logSeen: number, ppm: number, wrong: number, expected: number, slope: number): number {
  const offset = OFFSET_PPM * ppm;
  const meter = Math.max(METER_PPM * ppm, METER_SHARE * expected);
  const shape = SHAPE_SHARE * expected;
  const place = PLACE_SHARE * slope;
  const sd = Math.sqrt(meter * meter + shape * shape + place * place) / (expected + offset);
  const z = (logSeen - Math.log(expected + offset)) / sd;
  return (((1 - wrong) * NORMAL_PEAK) / sd) * Math.exp(-0.5 * z * z) + wrong * MISSES;
}

/** Points of the front's table that a step of x takes back, and where x = its lowest is read at ln T = 0. */
const TABLE_POINTS_A_STEP = X_STEP / TABLE_STEP;
const READ_FROM = -(X_LOW + TABLE_LOW) / TABLE_STEP;
const POINTS = X_POINTS;

/** X and its slope against ln T, for each x, at a load. */
class AtLoad {
  readonly share = new Float64Array(POINTS);
  readonly slope = new Float64Array(POINTS);

  read(front: FrontTable, logThroughput: number): void {
    const { share, slope } = this;
    const last = front.length - 2;
    const from = READ_FROM + logThroughput / TABLE_STEP;
    const perPoint = 1 / TABLE_STEP;
    for (let i = 0; i < POINTS; i += 1) {
      const position = from - i * TABLE_POINTS_A_STEP;
      if (!(position > 0) || position >= last) {
        share[i] = front[position > 0 ? last + 1 : 0]!;
        slope[i] = 0;
      } else {
        const point = Math.floor(position);
        const rise = front[point + 1]! - front[point]!;
        share[i] = front[point]! + (position - point) * rise;
        slope[i] = rise * perPoint;
      }
    }
  }
}

/** X and its slope where a bed's loads did not come together: of what each shows by itself, the most. */
class AtLoads extends AtLoad {
  private readonly each = new AtLoad();

  readAll(curve: ProductCurve, width: number, loads: (of: Load) => number): void {
    this.share.fill(0);
    this.slope.fill(0);
    for (const of of LOADS) {
      const front = seenFront(curve, of, width);
      const meq = loads(of);
      if (!front || !(meq > 0)) continue;
      this.each.read(front, Math.log(meq));
      for (let i = 0; i < POINTS; i += 1) {
        if (this.each.share[i]! <= this.share[i]!) continue;
        this.share[i] = this.each.share[i]!;
        this.slope[i] = this.each.slope[i]!;
      }
    }
  }
}

/** Where each row still has weight: from its first to behind its last point. */
class Living {
  readonly first: Int32Array;
  readonly end: Int32Array;

  constructor(rows: number) {
    this.first = new Int32Array(rows);
    this.end = new Int32Array(rows).fill(X_POINTS);
  }

  /** Leaves out what is at or below a floor at a row's ends. */
  narrow(weights: Float64Array, row: number, floor: number): void {
    let [first, end] = [this.first[row]!, this.end[row]!];
    const from = row * X_POINTS;
    while (first < end && weights[from + first]! <= floor) weights[from + first++] = 0;
    while (first < end && weights[from + end - 1]! <= floor) weights[from + --end] = 0;
    this.first[row] = first;
    this.end[row] = end;
  }
}

function largestOf(weights: Float64Array): number {
  let largest = 0;
  for (let i = 0; i < weights.length; i += 1) if (weights[i]! > largest) largest = weights[i]!;
  return largest;
}

/**
 * Multiplies weights over (lane, bypass, x) by what a group of readings says (mixture likelihood of a reading that may
 * simply be wrong: Jaynes 2003, chapter 21).
 *
 * @param floor weights at or below it are let go
 * @returns the largest weight that is left
 */
function weighGroup(
  weights: Float64Array,
  group: ReadingGroup,
  scale: ChargeScale,
  living: Living,
  atLoad: AtLoads,
  floor: number,
): number {
  const { share, slope } = atLoad;
  let largest = 0;
  const { feedEc25, roundEc25 = feedEc25, loads, ppm } = group;
  const wrong = wrongShare(group.agreeing);
  const logLoad = group.meq > 0 ? Math.log(group.meq) : -Infinity;
  const logSeen = Math.log(group.ec25 + OFFSET_PPM * ppm);
  const rows = rowsOf(scale);
  for (let row = 0; row < rows; row += 1) {
    const lane = Math.floor(row / BYPASSES.length);
    if (row % BYPASSES.length === 0) {
      const logThroughput = scale.logLimit[lane]! - scale.logPromised;
      const curve = Math.floor(lane / WIDTHS);
      if (loads && loads.anions.length === scale.curves.length)
        atLoad.readAll(
          scale.curves[curve]!,
          FRONT_WIDTHS[lane % WIDTHS]!,
          (of) => loads[of][curve]! * Math.exp(logThroughput),
        );
      else atLoad.read(scale.fronts[lane]!, logLoad + logThroughput);
    }
    living.narrow(weights, row, floor);
    const bypass = BYPASSES[row % BYPASSES.length]!;
    const [round, bed] = [bypass * roundEc25, (1 - bypass) * feedEc25];
    const from = row * X_POINTS;
    const clean = likelihood(logSeen, ppm, wrong, round, 0);
    const end = living.end[row]!;
    for (let i = living.first[row]!; i < end; i += 1) {
      const said =
        share[i]! < CLEAN ? clean : likelihood(logSeen, ppm, wrong, round + bed * share[i]!, bed * slope[i]!);
      const left = weights[from + i]! * said;
      weights[from + i] = left;
      if (left > largest) largest = left;
    }
  }
  return largest;
}

/** Multiplies by what all groups of readings say, the latest first: what it rules out costs nothing more. */
export function weigh(
  weights: Float64Array,
  groups: readonly ReadingGroup[],
  scale: ChargeScale,
  forgotten = FORGOTTEN,
): void {
  const [living, atLoad] = [new Living(rowsOf(scale)), new AtLoads()];
  let largest = largestOf(weights);
  for (let i = groups.length - 1; i >= 0; i -= 1) {
    largest = weighGroup(weights, groups[i]!, scale, living, atLoad, forgotten * largest);
    if (largest >= SMALLEST && largest <= LARGEST) continue;
    for (let k = 0; k < weights.length; k += 1) weights[k]! /= largest;
    largest = 1;
  }
}

/** What the readings of some rigs say is kept: a quarter of a megabyte each, five times that behind a membrane. */
const MOST_KEPT = 12;
const readingsSaid = new RememberedOf<readonly FrontTable[], Float64Array>(MOST_KEPT);

/** What groups of readings say over (lane, bypass, x); said again with one group more it costs that group alone. */
function likelihoodOf(groups: readonly ReadingGroup[], scale: ChargeScale): Float64Array {
  const kept = readingsSaid.about(scale.fronts);
  const keyOf = (some: readonly ReadingGroup[]) => `${scale.key} ${JSON.stringify(some)}`;
  return kept.of(keyOf(groups), () => {
    const earlier = kept.get(keyOf(groups.slice(0, -1)));
    const all = earlier ? earlier.slice() : new Float64Array(cellsOf(scale)).fill(1);
    weigh(all, earlier ? groups.slice(-1) : groups, scale, FORGOTTEN_OF_READINGS);
    return all;
  });
}

/** Multiplies by what all groups of readings say; all but the latest are weighed once, however often it changes. */
export function weighLatest(weights: Float64Array, groups: readonly ReadingGroup[], scale: ChargeScale): void {
  if (groups.length > 1) {
    const earlier = likelihoodOf(groups.slice(0, -1), scale);
    for (let i = 0; i < weights.length; i += 1) weights[i]! *= earlier[i]!;
  }
  weigh(weights, groups.slice(-1), scale);
}

/** Calls with the start of each row of x: lane and bypass by their places. */
export function forEachRow(
  { fronts }: Pick<ChargeScale, "fronts">,
  visit: (lane: number, bypass: number, from: number) => void,
): void {
  for (let lane = 0; lane < fronts.length; lane += 1)
    for (let bypass = 0; bypass < BYPASSES.length; bypass += 1)
      visit(lane, bypass, (lane * BYPASSES.length + bypass) * X_POINTS);
}

/**
 * ln of how much later than the limit (without bypass) a mark is reached, for each row: later for a higher mark, earlier
 * where water goes round the beads, -Infinity where that alone is beyond it.
 */
export function markOffsets(ec25: number, feedEc25: number, scale: ChargeScale): Float64Array {
  const { fronts, logLimit } = scale;
  const offsets = new Float64Array(rowsOf(scale));
  forEachRow(scale, (lane, row) => {
    const bypass = BYPASSES[row]!;
    const share = (shareOfFeed(ec25, feedEc25) - bypass) / (1 - bypass);
    offsets[lane * BYPASSES.length + row] = share <= 0 ? -Infinity : firstPass(fronts[lane]!, share) - logLimit[lane]!;
  });
  return offsets;
}
