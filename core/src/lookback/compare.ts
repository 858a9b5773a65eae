import { checkRanges, RANGES } from "../ranges";
import { finite, within, type Result } from "../result";

/** What decides how many jobs a charge lasts. */
export interface ChargeFigures {
  /** Capacity reached, eq per litre of resin. */
  readonly capacity: number;
  /** L. */
  readonly resin: number;
  /** Mean load of the feed, meq/L. */
  readonly load: number;
  /** L. */
  readonly waterPerJob: number;
}

export interface CompareInput {
  readonly first: ChargeFigures;
  readonly second: ChargeFigures;
}

export type Effects = { readonly [factor in keyof ChargeFigures]: number };

export interface CompareAnswer {
  readonly jobsFirst: number;
  readonly jobsSecond: number;
  /** Jobs that each factor gave or took; they add up to the difference exactly. */
  readonly effects: Effects;
}

const jobsOf = ({ capacity, resin, load, waterPerJob }: ChargeFigures) =>
  (1000 * capacity * resin) / (load * waterPerJob);

/** Logarithmic mean of two positive numbers. @example logarithmicMean(2, 2) // 2 */
export function logarithmicMean(a: number, b: number): number {
  const d = Math.log(a / b);
  return d === 0 ? a : (b * Math.expm1(d)) / d;
}

/** Whether more of a factor gives more jobs, or fewer. */
const DIRECTION: Effects = { capacity: 1, resin: 1, load: -1, waterPerJob: -1 };

/**
 * Why two charges differ, in jobs: logarithmic mean Divisia split (Ang 2004), which leaves no remainder.
 *
 * @returns a fault for a figure that is 0 or less
 * @example compare({ first, second }).effects.load // -3.46 jobs: the feed was harder
 */
export function compare({ first, second }: CompareInput): Result<CompareAnswer> {
  const ranges = {
    capacity: RANGES.capacity,
    resin: RANGES.volume,
    load: RANGES.load,
    waterPerJob: { ...RANGES.litres, above: 0, name: "The water of a job" },
  };
  const checked = within("first", checkRanges(first, ranges));
  if (!checked.ok) return checked;
  const other = within("second", checkRanges(second, ranges));
  if (!other.ok) return other;
  const [jobsFirst, jobsSecond] = [jobsOf(first), jobsOf(second)];
  const weight = logarithmicMean(jobsSecond, jobsFirst);
  const effect = (factor: keyof ChargeFigures) => DIRECTION[factor] * weight * Math.log(second[factor] / first[factor]);
  return finite({
    jobsFirst,
    jobsSecond,
    effects: {
      capacity: effect("capacity"),
      resin: effect("resin"),
      load: effect("load"),
      waterPerJob: effect("waterPerJob"),
    },
  });
}
