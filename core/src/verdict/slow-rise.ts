import type { ReadingGroup } from "../belief/groups";
import type { ThreeOf } from "../life/life-range";

/** Readings that rise group after group, slower than a front of usual width. */
export interface SlowRise {
  /** Litres until the stop point, should they go on by the same factor (low) or by the same amount (high); the likely between. */
  readonly litresToHard: ThreeOf<number>;
  /** Growth per litre of the logarithm: 1/L; and of the output: µS/cm per L. */
  readonly factorPerLitre: number;
  readonly amountPerLitre: number;
  /** Where the trend starts from, and what it goes to: µS/cm. */
  readonly latestEc25: number;
  readonly hardEc25: number;
  /** The readings' own trend on to the stop point, by the factor: litres treated and µS/cm. */
  readonly trend: readonly { readonly litres: number; readonly ec25: number }[];
}

const LEAST_GROUPS = 4;
/** A front of usual width takes its output up by this factor a tenth of the charge: planning assumption. */
const FRONT_FACTOR = 3;
const TENTH = 0.1;
const TREND_POINTS = 24;

/**
 * Whether the last four readings rise steadily and slowly, and where their own trend meets the stop point: a straight line
 * through their logarithms, which comes early, and one through themselves, which comes late.
 *
 * @param hardEc25 µS/cm
 * @returns nothing where they don't rise, or rise like a front
 * @example slowRise(groupsReading(3, 4, 6, 9, 12), 40)?.litresToHard // about 410, 610, 890 at 300 L between them
 */
export function slowRise(groups: readonly ReadingGroup[], hardEc25: number): SlowRise | undefined {
  const last = groups.slice(-LEAST_GROUPS);
  const rises = last.every((group, i) => i === 0 || group.ec25 > last[i - 1]!.ec25);
  if (last.length < LEAST_GROUPS || !rises || last[0]!.ec25 <= 0) return undefined;
  const [first, latest] = [last[0]!, last[last.length - 1]!];
  const share = (latest.litres - first.litres) / latest.litres;
  const factorPerLitre = slopeOf(last, (group) => Math.log(group.ec25));
  const amountPerLitre = slopeOf(last, (group) => group.ec25);
  const isFront = latest.ec25 / first.ec25 > FRONT_FACTOR ** (share / TENTH);
  if (isFront || !(factorPerLitre > 0 && amountPerLitre > 0)) return undefined;
  const low = Math.max(0, Math.log(hardEc25 / latest.ec25) / factorPerLitre);
  const high = Math.max(0, (hardEc25 - latest.ec25) / amountPerLitre);
  const step = (latest.litres - first.litres + low) / TREND_POINTS;
  const trend = Array.from({ length: TREND_POINTS + 1 }, (_, i) => {
    const litres = first.litres + i * step;
    return { litres, ec25: latest.ec25 * Math.exp(factorPerLitre * (litres - latest.litres)) };
  });
  return {
    litresToHard: { low, typical: Math.sqrt(low * high), high },
    factorPerLitre,
    amountPerLitre,
    latestEc25: latest.ec25,
    hardEc25,
    trend,
  };
}

/** Least squares over litres. */
function slopeOf(groups: readonly ReadingGroup[], of: (group: ReadingGroup) => number): number {
  const middle = (value: (group: ReadingGroup) => number) =>
    groups.reduce((sum, group) => sum + value(group), 0) / groups.length;
  const litres = middle((group) => group.litres);
  const mean = middle(of);
  const covariance = middle((group) => (group.litres - litres) * (of(group) - mean));
  return covariance / middle((group) => (group.litres - litres) ** 2);
}
