import { normalized, X_LOW, X_POINTS, X_STEP, xAt, type CapacityWeights } from "./grids";

/**
 * What had gone through a charge before anybody counted, as a share of what its resin promises to the limit: give or take
 * `sd` of its logarithm, or anything from nothing to all that it held.
 */
export type UsedBefore = { readonly share: number; readonly sd: number } | "unknown";

/** Places that stand for what nobody knows: even ones, or of a normal from -3 to 3 standard deviations. */
const PLACES = 61;
const evenAt = (k: number) => (k + 0.5) / PLACES;
const deviateAt = (k: number) => 6 * (evenAt(k) - 0.5);
const NORMAL = normalized(Float64Array.from({ length: PLACES }, (_, k) => Math.exp(-0.5 * deviateAt(k) ** 2)));

/** What a charge that holds `e^x` has left after some use, as a point of the grid between two; at its foot where nothing is. */
const positionOf = (left: number) =>
  Math.max(0, Math.min(X_POINTS - 1.001, (Math.log(Math.max(left, 1e-9)) - X_LOW) / X_STEP));

/**
 * Belief in what a part-used charge still holds up to the limit, over the same grid: wide, and so soon moved by readings.
 *
 * @param prior of a charge of this owner when it is fresh
 * @example leftOfPartUsed(prior, { share: 0.5, sd: 0.35 }) // its median lies at about half of the prior's
 */
export function leftOfPartUsed(prior: CapacityWeights, before: UsedBefore): CapacityWeights {
  const left = new Float64Array(X_POINTS);
  for (let i = 0; i < X_POINTS; i += 1) {
    const holds = Math.exp(xAt(i));
    for (let k = 0; k < PLACES; k += 1) {
      const gone = before === "unknown" ? holds * evenAt(k) : before.share * Math.exp(before.sd * deviateAt(k));
      const position = positionOf(holds - gone);
      const point = Math.floor(position);
      const weight = prior[i]! * (before === "unknown" ? 1 / PLACES : NORMAL[k]!);
      left[point]! += weight * (1 - (position - point));
      left[point + 1]! += weight * (position - point);
    }
  }
  return left;
}
