import { lifeFigures, workOutLife, type LifeFigures, type LifeInput } from "./life";
import type { Capacity } from "../resin/capacity";
import { fail, succeed, within, type Result } from "../result";
import { describeWater, type Water } from "../water/water";

/** The pessimistic, the usual and the optimistic of anything. */
export interface ThreeOf<T> {
  readonly low: T;
  readonly typical: T;
  readonly high: T;
}

export interface LifeRangeInput extends Omit<LifeInput, "water" | "capacity"> {
  readonly waters: ThreeOf<Water>;
  /** One of `capacity` and `capacities` is required; `capacities` overrides. */
  readonly capacity?: Capacity;
  readonly capacities?: ThreeOf<Capacity>;
}

function checkOrder(waters: ThreeOf<Water>): Result<true> {
  const loads: number[] = [];
  for (const key of ["low", "typical", "high"] as const) {
    const water = within(`waters.${key}`, describeWater(waters[key]));
    if (!water.ok) return water;
    loads.push(water.value.ec25);
  }
  const [low, typical, high] = loads as [number, number, number];
  if (low <= typical && typical <= high) return succeed(true);
  return fail("range-not-ordered", "The feed's low, typical and high must rise in that order.", "waters");
}

/**
 * Life as a range: the high feed goes with the low capacity, and so on, so the ends are corners, not likely values. Typical
 * is the typical water's own answer; low and high are the least and the greatest of the three, since carbon dioxide need not
 * follow conductivity and the saltiest water may well not be the shortest life.
 *
 * @returns three lives without their curves
 * @example lifeRange({ waters: { low, typical, high }, capacity: { grade: "regenerated" }, bed, limit }) // 1,358 to 2,614 L
 */
export function lifeRange(input: LifeRangeInput): Result<ThreeOf<LifeFigures>> {
  const { waters, capacity, capacities, ...rest } = input;
  const resin = capacities ?? (capacity && { low: capacity, typical: capacity, high: capacity });
  if (resin === undefined)
    return fail("no-capacity", "Say what the resin holds: a grade, a constant, a rating or both sides.", "capacity");
  const ordered = checkOrder(waters);
  if (!ordered.ok) return ordered;
  const figures: LifeFigures[] = [];
  const pairs = [
    [waters.high, resin.low],
    [waters.typical, resin.typical],
    [waters.low, resin.high],
  ] as const;
  for (const [water, held] of pairs) {
    const working = workOutLife({ ...rest, water, capacity: held });
    if (!working.ok) return working;
    const answer = lifeFigures(working.value);
    if (!answer.ok) return answer;
    figures.push(answer.value);
  }
  const typical = figures[1]!;
  const [low, , high] = [...figures].sort((a, b) => a.litres - b.litres) as [LifeFigures, LifeFigures, LifeFigures];
  return succeed({ low, typical, high });
}
