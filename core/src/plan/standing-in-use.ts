import { risingRoot } from "../numerics/root";
import { MONTHLY_STANDING_LOSS } from "../resin/storage";

/** Months that a charge stands in its vessel before standing itself counts. */
const COUNTS_AFTER = 12;

/**
 * Litres of a charge that lasts so long that it loses capacity by standing: what is left is `(1 - d)^(m - 12)` of it, with
 * `m` the months that it then lasts. Within a year nothing is taken off.
 *
 * @param litres of a charge used at once
 * @param litresPerYear that are drawn
 * @example litresStanding(30_000, 10_000) // 27,072: lasts 32.5 months in place of 36
 */
export function litresStanding(litres: number, litresPerYear: number): number {
  const perMonth = litresPerYear / 12;
  if (!(perMonth > 0) || litres <= COUNTS_AFTER * perMonth) return litres;
  const lost = (used: number) => (1 - MONTHLY_STANDING_LOSS) ** (used / perMonth - COUNTS_AFTER);
  return risingRoot((used) => used - litres * lost(used), COUNTS_AFTER * perMonth, litres);
}
