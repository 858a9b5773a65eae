import type { ReadingGroup } from "../belief/groups";

/** Readings that rise group after group, slower than a front of usual width. */
export interface SlowRise {
  /** Litres until the hard mark, should they go on rising as they do. */
  readonly litresToHard: number;
}

const LEAST_GROUPS = 4;
/** A front of usual width takes its output up by this factor a tenth of the charge: planning assumption. */
const FRONT_FACTOR = 3;
const TENTH = 0.1;

/**
 * Whether the last four readings rise steadily and slowly, and where their own trend meets the hard mark: a straight line
 * through their logarithms.
 *
 * @param hardEc25 µS/cm
 * @returns nothing where they don't rise, or rise like a front
 * @example slowRise(groupsReading(3, 4, 6, 9, 12), 40)?.litresToHard // about 400 at 300 L between them
 */
export function slowRise(groups: readonly ReadingGroup[], hardEc25: number): SlowRise | undefined {
  const last = groups.slice(-LEAST_GROUPS);
  const rises = last.every((group, i) => i === 0 || group.ec25 > last[i - 1]!.ec25);
  if (last.length < LEAST_GROUPS || !rises || last[0]!.ec25 <= 0) return undefined;
  const [first, latest] = [last[0]!, last[last.length - 1]!];
  const middle = (of: (group: ReadingGroup) => number) => last.reduce((sum, group) => sum + of(group), 0) / last.length;
  const litres = middle((group) => group.litres);
  const log = middle((group) => Math.log(group.ec25));
  const covariance = middle((group) => (group.litres - litres) * (Math.log(group.ec25) - log));
  const slope = covariance / middle((group) => (group.litres - litres) ** 2);
  const share = (latest.litres - first.litres) / latest.litres;
  const isFront = latest.ec25 / first.ec25 > FRONT_FACTOR ** (share / TENTH);
  if (isFront || !(slope > 0)) return undefined;
  return { litresToHard: Math.max(0, Math.log(hardEc25 / latest.ec25) / slope) };
}
