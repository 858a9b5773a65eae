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
  | "lead-spent";

export interface Verdict {
  readonly state: State;
  /** What asks for it, weightiest first; none when all is fine. */
  readonly reasons: readonly Reason[];
}

export interface VerdictInput {
  readonly marks: Marks;
  /** Output of each group of readings of this charge, µS/cm, oldest first. */
  readonly outputs: readonly number[];
  /** Whether the readings have risen steadily, visit after visit. */
  readonly isRising: boolean;
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
const CONVINCED = 0.8;
/** Groups of readings in a row that convince by themselves. */
const IN_A_ROW = 3;

const isInARow = (outputs: readonly number[], mark: number) =>
  outputs.length >= IN_A_ROW && outputs.slice(-IN_A_ROW).every((output) => output >= mark);

/**
 * Fine, watch, finish or change, by the vessel's own marks. One odd value is not a verdict: above the limit without the
 * belief convinced, the advice is to read again.
 *
 * @example verdict({ marks: MARKS["glass-10"], outputs: [0, 14, 24], limitReached: 0.97, ...rest }).state // finish
 */
export function verdict(input: VerdictInput): Verdict {
  const { marks, outputs, isRising, limitReached, hardReached, capacityShare, left, leftAlmostSurely, pace } = input;
  const mark = (value: number) => value / scaleFactor(marks.scale);
  const [watch, limit, hard] = [mark(marks.watch), mark(marks.limit), mark(marks.hard)];
  const output = outputs[outputs.length - 1] ?? 0;
  if (output >= hard && (hardReached >= CONVINCED || isInARow(outputs, hard)))
    return { state: "change", reasons: ["above-hard"] };
  const isSteady = isRising && outputs[outputs.length - 2]! >= watch;
  if (output >= limit && (limitReached >= CONVINCED || isInARow(outputs, limit) || isSteady))
    return { state: "finish", reasons: ["above-limit"] };
  const asks: Partial<Record<Reason, boolean>> = {
    "odd-reading": output >= limit,
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
