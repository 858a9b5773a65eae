import type { ThreeOf } from "../life/life-range";
import { visibleLoad } from "../water/water";
import type { Standing } from "./standing";

/** What reaches the resin and no meter shows, meq/L. */
export interface UnseenLoad {
  readonly co2: number;
  readonly silica: number;
}

/** The unseen load behind a membrane: carbon dioxide passes unhindered, silica like salt. */
export const unseenBehindMembrane = ({ co2, silica }: UnseenLoad, rejection: number): UnseenLoad => ({
  co2,
  silica: silica * (1 - rejection),
});

/** Share of the anion beads that what a meter shows takes; the rest goes to what it doesn't. */
export function visibleShare(ec25: number, { co2, silica }: UnseenLoad): number {
  const visible = visibleLoad(ec25);
  return visible / (visible + co2 + silica);
}

/**
 * Litres until anything leaks, of a charge whose litres to the limit are known: own capacity is learnt on what a meter
 * shows, so the first leak comes earlier by the ratio of the loads.
 *
 * @example leakLeft(standing, { co2: 0.5, silica: 0.12 }) // fewer litres than standing.left
 */
export function leakLeft(standing: Standing, unseen: UnseenLoad): ThreeOf<number> {
  const share = visibleShare(standing.feed.typical, unseen);
  const treated = standing.used.litres;
  const until = (left: number) => Math.max(0, (treated + left) * share - treated);
  const { low, typical, high } = standing.left;
  return { low: until(low), typical: until(typical), high: until(high) };
}
