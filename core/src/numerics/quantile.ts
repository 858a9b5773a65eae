import { firstFrom } from "./search";

/** The smallest value whose running weight reaches `share` of the whole; `values` ascend. */
export function weightedQuantile(values: ArrayLike<number>, weights: ArrayLike<number>, share: number): number {
  let total = 0;
  for (let i = 0; i < weights.length; i += 1) total += weights[i]!;
  let running = 0;
  for (let i = 0; i < values.length; i += 1) {
    running += weights[i]!;
    if (running >= share * total) return values[i]!;
  }
  return values[values.length - 1]!;
}

/** Nearest-rank quantile of ascending values (Hyndman and Fan 1996, definition 1). @example nearestRank([1, 2, 3], 0.5) // 2 */
export const nearestRank = (ascending: ArrayLike<number>, share: number): number =>
  ascending[Math.min(ascending.length - 1, Math.max(0, Math.ceil(share * ascending.length) - 1))]!;

/** The middle value, of an even number the mean of the two in the middle; 0 of none. @example median([3, 1, 2, 8]) // 2.5 */
export function median(values: readonly number[]): number {
  return values.length === 0 ? 0 : middleOf([...values].sort((a, b) => a - b));
}

function middleOf(ascending: readonly number[]): number {
  const middle = ascending.length >> 1;
  return ascending.length % 2 === 1 ? ascending[middle]! : (ascending[middle - 1]! + ascending[middle]!) / 2;
}

/** The median of numbers that come one by one; 0 before the first. */
export class RunningMedian {
  private readonly ascending: number[] = [];

  get value(): number {
    return this.ascending.length === 0 ? 0 : middleOf(this.ascending);
  }

  add(value: number): void {
    const { ascending } = this;
    ascending.splice(
      firstFrom(ascending.length, (place) => ascending[place]! > value),
      0,
      value,
    );
  }
}

/** Standard normal deviate of the 90th percentile; (high - low) of a 10/90 range is twice this many standard deviations. */
export const NORMAL_90 = 1.2815515655446004;
export const RANGE_10_90_IN_SD = 2 * NORMAL_90;
