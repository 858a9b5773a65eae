import { firstPass, TABLE_LOW, TABLE_STEP, type FrontTable } from "../front/front-table";
import { FRONT_WIDTHS, frontsOf, type ProductCurve } from "../front/product-curve";
import { BYPASSES, WIDTHS, X_POINTS, xAt } from "./grids";
import type { ReadingGroup } from "./groups";

/** A charge's scale: what its resin should hold, and where its curve of each width first passes the limit. */
export interface ChargeScale {
  /** meq of the smaller side by the grade, storage and packing in it. */
  readonly meq: number;
  readonly curve: ProductCurve;
  /** ln T at which the curve of each of `FRONT_WIDTHS` first passes the limit in the feed of now. */
  readonly logLimit: Float64Array;
  /** ln of the load, meq, at which the limit is reached when the resin is as its grade says. */
  readonly logPromised: number;
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

const shareOfFeed = (ec25: number, feedEc25: number) => Math.min(MOST_OF_THE_FEED, ec25 / feedEc25);

/**
 * The scale of a charge: it reaches its limit at the load `meq × T₀ e^x` whatever the width of its front, so that the count
 * teaches what a meter sees.
 *
 * @param meq of the smaller side by grade, storage and packing
 * @param limitEc25 µS/cm
 * @param feedEc25 µS/cm at the bed now; of an ended charge at its end
 */
export function chargeScale(meq: number, curve: ProductCurve, limitEc25: number, feedEc25: number): ChargeScale {
  const share = shareOfFeed(limitEc25, feedEc25);
  const logLimit = Float64Array.from(frontsOf(curve), (front) => firstPass(front, share));
  return { meq, curve, logLimit, logPromised: Math.log(meq) + atUsualWidth(logLimit) };
}

/** Share of the readings that are simply wrong: a planning assumption. */
const WRONG_SHARE = 0.08;
const HIT_WEIGHT = (1 - WRONG_SHARE) / Math.sqrt(2 * Math.PI);
const MISS = WRONG_SHARE / 5;
/** ppm, and shares: the meter's own error, the curve's shape that nobody knows, and a place in the charge. */
const METER_PPM = 1;
const METER_SHARE = 0.03;
const SHAPE_SHARE = 0.25;
const PLACE_SHARE = 0.02;
/** ppm added before the logarithm, so that a clean reading compares. */
const OFFSET_PPM = 2;
/** Below this share of the feed only what goes round the beads shows. */
const CLEAN = 1e-4;
/** A point this unlikely beside the likeliest is let go: ln 1e-12. */
const FORGOTTEN = -27.6;

/** ln likelihood of a reading whose expected value is `expected`, its slope `slope` against ln T. */
function logLikelihood({ ec25, ppm }: ReadingGroup, expected: number, slope: number): number {
  const offset = OFFSET_PPM * ppm;
  const meter = Math.max(METER_PPM * ppm, METER_SHARE * expected);
  const shape = SHAPE_SHARE * expected;
  const place = PLACE_SHARE * slope;
  const sd = Math.sqrt(meter * meter + shape * shape + place * place) / (expected + offset);
  const z = Math.log((ec25 + offset) / (expected + offset)) / sd;
  return Math.log((HIT_WEIGHT / sd) * Math.exp(-0.5 * z * z) + MISS);
}

/** Number of (width, bypass, x) points, x running fastest. */
export const CELLS = WIDTHS * BYPASSES.length * X_POINTS;

/** X and its slope against ln T, for each x, at a load. */
class AtLoad {
  readonly share = new Float64Array(X_POINTS);
  readonly slope = new Float64Array(X_POINTS);

  read(front: FrontTable, logThroughput: number): void {
    const last = front.length - 2;
    for (let i = 0; i < X_POINTS; i += 1) {
      const position = (logThroughput - xAt(i) - TABLE_LOW) / TABLE_STEP;
      const inside = position > 0 && position < last;
      const point = inside ? Math.floor(position) : position > 0 ? last : 0;
      const rise = front[point + 1]! - front[point]!;
      this.share[i] = inside ? front[point]! + (position - point) * rise : front[position > 0 ? last + 1 : 0]!;
      this.slope[i] = inside ? rise / TABLE_STEP : 0;
    }
  }
}

/**
 * Adds to ln weights over (width, bypass, x) what a group of readings says (mixture likelihood of a reading that may simply
 * be wrong: Jaynes 2003, chapter 21).
 */
function addGroup(sum: Float64Array, group: ReadingGroup, scale: ChargeScale, atLoad: AtLoad): void {
  const floor = sum.reduce((most, each) => Math.max(most, each), -Infinity) + FORGOTTEN;
  const logLoad = group.meq > 0 ? Math.log(group.meq) : -Infinity;
  frontsOf(scale.curve).forEach((front, width) => {
    atLoad.read(front, logLoad - scale.logPromised + scale.logLimit[width]!);
    BYPASSES.forEach((bypass, row) => {
      const from = (width * BYPASSES.length + row) * X_POINTS;
      const clean = logLikelihood(group, group.feedEc25 * bypass, 0);
      for (let i = 0; i < X_POINTS; i += 1) {
        if (!(sum[from + i]! > floor)) sum[from + i] = -Infinity;
        else if (atLoad.share[i]! < CLEAN) sum[from + i]! += clean;
        else {
          const bed = (1 - bypass) * group.feedEc25;
          sum[from + i]! += logLikelihood(
            group,
            bypass * group.feedEc25 + bed * atLoad.share[i]!,
            bed * atLoad.slope[i]!,
          );
        }
      }
    });
  });
}

/** Adds what all groups of readings say, the latest first: it rules out most, and what is ruled out costs nothing more. */
export function weigh(sum: Float64Array, groups: readonly ReadingGroup[], scale: ChargeScale): void {
  const atLoad = new AtLoad();
  for (let i = groups.length - 1; i >= 0; i -= 1) addGroup(sum, groups[i]!, scale, atLoad);
}

/** Calls with the start of each row of x: width and bypass by their places. */
export function forEachRow(visit: (width: number, bypass: number, from: number) => void): void {
  for (let width = 0; width < WIDTHS; width += 1)
    for (let bypass = 0; bypass < BYPASSES.length; bypass += 1)
      visit(width, bypass, (width * BYPASSES.length + bypass) * X_POINTS);
}

/**
 * ln of how much later than the limit (without bypass) a mark is reached, for each row: later for a higher mark, earlier
 * where water goes round the beads, -Infinity where that alone is beyond it.
 */
export function markOffsets(ec25: number, feedEc25: number, { curve, logLimit }: ChargeScale): Float64Array {
  const fronts = frontsOf(curve);
  const offsets = new Float64Array(WIDTHS * BYPASSES.length);
  forEachRow((width, row) => {
    const bypass = BYPASSES[row]!;
    const share = (shareOfFeed(ec25, feedEc25) - bypass) / (1 - bypass);
    offsets[width * BYPASSES.length + row] =
      share <= 0 ? -Infinity : firstPass(fronts[width]!, share) - logLimit[width]!;
  });
  return offsets;
}
