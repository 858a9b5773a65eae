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
import { CELLS, forEachRow, weigh, type ChargeScale } from "./weigh";

/** What one ended charge says, kept as its likelihood: the owner's belief is a replay of these, oldest first. */
export interface Lesson {
  readonly chargeId: Id;
  readonly vesselId: Id;
  /** Relative standard deviation of its load. */
  readonly sd: number;
  /** ln of its load as a share of what its grade promised to the limit. */
  readonly reached: number;
  readonly word: "limit" | "early";
  /** ln of the load at its last reading, where that was still below the limit: the limit came between it and the end. */
  readonly lastBelow?: number;
  /** Over (width, x), x running fastest; absent where no reading near its end speaks: its count and its word do. */
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
  };
  const latest = groups[groups.length - 1];
  if (!latest || latest.meq < (1 - LAST_SHARE) * load) {
    const isBelow = latest !== undefined && latest.meq > 0 && latest.ec25 < limitEc25;
    return isBelow ? { ...lesson, lastBelow: Math.log(latest.meq) - scale.logPromised } : lesson;
  }
  return { ...lesson, likelihood: overBypasses(groups, scale) };
}

/** Likelihood over (width, x) with the bypass averaged out by its prior; the largest is 1. */
function overBypasses(groups: readonly ReadingGroup[], scale: ChargeScale): Float64Array {
  const weights = new Float64Array(CELLS);
  forEachRow((_, bypass, from) => weights.fill(BYPASS_PRIOR[bypass]!, from, from + X_POINTS));
  weigh(weights, groups, scale);
  const likelihood = new Float64Array(WIDTHS * X_POINTS);
  forEachRow((width, _, from) => {
    for (let i = 0; i < X_POINTS; i += 1) likelihood[width * X_POINTS + i]! += weights[from + i]!;
  });
  const largest = likelihood.reduce((most, each) => Math.max(most, each), 0);
  return likelihood.map((each) => each / largest);
}

/** What is believed of an owner's resin and of one vessel's front after the charges before. */
export interface OwnerBelief {
  readonly capacity: CapacityWeights;
  readonly widths: WidthWeights;
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
  for (const lesson of lessons) {
    const sd = Math.hypot(CHARGE_SD, lesson.sd);
    const { likelihood } = lesson;
    if (!likelihood) {
      const byCount = (spread: number) => countLikelihood(lesson.reached, lesson.word, spread, lesson.lastBelow);
      capacity = learnt(capacity, usualOrOdd(byCount, lesson.sd));
      continue;
    }
    const overX = new Float64Array(X_POINTS);
    const overWidths = new Float64Array(WIDTHS);
    const resin = widened(capacity, sd);
    for (let width = 0; width < WIDTHS; width += 1) {
      for (let i = 0; i < X_POINTS; i += 1) {
        const here = likelihood[width * X_POINTS + i]!;
        overX[i]! += widths[width]! * here;
        overWidths[width]! += resin[i]! * here;
      }
    }
    capacity = learnt(
      capacity,
      usualOrOdd((spread) => seenThrough(overX, spread), lesson.sd),
    );
    if (lesson.vesselId === vesselId) widths = learnt(widths, widthsSeenThrough(overWidths));
  }
  return { capacity, widths, taught: lessons.length };
}

/** A belief times a likelihood; a likelihood that rules everything out teaches nothing. */
function learnt(weights: Float64Array, likelihood: Float64Array): Float64Array {
  const product = weights.map((each, i) => each * likelihood[i]!);
  const total = product.reduce((sum, each) => sum + each, 0);
  return total > 0 ? normalized(product) : weights;
}
