import type { BedInTurn, Carried } from "../front/in-turn";
import { byLoad, FRONT_WIDTHS, LOADS, passFront, seenFront, type ByLoad } from "../front/product-curve";
import { firstPass, shareAt } from "../front/front-table";
import { RememberedOf } from "../numerics/remembered";
import { risingRoot } from "../numerics/root";
import type { ThreeOf } from "../life/life-range";
import {
  BYPASS_PRIOR,
  BYPASSES,
  chargePrior,
  WIDTHS,
  X_LOW,
  X_POINTS,
  X_STEP,
  xAt,
  type CapacityWeights,
} from "./grids";
import type { ReadingGroup } from "./groups";
import { carbonBelief, type OwnerBelief } from "./owner";
import { leftOfPartUsed, type UsedBefore } from "./part-used";
import { cellsOf, forEachRow, markOffsets, rowsOf, weighLatest, type ChargeScale } from "./weigh";

/** Kept here, for they stand in the innermost loops. */
const POINTS = X_POINTS;
const PER_STEP = 1 / X_STEP;
const BEFORE_FIRST = 0.5 - X_LOW / X_STEP;

/** What is believed of the charge in use, over the width of its front, the water round its beads, and its capacity. */
export interface ChargeBelief {
  readonly scale: ChargeScale;
  /** Running sums of the weights of each row of x; a row starts at its own 0. */
  readonly running: Float64Array;
  /** Weight of each row; they sum to 1. */
  readonly rows: Float64Array;
}

/**
 * A belief before and after the readings of the charge in use.
 * @param before what had gone through it before it was counted; then the belief is of what it still held
 */
export function chargeBelief(
  owner: OwnerBelief,
  loadSd: number,
  groups: readonly ReadingGroup[],
  scale: ChargeScale,
  before?: UsedBefore,
): ChargeBelief {
  const key = `${JSON.stringify([loadSd, before, groups, scale.tapId])} ${scale.key}`;
  return beliefs.about(owner).of(key, () => believed(owner, loadSd, groups, scale, before));
}

/** The charges of a train, each with what is believed of it before and after a digit: a quarter of a megabyte each, five times that behind a membrane. */
const MOST_BELIEFS = 8;
const beliefs = new RememberedOf<OwnerBelief, ChargeBelief>(MOST_BELIEFS);

function believed(
  owner: OwnerBelief,
  loadSd: number,
  groups: readonly ReadingGroup[],
  scale: ChargeScale,
  before: UsedBefore | undefined,
): ChargeBelief {
  const fresh = chargePrior(owner.capacity, loadSd);
  const prior = before === undefined ? fresh : leftOfPartUsed(fresh, before);
  const weights = new Float64Array(cellsOf(scale));
  const carbon = carbonBelief(owner, scale);
  forEachRow(scale, (lane, bypass, from) => {
    const row = carbon[Math.floor(lane / WIDTHS)]! * owner.widths[lane % WIDTHS]! * BYPASS_PRIOR[bypass]!;
    for (let i = 0; i < X_POINTS; i += 1) weights[from + i] = prior[i]! * row;
  });
  weighLatest(weights, groups, scale);
  return summed(weights, scale);
}

/** Turns weights, in their own room, into a belief whose rows sum to 1. */
function summed(weights: Float64Array, scale: ChargeScale): ChargeBelief {
  const rows = new Float64Array(rowsOf(scale));
  let total = 0;
  for (const each of weights) total += each;
  for (let row = 0; row < rows.length; row += 1) {
    let sum = 0;
    for (let i = row * X_POINTS; i < (row + 1) * X_POINTS; i += 1) weights[i] = sum += weights[i]! / total;
    rows[row] = sum;
  }
  return { scale, running: weights, rows };
}

/** The same belief with nothing going round the beads: of a charge that nobody has read yet. */
export function tight({ scale, running, rows }: ChargeBelief): ChargeBelief {
  let total = 0;
  for (let row = 0; row < rows.length; row += BYPASSES.length) total += rows[row]!;
  const [alone, alike] = [new Float64Array(running.length), new Float64Array(rows.length)];
  for (let row = 0; row < rows.length; row += BYPASSES.length) {
    alike[row] = rows[row]! / total;
    for (let i = row * POINTS; i < (row + 1) * POINTS; i += 1) alone[i] = running[i]! / total;
  }
  return { scale, running: alone, rows: alike };
}

/** The place at which half of the weight is reached. */
function middleOf(weights: Float64Array): number {
  let below = 0;
  return weights.findIndex((each) => (below += each) >= 0.5 - 1e-9);
}

/** The middle of the curves: as much is believed of more carbon dioxide as of less. */
export const middleCurve = (belief: ChargeBelief): number => middleOf(curveWeights(belief));

/** The same belief with the carbon dioxide known to be that of one curve: what a measurement would leave of it. */
export function onCurve({ scale, running, rows }: ChargeBelief, curve: number): ChargeBelief {
  const ofCurve = rows.length / scale.curves.length;
  const isOf = (row: number) => Math.floor(row / ofCurve) === curve;
  const total = rows.reduce((sum, each, row) => (isOf(row) ? sum + each : sum), 0);
  return {
    scale,
    running: running.map((each, cell) => (isOf(Math.floor(cell / POINTS)) ? each / total : 0)),
    rows: rows.map((each, row) => (isOf(row) ? each / total : 0)),
  };
}

/** Belief over x alone. */
export function capacityWeights({ running, scale }: ChargeBelief): CapacityWeights {
  const weights = new Float64Array(X_POINTS);
  forEachRow(scale, (_, __, from) => {
    for (let i = 0; i < X_POINTS; i += 1) weights[i]! += running[from + i]! - (i > 0 ? running[from + i - 1]! : 0);
  });
  return weights;
}

/** Weight of a row that lies below x, each point's spread evenly over its step. */
function rowBelow(running: Float64Array, from: number, x: number): number {
  const position = x * PER_STEP + BEFORE_FIRST;
  if (position <= 0) return 0;
  if (position >= POINTS) return running[from + POINTS - 1]!;
  const point = Math.floor(position);
  const before = point > 0 ? running[from + point - 1]! : 0;
  return before + (position - point) * (running[from + point]! - before);
}

/** A mark as the belief sees it: where each row reaches it. */
export interface Mark {
  readonly offsets: Float64Array;
  /** By curve, of a bed among others: how much of each load it takes until then, beside what it takes behind nothing. */
  readonly loads?: readonly ByLoad<number>[];
}

/** @param ec25 µS/cm of the mark @param feedEc25 µS/cm at the bed now */
export const markOf = (ec25: number, feedEc25: number, { scale }: ChargeBelief): Mark => ({
  offsets: markOffsets(ec25, feedEc25, scale),
});

/**
 * A mark reached at a throughput of the beads themselves, whatever the front's width: the first leak.
 * @param throughputs one, or one for each curve
 */
export function markAtThroughput(throughputs: number | readonly number[], { scale }: ChargeBelief): Mark {
  const offsets = new Float64Array(rowsOf(scale));
  const ofCurve = offsets.length / scale.curves.length;
  scale.curves.forEach((_, curve) => {
    const throughput = typeof throughputs === "number" ? throughputs : throughputs[curve]!;
    offsets.fill(Math.log(throughput * scale.meq) - scale.logPromised, curve * ofCurve, (curve + 1) * ofCurve);
  });
  return { offsets };
}

/** meq at which the limit is reached when the resin is as its grade says, by the middle of what is believed of its water. */
export const promisedMeq = (belief: ChargeBelief): number => {
  const { logPromised, later } = belief.scale;
  return Math.exp(logPromised + curveWeights(belief).reduce((sum, weight, curve) => sum + weight * later[curve]!, 0));
};

/** Weight of each of the curves: how much carbon dioxide there is. */
export function curveWeights({ rows, scale }: ChargeBelief): Float64Array {
  const weights = new Float64Array(scale.curves.length);
  const ofCurve = rows.length / weights.length;
  rows.forEach((weight, row) => (weights[Math.floor(row / ofCurve)]! += weight));
  return weights;
}

/** How much later than the limit a mark comes in the likeliest row of the belief, as a factor on the load. */
export function laterThanLimit({ rows }: ChargeBelief, { offsets }: Mark): number {
  return Math.exp(offsets[rows.indexOf(Math.max(...rows))]!);
}

/** A row this light changes no figure that is shown. */
const LIGHT = 1e-9;

/** Share of the belief whose mark lies at or below a load, meq. */
export function shareReachedBy({ running, rows, scale }: ChargeBelief, { offsets }: Mark, meq: number): number {
  const logLoad = Math.log(meq) - scale.logPromised;
  let share = 0;
  for (let row = 0; row < rows.length; row += 1) {
    if (rows[row]! < LIGHT) continue;
    share += offsets[row] === -Infinity ? rows[row]! : rowBelow(running, row * POINTS, logLoad - offsets[row]!);
  }
  return share;
}

/** A figure nobody knows well, as its middle and spread. */
export interface Uncertain {
  readonly median: number;
  readonly sd: number;
}

/** What litres left hang on besides the belief. */
export interface LeftQuestion {
  /** meq put on so far. */
  readonly used: number;
  /** Load by load and by curve, of a bed that stood behind others: what came through them is no tap water. */
  readonly loads?: ByLoad<readonly number[]>;
  /** Feed to come, µS/cm: lognormal, `sd` of its logarithm. */
  readonly feed: Uncertain;
  /** Litres that went through since the last log: normal, cut at 0. */
  readonly sinceLog: Uncertain;
}

/** Three points stand for a normal: its middle and √3 standard deviations each way (Gauss-Hermite). */
const THREE_POINTS = [
  { z: -Math.sqrt(3), weight: 1 / 6 },
  { z: 0, weight: 2 / 3 },
  { z: Math.sqrt(3), weight: 1 / 6 },
] as const;

const ITS_MIDDLE = [{ z: 0, weight: 1 }] as const;
/** A figure that is known stands at its one point. */
const pointsOf = (sd: number) => (sd === 0 ? ITS_MIDDLE : THREE_POINTS);

/** Share of the belief that leaves so many litres or fewer until a mark. */
export function shareLeaving(
  belief: ChargeBelief,
  mark: Mark,
  { used, feed, sinceLog }: LeftQuestion,
  litres: number,
): number {
  let share = 0;
  for (const f of pointsOf(feed.sd)) {
    const load = (feed.median * Math.exp(feed.sd * f.z)) / 100;
    for (const u of pointsOf(sinceLog.sd)) {
      const gone = Math.max(0, sinceLog.median + sinceLog.sd * u.z);
      share += f.weight * u.weight * shareReachedBy(belief, mark, used + (litres + gone) * load);
    }
  }
  return share;
}

/** Litres left until a mark, below which a share of the belief lies. */
export function leftQuantile(belief: ChargeBelief, mark: Mark, question: LeftQuestion, share: number): number {
  const short = (litres: number) => shareLeaving(belief, mark, question, litres) - share;
  if (short(0) >= 0) return 0;
  let most = 1000;
  while (short(most) < 0 && most < 1e12) most *= 4;
  return risingRoot(short, 0, most);
}

/** 10, 50 and 90 % points of the litres left until a mark. */
export const leftUntil = (belief: ChargeBelief, mark: Mark, question: LeftQuestion): ThreeOf<number> => ({
  low: leftQuantile(belief, mark, question, 0.1),
  typical: leftQuantile(belief, mark, question, 0.5),
  high: leftQuantile(belief, mark, question, 0.9),
});

/** A charge as one draw of the belief has it. */
export interface DrawnCharge {
  readonly row: number;
  readonly x: number;
}

/** Which of the curves a drawn charge has. */
export const curveOf = ({ scale }: ChargeBelief, { row }: DrawnCharge): number =>
  Math.floor(row / BYPASSES.length / WIDTHS) % scale.curves.length;

/**
 * The charge at a place of the belief's whole, 0 to 1: even places draw it evenly.
 * @param curve that it is drawn among those of: beds of one tap have the same carbon dioxide
 */
export function chargeAt(belief: ChargeBelief, whole: number, curve?: number): DrawnCharge {
  const { running, rows } = belief;
  const place = curve === undefined ? whole : placeAmong(belief, curve, whole);
  let [row, left] = [0, place];
  while (row < rows.length - 1 && left >= rows[row]!) {
    left -= rows[row]!;
    row += 1;
  }
  const from = row * X_POINTS;
  let [low, high] = [0, X_POINTS - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (running[from + middle]! > left) high = middle;
    else low = middle + 1;
  }
  const before = low > 0 ? running[from + low - 1]! : 0;
  const weight = running[from + low]! - before;
  return { row, x: xAt(low) + X_STEP * ((weight > 0 ? Math.min(1, (left - before) / weight) : 0.5) - 0.5) };
}

/** The place in the whole of a place among the charges of one curve; of a curve that is ruled out, in the whole. */
function placeAmong({ rows, scale }: ChargeBelief, curve: number, place: number): number {
  const ofCurve = rows.length / scale.curves.length;
  if (ofCurve === rows.length) return place;
  let [before, own] = [0, 0];
  for (let row = 0; row < (curve + 1) * ofCurve; row += 1) {
    if (row < curve * ofCurve) before += rows[row]!;
    else own += rows[row]!;
  }
  return own > LIGHT ? before + place * own : place;
}

/** meq at which a drawn charge reaches a mark. */
export const loadAtMark = ({ scale }: ChargeBelief, { offsets }: Mark, { row, x }: DrawnCharge): number =>
  Math.exp(scale.logPromised + offsets[row]! + x);

/** Share of the feed that a drawn charge lets through, at any load: its front is looked up once. */
export function outputOf({ scale }: ChargeBelief, { row, x }: DrawnCharge): (meq: number) => number {
  const [lane, bypass] = [Math.floor(row / BYPASSES.length), BYPASSES[row % BYPASSES.length]!];
  const front = scale.fronts[lane]!;
  const from = scale.logLimit[lane]! - scale.logPromised - x;
  return (meq) => bypass + (1 - bypass) * shareAt(front, Math.log(meq) + from);
}

/**
 * The same of a bed whose loads did not come together: the most that one of them shows.
 * @returns nothing where the loads are not of this belief's curves
 */
export function outputByLoads(
  belief: ChargeBelief,
  { row, x }: DrawnCharge,
): ((loads: ByLoad<readonly number[]>) => number) | undefined {
  const { scale } = belief;
  const [lane, bypass] = [Math.floor(row / BYPASSES.length), BYPASSES[row % BYPASSES.length]!];
  const curve = curveOf(belief, { row, x });
  if (!scale.curves[curve]!.loads) return undefined;
  const from = scale.logLimit[lane]! - scale.logPromised - x;
  const fronts = byLoad((of) => seenFront(scale.curves[curve]!, of, FRONT_WIDTHS[lane % WIDTHS]!));
  return (loads) =>
    LOADS.reduce((most, of) => {
      const [front, meq] = [fronts[of], loads[of][Math.min(curve, loads[of].length - 1)]!];
      return front && meq > 0 ? Math.max(most, bypass + (1 - bypass) * shareAt(front, Math.log(meq) + from)) : most;
    }, bypass);
}

/** meq at which the beads of a drawn charge let a share of their feed through. */
export const loadAtShare = ({ scale }: ChargeBelief, { row, x }: DrawnCharge, share: number): number => {
  const lane = Math.floor(row / BYPASSES.length);
  return Math.exp(scale.logPromised - scale.logLimit[lane]! + x + firstPass(scale.fronts[lane]!, share));
};

/**
 * A drawn charge as the water meets it, load by load.
 * @param used meq of each load so far; of a water nobody knows the composition of, what a meter sees
 */
export function inTurn(belief: ChargeBelief, { row, x }: DrawnCharge, used: (of: Carried) => number): BedInTurn {
  const { scale } = belief;
  const lane = Math.floor(row / BYPASSES.length);
  const curve = scale.curves[curveOf(belief, { row, x })]!;
  const width = FRONT_WIDTHS[lane % WIDTHS]!;
  return {
    meq: Math.exp(scale.logPromised - scale.logLimit[lane]! + x),
    bypass: BYPASSES[row % BYPASSES.length]!,
    used,
    front: (of) => (of === "seen" ? scale.fronts[lane]! : passFront(curve, of, width)),
  };
}

/** Likeliest width of the front, and the mean share of the water that goes round the beads. */
export function shapeOf({ rows }: ChargeBelief): {
  readonly width: number;
  readonly bypass: number;
  readonly tight: number;
} {
  const widths = new Float64Array(WIDTHS);
  let [bypass, tightShare] = [0, 0];
  rows.forEach((weight, row) => {
    widths[Math.floor(row / BYPASSES.length) % WIDTHS]! += weight;
    bypass += weight * BYPASSES[row % BYPASSES.length]!;
    if (row % BYPASSES.length === 0) tightShare += weight;
  });
  return { width: FRONT_WIDTHS[widths.indexOf(Math.max(...widths))]!, bypass, tight: tightShare };
}
