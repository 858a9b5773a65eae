import { firstFrom } from "../numerics/search";
import { breakthrough } from "../life/breakthrough";

/**
 * Output of a bed as a share of its feed (X) against throughput (T, the load put on as a share of capacity), tabled over an
 * even grid of ln T: unequal flow paths are then a convolution, and a change of capacity is a shift.
 */
export type FrontTable = Float64Array;

/** ln T at the grid's start; a bed behind a membrane in water full of carbon dioxide gives way below T = 0.1. */
export const TABLE_LOW = -7;
export const TABLE_STEP = 0.005;
export const TABLE_POINTS = 1681;

/** T of a grid point. */
export const throughputOf = (point: number) => Math.exp(TABLE_LOW + TABLE_STEP * point);

/** A front tabled for even flow. @param output X at a throughput T */
export const tabled = (output: (throughput: number) => number): FrontTable =>
  Float64Array.from({ length: TABLE_POINTS }, (_, point) => output(throughputOf(point)));

/** The constant pattern under film control with no return, tabled. @example constantPattern(34) // 1/e at T = 1 */
export const constantPattern = (transferUnits: number): FrontTable =>
  tabled((throughput) => breakthrough(throughput, transferUnits));

const REACH = 6; // standard deviations each way
/** Paths a standard deviation of ln τ holds at least: as fine as the trapezoid of 241 points over ±6. */
const PATHS_A_SD = 20;

/**
 * A front averaged over lognormal flow paths of mean 1: each path meets the front at its own throughput `T/τ`.
 *
 * @param width coefficient of variation of the paths; 0 is even flow
 */
export function spreadOver(front: FrontTable, width: number): FrontTable {
  const variance = Math.log(1 + width * width);
  const sd = Math.sqrt(variance);
  const stride = Math.max(1, Math.floor(sd / PATHS_A_SD / TABLE_STEP));
  const paths = Math.ceil((REACH * sd) / (stride * TABLE_STEP));
  if (paths === 0) return front;
  // A path of capacity τ is read at ln T - ln τ, ln τ = σz - σ²/2: the weights are those of ln τ = k × stride × step.
  const weights = Float64Array.from({ length: 2 * paths + 1 }, (_, k) =>
    Math.exp(-0.5 * (((k - paths) * stride * TABLE_STEP + variance / 2) / sd) ** 2),
  );
  const total = weights.reduce((sum, each) => sum + each, 0);
  const reach = paths * stride;
  const padded = new Float64Array(front.length + 2 * reach).fill(front[0]!, 0, reach);
  padded.set(front, reach);
  padded.fill(front[front.length - 1]!, reach + front.length);
  const spread = new Float64Array(front.length);
  for (let point = 0; point < spread.length; point += 1) {
    let sum = 0;
    for (let k = 0, from = point + 2 * reach; k < weights.length; k += 1, from -= stride)
      sum += weights[k]! * padded[from]!;
    spread[point] = sum / total;
  }
  return spread;
}

/** X at ln T, between the grid's points by a straight line, level beyond its ends. */
export function shareAt(front: FrontTable, logThroughput: number): number {
  const position = (logThroughput - TABLE_LOW) / TABLE_STEP;
  if (position <= 0) return front[0]!;
  if (position >= front.length - 1) return front[front.length - 1]!;
  const point = Math.floor(position);
  return front[point]! + (position - point) * (front[point + 1]! - front[point]!);
}

const peaks = new WeakMap<FrontTable, FrontTable>();

/** The highest that a front has been by each point: it never falls, so that it can be searched. */
function peaksOf(front: FrontTable): FrontTable {
  const known = peaks.get(front);
  if (known) return known;
  let highest = -Infinity;
  const made = front.map((share) => (highest = Math.max(highest, share)));
  peaks.set(front, made);
  return made;
}

/**
 * ln T at which a front first reaches a share of the feed; a front on a carbonic plateau may fall again behind it.
 *
 * @returns the grid's low end where even the first litre carries more, its high end where the share is never reached
 */
export function firstPass(front: FrontTable, share: number): number {
  if (front[0]! >= share) return TABLE_LOW;
  const peaked = peaksOf(front);
  const point = firstFrom(peaked.length, (place) => peaked[place]! >= share);
  if (point === front.length) return TABLE_LOW + TABLE_STEP * (front.length - 1);
  const [before, after] = [front[point - 1]!, front[point]!];
  const part = before > 0 ? Math.log(share / before) / Math.log(after / before) : (share - before) / (after - before);
  return TABLE_LOW + TABLE_STEP * (point - 1 + part);
}
