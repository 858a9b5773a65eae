import { isUnsettled, type ReadingGroup } from "../belief/groups";
import type { ThreeOf } from "../life/life-range";
import { normalQuantile } from "../numerics/normal";
import { RANGE_10_90_IN_SD } from "../numerics/quantile";
import { BELOW_A_STEP } from "../water/meter";

/** Readings that rise group after group, beyond what the curve foretold: their own trend then speaks. */
export interface SlowRise {
  /** The last of them: litres treated, meq, and output as a share of the feed. */
  readonly litres: number;
  readonly meq: number;
  readonly share: number;
  /** Growth per meq of the logarithm of that share, and of the share itself. */
  readonly factorPerMeq: number;
  readonly amountPerMeq: number;
  /** Litres treated at the first of the four. */
  readonly from: number;
}

/** Where a trend meets a mark. */
export interface TrendToMark {
  readonly rise: SlowRise;
  /** µS/cm of the mark, and of the feed to come. */
  readonly markEc25: number;
  readonly feedEc25: number;
  /** Litres from the last reading, should it go on by the same factor (low) or by the same amount (high); their geometric mean. */
  readonly litres: ThreeOf<number>;
  /** Litres treated since that reading. */
  readonly since: number;
}

const GROUPS = 4;
/** So far above what the earlier ones foretold. */
const ABOVE_FORETOLD = 1.4;

const shareOf = ({ ec25, feedEc25, ppm }: ReadingGroup) => Math.max(ec25, BELOW_A_STEP * ppm) / feedEc25;

/**
 * Whether the last four groups rise, each at least a step of the meter, and the last stands well above what the curve
 * foretold from the earlier ones: a rise that the curve does not make.
 *
 * @param limitEc25 µS/cm
 * @param foretold µS/cm that the belief of the earlier groups expects at the last
 * @returns nothing where they don't rise, one of them is to be looked at again, or the curve makes the rise
 */
export function slowRise(
  groups: readonly ReadingGroup[],
  limitEc25: number,
  foretold: (earlier: readonly ReadingGroup[], last: ReadingGroup) => number,
): SlowRise | undefined {
  const four = groups.slice(-GROUPS);
  const latest = four[GROUPS - 1];
  const isRise = four.every((group, i) => i === 0 || group.ec25 - four[i - 1]!.ec25 >= group.ppm * (1 - 1e-9));
  if (!latest || !isRise) return undefined;
  if (four.some((group) => group.looks.length > 1 && isUnsettled(group, limitEc25))) return undefined;
  const factorPerMeq = slopeOf(four, (group) => Math.log(shareOf(group)));
  const amountPerMeq = slopeOf(four, shareOf);
  if (!(factorPerMeq > 0 && amountPerMeq > 0)) return undefined;
  if (latest.ec25 <= ABOVE_FORETOLD * foretold(groups.slice(0, -1), latest)) return undefined;
  const { litres, meq } = latest;
  return { litres, meq, share: shareOf(latest), factorPerMeq, amountPerMeq, from: four[0]!.litres };
}

/** Least squares over the load. */
function slopeOf(groups: readonly ReadingGroup[], of: (group: ReadingGroup) => number): number {
  const middle = (value: (group: ReadingGroup) => number) =>
    groups.reduce((sum, group) => sum + value(group), 0) / groups.length;
  const meq = middle((group) => group.meq);
  const mean = middle(of);
  const covariance = middle((group) => (group.meq - meq) * (of(group) - mean));
  return covariance / middle((group) => (group.meq - meq) ** 2);
}

/**
 * Where a rise meets a mark, run on from the last reading.
 *
 * @param treated litres by now
 * @example trendTo(riseOf(2, 3, 4.5, 7 at 250 L each), 16, 320, 1000).litres // 80, 110, 152 L to a limit of 8 ppm
 */
export function trendTo(rise: SlowRise, markEc25: number, feedEc25: number, treated: number): TrendToMark {
  const mark = markEc25 / feedEc25;
  const perMeq = 100 / feedEc25;
  const low = (Math.max(0, Math.log(mark / rise.share)) / rise.factorPerMeq) * perMeq;
  const high = (Math.max(0, mark - rise.share) / rise.amountPerMeq) * perMeq;
  const litres = { low, typical: Math.sqrt(low * high), high };
  return { rise, markEc25, feedEc25, litres, since: treated - rise.litres };
}

/**
 * Litres left now below which a share of the trend's futures lies: a lognormal through its three figures.
 * @param gone litres that may have gone since the last log
 */
export function trendLeft({ litres: { low, typical, high }, since }: TrendToMark, share: number, gone = 0): number {
  const sd = low > 0 ? Math.log(high / low) / RANGE_10_90_IN_SD : 0;
  return Math.max(0, typical * Math.exp(sd * normalQuantile(share)) - since - gone);
}

const TREND_POINTS = 24;

/** The trend drawn to its mark, by the factor: litres treated and µS/cm. */
export function trendPoints({
  rise,
  feedEc25,
  litres,
}: TrendToMark): readonly { readonly litres: number; readonly ec25: number }[] {
  const step = (rise.litres - rise.from + litres.low) / TREND_POINTS;
  return Array.from({ length: TREND_POINTS + 1 }, (_, i) => {
    const at = rise.from + i * step;
    const meq = ((at - rise.litres) * feedEc25) / 100;
    return { litres: at, ec25: rise.share * feedEc25 * Math.exp(rise.factorPerMeq * meq) };
  });
}
