import { isUnsettled, type ReadingGroup } from "../belief/groups";
import type { Marks } from "../vessel/marks";
import { scaleFactor } from "../water/meter";

/** What to do now. For an aquarium `finish` means: stop filling. */
export type State = "fine" | "watch" | "finish" | "change";

/** Why; the words are in `verdict-words.ts`. */
export type Reason =
  | "no-charge"
  | "above-hard"
  | "above-limit"
  | "odd-reading"
  | "above-watch"
  | "capacity-used"
  | "not-logged"
  | "nearly-used"
  | "lead-spent"
  | "lead-odd"
  | "chlorine"
  | "membrane-climbs";

export interface Verdict {
  readonly state: State;
  /** What asks for it, weightiest first; none when all is fine. */
  readonly reasons: readonly Reason[];
}

export interface VerdictInput {
  readonly marks: Marks;
  /** Of this charge's readings, oldest first. */
  readonly groups: readonly ReadingGroup[];
  /** Share of the belief whose limit, and whose stop point, lies at or below the load used. */
  readonly limitReached: number;
  readonly hardReached: number;
  /** Load used as a share of what the owner's resin holds to the limit. */
  readonly capacityShare: number;
  /** 10 % point of the litres left, with and without what may have gone since the last log. */
  readonly left: { readonly low: number; readonly lowWhenLogged: number };
  /** 2 % point of the litres left: what is there almost surely. */
  readonly leftAlmostSurely: number;
  /** Litres that may well go through before the next reading. */
  readonly pace: number;
}

/** From here the belief is convinced that a mark is passed: a planning assumption. */
export const CONVINCED = 0.8;
/** Groups of readings in a row that convince by themselves, and looks of one group that agree. */
const IN_A_ROW = 3;
const AGREEING = 2;

/** Whether readings convince by themselves that a mark is passed: three running, or the newest looked at again. */
function convince(groups: readonly ReadingGroup[], mark: number): boolean {
  const newest = groups.slice(-IN_A_ROW);
  const isInARow = newest.length === IN_A_ROW && newest.every(({ ec25 }) => ec25 >= mark);
  return isInARow || (groups[groups.length - 1]?.agreeing ?? 0) >= AGREEING;
}

/**
 * Fine, watch, finish or change, by the vessel's own marks. One odd value is not a verdict: above the limit without the
 * belief convinced, the advice is to look again; what a second look contradicts is not softened by it.
 *
 * @example verdict({ marks: MARKS["glass-10"], groups: groupsReading(0, 14, 24), limitReached: 0.97, ...rest }).state // finish
 */
export function verdict(input: VerdictInput): Verdict {
  const { marks, groups, limitReached, hardReached, capacityShare, left, leftAlmostSurely, pace } = input;
  const mark = (value: number) => value / scaleFactor(marks.scale);
  const [watch, limit, hard] = [mark(marks.watch), mark(marks.limit), mark(marks.hard)];
  const newest = groups[groups.length - 1];
  const output = newest?.ec25 ?? 0;
  if (output >= hard && (hardReached >= CONVINCED || convince(groups, hard)))
    return { state: "change", reasons: ["above-hard"] };
  if (output >= limit && (limitReached >= CONVINCED || convince(groups, limit)))
    return { state: "finish", reasons: ["above-limit"] };
  const asks: Partial<Record<Reason, boolean>> = {
    "odd-reading": output >= limit || (newest !== undefined && isUnsettled(newest, limit)),
    "above-watch": output >= watch && output < limit,
    "capacity-used": marks.capacityUsed !== undefined && capacityShare >= marks.capacityUsed,
    "not-logged": left.low <= 0 && left.lowWhenLogged > 0,
    "nearly-used": leftAlmostSurely < pace,
  };
  const reasons = (Object.keys(asks) as Reason[]).filter((reason) => asks[reason]);
  return { state: reasons.length > 0 ? "watch" : "fine", reasons };
}

/** Groups of readings whose distances tell the pace. */
const PACE_OF = 10;
/** A reading is put off: planning assumption. */
const PUT_OFF = 1.5;

/**
 * Litres that may well go through before the next reading: half as much again as usual between the last ten, at least a job.
 *
 * @param litres treated at each group of readings; the first counts from the filling
 * @param dayWithWater mean litres of a day on which water was logged, while nothing is read
 * @example paceOf([300, 600, 900], 300, 40) // 450
 */
export function paceOf(litres: readonly number[], dayWithWater: number | undefined, litresPerJob: number): number {
  const steps = litres.map((at, i) => at - (litres[i - 1] ?? 0)).slice(-PACE_OF);
  const usual =
    steps.length > 0 ? steps.reduce((sum, step) => sum + step, 0) / steps.length : (dayWithWater ?? litresPerJob);
  return Math.max(PUT_OFF * usual, litresPerJob);
}
