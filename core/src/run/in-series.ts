import {
  chargeAt,
  curveOf,
  inTurn,
  leftQuantile,
  loadAtMark,
  loadAtShare,
  outputOf,
  type ChargeBelief,
  type DrawnCharge,
  type LeftQuestion,
  type Mark,
} from "../belief/charge-belief";
import { Filling, litresUntilPassed, type Carried, type InTurn } from "../front/in-turn";
import { LOADS, type ByLoad } from "../front/product-curve";
import type { ThreeOf } from "../life/life-range";
import type { PlainBed } from "./in-place";

/** A bed that stands before another, as it is believed, with the load it has. */
export interface BedAhead {
  readonly belief: ChargeBelief;
  /** meq. */
  readonly used: number;
  /** Load by load and by curve, where it stood behind others. */
  readonly loads?: ByLoad<readonly number[]> | undefined;
  /** As its grade says. */
  readonly plain?: PlainBed;
}

/** Beds before one, in the order the water meets them; a pair of cation and anion beds works as one. */
export type Ahead = readonly (readonly BedAhead[])[];

/** One draw of every bed ahead. */
type DrawnAhead = readonly (readonly DrawnCharge[])[];

/** Least load at which a curve is read. */
const LEAST = 1e-9;

/** Draws that fill a space evenly, a place between 0 and 1 for each of its directions (Kronecker sequence; Niederreiter 1992). */
const evenly = (i: number, direction: number): number => {
  const step = Math.sqrt([2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31, 37][direction % 12]!);
  return ((i + 1) * step) % 1;
};

/**
 * @param of draws from places between 0 and 1, one for each bed ahead
 * @param curve of the carbon dioxide, which all beds of a tap share
 */
const drawAhead = (ahead: Ahead, of: (bed: number) => number, curve: number): DrawnAhead => {
  let bed = 0;
  return ahead.map((unit) =>
    unit.map(({ belief }) => chargeAt(belief, of(bed++), Math.min(curve, belief.scale.curves.length - 1))),
  );
};

/** Drawn beds as the water meets them. */
const asDrawn = (ahead: Ahead, drawn: DrawnAhead): InTurn =>
  ahead.map((unit, u) =>
    unit.map(({ belief, used, loads }, b) => {
      const charge = drawn[u]![b]!;
      const curve = curveOf(belief, charge);
      return inTurn(belief, charge, (of) => (of === "seen" || !loads ? used : loads[of][curve]!));
    }),
  );

/** Of its feed: from here on a bed ahead is no help any more. */
const GIVEN = 0.8;

/** Litres until the beds ahead let most of their feed through. */
const litresUntilGiven = (ahead: Ahead, drawn: DrawnAhead, feed: number): number =>
  ahead.reduce(
    (sum, unit, u) =>
      sum +
      Math.min(
        ...unit.map(({ belief, used }, b) =>
          Math.max(0, (100 * (loadAtShare(belief, drawn[u]![b]!, GIVEN) - used)) / feed),
        ),
      ),
    0,
  );

/**
 * Litres left of one drawn future of a bed behind others: all run forward at the feed to come. Where the composition is known
 * each load is followed by itself, and the first that is full ends it.
 * @param of places between 0 and 1, one for each bed ahead
 */
export function drawnLeft(
  { belief, used, loads }: BedAhead,
  mark: Mark,
  ahead: Ahead,
  drawn: DrawnCharge,
  of: (bed: number) => number,
  feed: number,
): number {
  const load = loadAtMark(belief, mark, drawn);
  if (ahead.length === 0 && !loads) return Math.max(0, ((load - used) * 100) / feed);
  const curve = curveOf(belief, drawn);
  const before = drawAhead(ahead, of, curve);
  // What goes round its beads passes the mark alone: but only once those ahead give way.
  if (load === 0) return litresUntilGiven(ahead, before, feed);
  const beds = asDrawn(ahead, before);
  const until = (each: Carried, more: number) => litresUntilPassed(more, beds, each, feed);
  if (!mark.loads) return until("seen", load - used);
  return Math.min(
    ...LOADS.map((each) => until(each, load * mark.loads![curve]![each] - (loads ? loads[each][curve]! : used))),
  );
}

const DRAWS = 600;
const ROOT = Math.sqrt(3);
/** Three points stand for a normal, by how often a draw takes each: 1, 4 and 1 of six. */
const FEED_OF_SIX = [-ROOT, 0, 0, ROOT, 0, 0] as const;

/** Litres left to a mark of a bed behind others, one a draw, ascending; what went since the log is not taken off. */
function drawnLitres(
  belief: ChargeBelief,
  mark: Mark,
  ahead: Ahead,
  { used, loads, feed }: LeftQuestion,
): Float64Array {
  return Float64Array.from({ length: DRAWS }, (_, i) => {
    const drawn = chargeAt(belief, (i + 0.5) / DRAWS);
    const fed = feed.median * Math.exp(feed.sd * FEED_OF_SIX[i % 6]!);
    return drawnLeft({ belief, used, loads }, mark, ahead, drawn, (bed) => evenly(i, bed), fed);
  }).sort();
}

interface Known {
  readonly of: readonly unknown[];
  readonly litres: Float64Array;
}
const known = new WeakMap<ChargeBelief, WeakMap<Mark, Known>>();

function litresOnce(belief: ChargeBelief, mark: Mark, ahead: Ahead, question: LeftQuestion): Float64Array {
  const { used, loads, feed } = question;
  const of = [ahead, used, loads, feed.median, feed.sd];
  const byMark = known.get(belief) ?? new WeakMap<Mark, Known>();
  known.set(belief, byMark);
  const before = byMark.get(mark);
  if (before?.of.every((each, i) => each === of[i])) return before.litres;
  const litres = drawnLitres(belief, mark, ahead, question);
  byMark.set(mark, { of, litres });
  return litres;
}

/** Share of a standing's futures that leave so many litres or fewer, what went since the log taken off. */
function shareBelow(litres: Float64Array, most: number): number {
  let [low, high] = [0, litres.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (litres[middle]! <= most) low = middle + 1;
    else high = middle;
  }
  return low / litres.length;
}

const SINCE_LOG = [
  { z: -ROOT, weight: 1 / 6 },
  { z: 0, weight: 2 / 3 },
  { z: ROOT, weight: 1 / 6 },
] as const;

/** Litres left until a mark, below which a share of the belief lies, whatever stands ahead. @see leftQuantile */
export function leftBehind(
  belief: ChargeBelief,
  mark: Mark,
  ahead: Ahead,
  question: LeftQuestion,
  share: number,
): number {
  if (ahead.length === 0 && !question.loads) return leftQuantile(belief, mark, question, share);
  const litres = litresOnce(belief, mark, ahead, question);
  const { median, sd } = question.sinceLog;
  const shareLeaving = (left: number) =>
    SINCE_LOG.reduce((sum, { z, weight }) => sum + weight * shareBelow(litres, left + Math.max(0, median + sd * z)), 0);
  if (shareLeaving(0) >= share) return 0;
  let [low, high] = [0, litres[litres.length - 1]!];
  while (high - low > 1e-9 * high) {
    const middle = (low + high) / 2;
    if (shareLeaving(middle) >= share) high = middle;
    else low = middle;
  }
  return high;
}

/** 10, 50 and 90 % points of the litres left. */
export const threeBehind = (
  belief: ChargeBelief,
  mark: Mark,
  ahead: Ahead,
  question: LeftQuestion,
): ThreeOf<number> => ({
  low: leftBehind(belief, mark, ahead, question, 0.1),
  typical: leftBehind(belief, mark, ahead, question, 0.5),
  high: leftBehind(belief, mark, ahead, question, 0.9),
});

/**
 * What a bed behind others lets through over litres to come, µS/cm, of one drawn future.
 * @param at litres from now, ascending
 */
export function outputsToCome(
  { belief, used }: BedAhead,
  ahead: Ahead,
  drawn: DrawnCharge,
  of: (bed: number) => number,
  feed: number,
  at: readonly number[],
): Float64Array {
  const filling = new Filling(asDrawn(ahead, drawAhead(ahead, of, curveOf(belief, drawn))), "seen", feed);
  const output = outputOf(belief, drawn);
  let [litres, meq] = [0, used];
  return Float64Array.from(at, (next) => {
    const leaving = filling.take(Math.max(0, next - litres));
    meq += (leaving * Math.max(0, next - litres)) / 100;
    litres = next;
    return leaving * output(Math.max(LEAST, meq));
  });
}
