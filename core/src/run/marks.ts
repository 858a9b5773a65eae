import { markAtThroughput, type ChargeBelief, type LeftQuestion, type Mark } from "../belief/charge-belief";
import { LOADS } from "../front/product-curve";
import { inPlace, type Event, type InPlace, type PlainBed } from "./in-place";
import type { Ahead } from "./in-series";

/** The first leak of each curve of a charge; nothing where one of them has none, as where the composition is not known. */
export function leakMarkOf(belief: ChargeBelief): Mark | undefined {
  const leaks = belief.scale.curves.flatMap(({ leak }) => (leak ? [leak.throughput] : []));
  return leaks.length === belief.scale.curves.length ? markAtThroughput(leaks, belief) : undefined;
}

/**
 * Loads of a bed that stood behind others as one, beside what a mark takes of each: the first that is full ends it.
 * @param weights of the curves; they sum to 1
 */
export const loadTogether = (
  loads: NonNullable<LeftQuestion["loads"]>,
  held: InPlace,
  weights: ArrayLike<number>,
): number =>
  held.reduce(
    (sum, share, curve) => sum + weights[curve]! * Math.max(...LOADS.map((of) => loads[of][curve]! / share[of])),
    0,
  );

/**
 * A mark in the bed's place: behind others, or with what it took there, it is followed load by load.
 * @param loads what it took behind others
 */
export function markInPlace(
  mark: Mark,
  { scale }: ChargeBelief,
  plain: PlainBed,
  ahead: Ahead,
  event: Event,
  loads?: LeftQuestion["loads"],
): Mark {
  if ((ahead.length === 0 && !loads) || scale.curves !== plain.curves) return mark;
  const before = ahead.map((unit) => unit.flatMap((each) => (each.plain ? [each.plain] : [])));
  if (before.some((unit, u) => unit.length < ahead[u]!.length)) return mark;
  const placed = inPlace(plain, before, event);
  return placed ? { ...mark, loads: placed } : mark;
}
