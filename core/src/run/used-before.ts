import type { UsedBefore } from "../belief/part-used";
import type { Charge } from "../resin/charge.record";

/** Standard deviation of the logarithm of what had gone through before, by how it is known: planning assumptions. */
const BY_JOBS_SD = 0.35;
const BY_WEEKS_SD = 0.5;
/** Where nobody knows, half is taken for gone in what is drawn and said. */
const UNKNOWN_SHARE = 0.5;

/** What had gone through a charge before it was counted. */
export interface Before {
  /** Its middle, meq and L; 0 of a fresh charge. */
  readonly meq: number;
  readonly litres: number;
  /** As the belief takes it; absent of a fresh charge. */
  readonly used?: UsedBefore;
}

interface Usual {
  readonly litresPerJob: number;
  /** L of a usual week. */
  readonly week: number;
  /** Feed at the resin, µS/cm. */
  readonly feedEc25: number;
  /** meq to the limit, as the grade promises it. */
  readonly promised: number;
}

/**
 * What had gone through a charge that was taken over part-used, from what was said of it.
 * @example usedBefore({ by: "jobs", jobs: 10 }, { litresPerJob: 60, week: 800, feedEc25: 320, promised: 6000 }).meq // 1920
 */
export function usedBefore(partUsed: Charge["partUsed"], { litresPerJob, week, feedEc25, promised }: Usual): Before {
  if (!partUsed) return { meq: 0, litres: 0 };
  const asLitres = (meq: number) => (meq * 100) / feedEc25;
  if (partUsed.by === "unknown")
    return { meq: UNKNOWN_SHARE * promised, litres: asLitres(UNKNOWN_SHARE * promised), used: "unknown" };
  const litres = partUsed.by === "jobs" ? partUsed.jobs * litresPerJob : partUsed.weeks * week;
  const meq = (litres * feedEc25) / 100;
  const sd = partUsed.by === "jobs" ? BY_JOBS_SD : BY_WEEKS_SD;
  return { meq, litres, used: { share: meq / promised, sd } };
}
