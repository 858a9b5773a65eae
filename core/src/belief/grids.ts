import { FRONT_WIDTHS } from "../front/product-curve";
import { logNormalCdf } from "../numerics/normal";
import { RememberedOf } from "../numerics/remembered";

/** Grid over x = ln(q/q_grade): how much better or worse than its grade a resin holds. */
export const X_LOW = -2.4;
export const X_STEP = 0.015;
export const X_POINTS = 241;
export const WIDTHS = FRONT_WIDTHS.length;

/** Shares of the water that may go round the beads: none, and 0.2 to 10 %. */
export const BYPASSES: Float64Array = Float64Array.of(
  0,
  ...Array.from({ length: 16 }, (_, i) => 0.002 * (0.1 / 0.002) ** (i / 15)),
);

/** Weights over the grid of x, which sum to 1. */
export type CapacityWeights = Float64Array;
/** Weights over `FRONT_WIDTHS`, which sum to 1. */
export type WidthWeights = Float64Array;

/** Planning assumptions: spread of ln q between owners, and between the charges of one; the front's usual width. */
export const OWNER_SD = 0.25;
export const CHARGE_SD = 0.12;
const WIDTH_MEDIAN = 0.05;
const WIDTH_SD = 0.7;
/** Nothing goes round the beads of most vessels: a planning assumption. */
const TIGHT = 0.8;

export const xAt = (point: number) => X_LOW + X_STEP * point;

export function normalized(weights: Float64Array): Float64Array {
  let total = 0;
  for (const each of weights) total += each;
  return weights.map((each) => each / total);
}

const normal = (z: number) => Math.exp(-0.5 * z * z);

/** What is believed of an owner's resin before any charge: its grade, give or take. */
export const ownerPrior = (): CapacityWeights =>
  normalized(Float64Array.from({ length: X_POINTS }, (_, i) => normal(xAt(i) / OWNER_SD)));

/** What is believed of a vessel's front before any charge. */
export const widthPrior = (): WidthWeights =>
  normalized(FRONT_WIDTHS.map((width) => normal(Math.log(width / WIDTH_MEDIAN) / WIDTH_SD)));

/** What is believed of the water round the beads before any reading. */
export const BYPASS_PRIOR: Float64Array = BYPASSES.map((_, i) =>
  i === 0 ? TIGHT : (1 - TIGHT) / (BYPASSES.length - 1),
);

function kernel(sd: number): Float64Array {
  const reach = Math.ceil((5 * sd) / X_STEP);
  return normalized(Float64Array.from({ length: 2 * reach + 1 }, (_, k) => normal(((k - reach) * X_STEP) / sd)));
}

/** Values over x averaged over a normal spread; beyond the grid's ends they go on level, or are nothing. */
function blurred(values: Float64Array, sd: number, beyond: "level" | "nothing"): Float64Array {
  const weights = kernel(sd);
  const reach = (weights.length - 1) / 2;
  const points = values.length;
  const padded = new Float64Array(points + 2 * reach);
  padded.set(values, reach);
  if (beyond === "level") {
    padded.fill(values[0]!, 0, reach);
    padded.fill(values[points - 1]!, reach + points);
  }
  const spread = new Float64Array(points);
  for (let i = 0; i < points; i += 1) {
    let sum = 0;
    for (let k = 0; k < weights.length; k += 1) sum += weights[k]! * padded[i + k]!;
    spread[i] = sum;
  }
  return spread;
}

/** A belief widened by a scatter of ln q. */
export const widened = (weights: CapacityWeights, sd: number): CapacityWeights =>
  normalized(blurred(weights, sd, "nothing"));

/** A likelihood over x, as it speaks through a scatter of ln q. */
export const seenThrough = (likelihood: Float64Array, sd: number): Float64Array => blurred(likelihood, sd, "level");

/** Scatter of ln w between the charges of one vessel. */
const WIDTH_SCATTER = 0.25;

/** A likelihood over the widths, as it speaks through the scatter between charges; each row of the spread sums to 1. */
export const widthsSeenThrough = (likelihood: Float64Array): Float64Array =>
  likelihood.map((_, row) => {
    const weights = normalized(
      FRONT_WIDTHS.map((width) => normal(Math.log(width / FRONT_WIDTHS[row]!) / WIDTH_SCATTER)),
    );
    return weights.reduce((sum, weight, i) => sum + weight * likelihood[i]!, 0);
  });

/**
 * Likelihood over x of a charge by its count alone: reached its limit there, or was changed before it.
 *
 * @param lastBelow ln load at which a reading was still below the limit: it was reached somewhere between (interval-censored)
 */
export const countLikelihood = (
  reached: number,
  word: "limit" | "early",
  sd: number,
  lastBelow?: number,
): Float64Array =>
  Float64Array.from({ length: X_POINTS }, (_, i) => {
    const z = (xAt(i) - reached) / sd;
    if (word === "early") return Math.exp(logNormalCdf(z));
    if (lastBelow === undefined || lastBelow >= reached) return normal(z) / sd;
    // By its width, so that a narrow interval and a point say the same.
    const within = Math.exp(logNormalCdf(-z)) - Math.exp(logNormalCdf((lastBelow - xAt(i)) / sd));
    return (Math.sqrt(2 * Math.PI) * Math.max(0, within)) / (reached - lastBelow);
  });

/** Most charges are like their owner's others, one in seven is off: planning assumptions. */
const USUAL_SHARE = 0.85;
const ODD_CHARGE_SD = 0.3;
/** Dead beads or a channel: no load is too small for readings to convince. */
const DEAD_SHARE = 0.005;

/** A likelihood of one charge as it speaks of its owner: most are like the others, one in seven is off. */
export function usualOrOdd(through: (sd: number) => Float64Array, loadSd: number): Float64Array {
  const odd = through(Math.hypot(ODD_CHARGE_SD, loadSd));
  return through(Math.hypot(CHARGE_SD, loadSd)).map((each, i) => USUAL_SHARE * each + (1 - USUAL_SHARE) * odd[i]!);
}

const MOST_PRIORS = 20;
const priors = new RememberedOf<CapacityWeights, CapacityWeights>(MOST_PRIORS);

/** What is believed of the next charge: its owner's resin with the scatter of one charge, and a chance that it is dead. */
export const chargePrior = (owner: CapacityWeights, loadSd: number): CapacityWeights =>
  priors.about(owner).of(String(loadSd), () => freshPrior(owner, loadSd));

function freshPrior(owner: CapacityWeights, loadSd: number): CapacityWeights {
  const usual = widened(owner, Math.hypot(CHARGE_SD, loadSd));
  const odd = widened(owner, Math.hypot(ODD_CHARGE_SD, loadSd));
  // Even in e^x from 0 to 1.
  const dead = normalized(Float64Array.from({ length: X_POINTS }, (_, i) => (xAt(i) <= 0 ? Math.exp(xAt(i)) : 0)));
  return usual.map(
    (each, i) => (1 - DEAD_SHARE) * (USUAL_SHARE * each + (1 - USUAL_SHARE) * odd[i]!) + DEAD_SHARE * dead[i]!,
  );
}

/** Value of x below which a share of the belief lies, each point's weight spread evenly over its step. */
export function xQuantile(weights: CapacityWeights, share: number): number {
  let below = 0;
  for (let i = 0; i < weights.length; i += 1) {
    const next = below + weights[i]!;
    if (next >= share && weights[i]! > 0) return xAt(i) + X_STEP * ((share - below) / weights[i]! - 0.5);
    below = next;
  }
  return xAt(weights.length - 1) + X_STEP / 2;
}
