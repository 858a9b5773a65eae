import type { Id } from "../descriptor/identity";
import {
  BYPASS_PRIOR,
  CHARGE_SD,
  countLikelihood,
  normalized,
  ownerPrior,
  seenThrough,
  usualOrOdd,
  widened,
  widthPrior,
  WIDTHS,
  widthsSeenThrough,
  X_POINTS,
  type CapacityWeights,
  type WidthWeights,
} from "./grids";
import type { ReadingGroup } from "./groups";
import { cellsOf, forEachRow, weigh, type ChargeScale } from "./weigh";

/** What one ended charge says, kept as its likelihood: the owner's belief is a replay of these, oldest first. */
export interface Lesson {
  readonly chargeId: Id;
  readonly vesselId: Id;
  /** Relative standard deviation of its load. */
  readonly sd: number;
  /** ln of its load as a share of what its grade promised to the limit, by the middle curve. */
  readonly reached: number;
  /** Of a water whose carbon dioxide nobody measured: ln of how much later each of its curves meets the limit, and its tap. */
  readonly carbon?: { readonly later: Float64Array; readonly tapId: Id };
  readonly word: "limit" | "early";
  /** ln of the load at its last reading, where that was still below the limit: the limit came between it and the end. */
  readonly lastBelow?: number;
  /** Over (curve, width, x), x running fastest; absent where no reading near its end speaks: its count and its word do. */
  readonly likelihood?: Float64Array;
}

/** Readings in the last share of a charge say how it ended. */
export const LAST_SHARE = 0.15;

export interface EndedChargeFacts {
  readonly chargeId: Id;
  readonly vesselId: Id;
  /** meq. */
  readonly load: number;
  readonly sd: number;
  readonly word: "limit" | "early";
  readonly groups: readonly ReadingGroup[];
  readonly scale: ChargeScale;
  /** µS/cm. */
  readonly limitEc25: number;
}

/** What an ended charge teaches. @returns undefined where it took no load */
export function lessonOf({ load, groups, scale, limitEc25, ...charge }: EndedChargeFacts): Lesson | undefined {
  if (!(load > 0)) return undefined;
  const lesson = {
    chargeId: charge.chargeId,
    vesselId: charge.vesselId,
    sd: charge.sd,
    word: charge.word,
    reached: Math.log(load) - scale.logPromised,
    ...(scale.curves.length > 1 ? { carbon: { later: scale.later, tapId: scale.tapId ?? "" } } : {}),
  };
  const latest = groups[groups.length - 1];
  if (!latest || latest.meq < (1 - LAST_SHARE) * load) {
    const isBelow = latest !== undefined && latest.meq > 0 && latest.ec25 < limitEc25;
    return isBelow ? { ...lesson, lastBelow: Math.log(latest.meq) - scale.logPromised } : lesson;
  }
  return { ...lesson, likelihood: overBypasses(groups, scale) };
}

/** Likelihood over (curve, width, x) with the bypass averaged out by its prior; the largest is 1. */
function overBypasses(groups: readonly ReadingGroup[], scale: ChargeScale): Float64Array {
  const weights = new Float64Array(cellsOf(scale));
  forEachRow(scale, (_, bypass, from) => weights.fill(BYPASS_PRIOR[bypass]!, from, from + X_POINTS));
  weigh(weights, groups, scale);
  const likelihood = new Float64Array(scale.fronts.length * X_POINTS);
  forEachRow(scale, (lane, _, from) => {
    for (let i = 0; i < X_POINTS; i += 1) likelihood[lane * X_POINTS + i]! += weights[from + i]!;
  });
  const largest = likelihood.reduce((most, each) => Math.max(most, each), 0);
  return likelihood.map((each) => each / largest);
}

/** What is believed of an owner's resin and of one vessel's front after the charges before. */
export interface OwnerBelief {
  readonly capacity: CapacityWeights;
  readonly widths: WidthWeights;
  /** By tap whose carbon dioxide nobody measured: weights over its five values, which sum to 1. */
  readonly carbon: ReadonlyMap<Id, Float64Array>;
  /** Charges that taught. */
  readonly taught: number;
}

/**
 * Replays the lessons of ended charges, oldest first: every charge teaches the capacity, those of the vessel its front's
 * width too (censored where a charge was changed early: Kalbfleisch and Prentice 2002, chapter 3).
 *
 * @example ownerBelief([], vesselId).taught // 0: the grade, give or take a quarter
 */
export function ownerBelief(lessons: readonly Lesson[], vesselId: Id): OwnerBelief {
  let capacity = ownerPrior();
  let widths = widthPrior();
  const carbon = new Map<Id, Float64Array>();
  for (const lesson of lessons) {
    const curves = lesson.carbon?.later.length ?? 1;
    const of = carbonOf(carbon, lesson.carbon?.tapId, curves);
    const resin = widened(capacity, Math.hypot(CHARGE_SD, lesson.sd));
    const said = saidBy(lesson, { curves: of, widths, resin });
    capacity = learnt(
      capacity,
      usualOrOdd((spread) => said.overX(spread), lesson.sd),
    );
    if (lesson.carbon) carbon.set(lesson.carbon.tapId, learnt(of, said.overCurves()));
    if (said.overWidths && lesson.vesselId === vesselId) widths = learnt(widths, widthsSeenThrough(said.overWidths));
  }
  return { capacity, widths, carbon, taught: lessons.length };
}

/** Weights over so many values of a tap's carbon dioxide: even ones before anything is known. */
const carbonOf = (carbon: ReadonlyMap<Id, Float64Array>, tapId: Id | undefined, curves: number): Float64Array => {
  const known = tapId === undefined ? undefined : carbon.get(tapId);
  return known?.length === curves ? known : new Float64Array(curves).fill(1 / curves);
};

/** What an owner's charges say of the carbon dioxide of a charge's water, by its curves. */
export const carbonBelief = ({ carbon }: Pick<OwnerBelief, "carbon">, { tapId, curves }: ChargeScale): Float64Array =>
  carbonOf(carbon, tapId, curves.length);

/** What one charge says, averaged over all but one of what it speaks of. */
interface Said {
  /** Over x, through a spread of ln q. */
  readonly overX: (spread: number) => Float64Array;
  readonly overCurves: () => Float64Array;
  readonly overWidths?: Float64Array;
}

interface BelievedSoFar {
  readonly curves: Float64Array;
  readonly widths: WidthWeights;
  readonly resin: CapacityWeights;
}

const sumOf = (weights: Float64Array, values: Float64Array) =>
  weights.reduce((sum, each, i) => sum + each * values[i]!, 0);

function saidBy(lesson: Lesson, before: BelievedSoFar): Said {
  const { likelihood } = lesson;
  return likelihood ? saidByReadings(likelihood, before) : saidByCount(lesson, before);
}

/** By its count and its word: each curve tells of another share of the load at its limit. */
function saidByCount({ reached, word, lastBelow, carbon, sd }: Lesson, { curves, resin }: BelievedSoFar): Said {
  const ofCurve = (later: number, spread: number) =>
    countLikelihood(reached - later, word, spread, lastBelow === undefined ? undefined : lastBelow - later);
  const laters = carbon?.later ?? Float64Array.of(0);
  return {
    overX: (spread) => {
      const sum = new Float64Array(X_POINTS);
      laters.forEach((later, curve) => {
        const here = ofCurve(later, spread);
        for (let i = 0; i < X_POINTS; i += 1) sum[i]! += curves[curve]! * here[i]!;
      });
      return sum;
    },
    overCurves: () => laters.map((later) => sumOf(resin, ofCurve(later, Math.max(sd, LEAST_SD)))),
  };
}

/** The owner's resin is widened already by the scatter between charges: here a count errs by its water alone. */
const LEAST_SD = 0.03;

function saidByReadings(likelihood: Float64Array, { curves, widths, resin }: BelievedSoFar): Said {
  const overX = new Float64Array(X_POINTS);
  const overWidths = new Float64Array(WIDTHS);
  const overCurves = new Float64Array(curves.length);
  for (let lane = 0; lane < curves.length * WIDTHS; lane += 1) {
    const [curve, width] = [Math.floor(lane / WIDTHS), lane % WIDTHS];
    for (let i = 0; i < X_POINTS; i += 1) {
      const here = likelihood[lane * X_POINTS + i]!;
      overX[i]! += curves[curve]! * widths[width]! * here;
      overWidths[width]! += curves[curve]! * resin[i]! * here;
      overCurves[curve]! += widths[width]! * resin[i]! * here;
    }
  }
  return { overX: (spread) => seenThrough(overX, spread), overCurves: () => overCurves, overWidths };
}

/** A belief times a likelihood; a likelihood that rules everything out teaches nothing. */
function learnt(weights: Float64Array, likelihood: Float64Array): Float64Array {
  const product = weights.map((each, i) => each * likelihood[i]!);
  const total = product.reduce((sum, each) => sum + each, 0);
  return total > 0 ? normalized(product) : weights;
}
