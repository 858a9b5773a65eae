import type { Marks, Use } from "../records/records";
import { scaleFactor } from "../water/meter";

/** What to do now. For an aquarium `finish` means: stop filling. */
export type State = "fine" | "watch" | "finish" | "change";

/** Why; the words are the interface's. */
export type Reason =
  | "no-reading"
  | "below-watch"
  | "above-watch"
  | "above-limit"
  | "above-hard"
  | "odd-reading"
  | "odd-reading-above-hard"
  | "capacity-used"
  | "nearly-used"
  | "short-of-a-job";

export interface Verdict {
  readonly state: State;
  readonly reason: Reason;
  /** Output the verdict rests on, µS/cm: the last reading, or the mean of the last three for an aquarium. */
  readonly outputEc25?: number;
}

export interface VerdictInput {
  readonly use: Use;
  readonly marks: Marks;
  /** Product readings of this charge, µS/cm, oldest first. */
  readonly outputs: readonly number[];
  /** Litres left to the limit: low, typical, high. */
  readonly left: { readonly low: number; readonly typical: number };
  /** Load put on as a share of what ends it. */
  readonly spentShare: number;
  /** Load put on as a share of what the resin should hold by its grade and past charges. */
  readonly capacityShare: number;
  readonly litresPerJob: number;
}

/** A front this far away does not explain a reading above the limit. */
const FRONT_FAR = 0.75;
/** Share of the charge from which a technician keeps an eye on it. */
const NEARLY_USED = 0.9;
const AQUARIUM_READINGS = 3;

function outputOf(use: Use, outputs: readonly number[]): number | undefined {
  if (outputs.length === 0) return undefined;
  const last = use === "aquarium" ? outputs.slice(-AQUARIUM_READINGS) : outputs.slice(-1);
  return last.reduce((sum, each) => sum + each, 0) / last.length;
}

/**
 * Fine, watch, finish or change, by the vessel's own marks. One odd value is not a verdict: above the limit with the front
 * still far and the reading before it clean, the advice is to read again.
 *
 * @example verdict({ use: "glass", marks: MARKS["glass-10"], outputs: [0, 14, 24], ...far }) // finish, above-limit
 */
export function verdict(input: VerdictInput): Verdict {
  const { use, marks, outputs } = input;
  const output = outputOf(use, outputs);
  if (output === undefined) return byCount(input);
  const mark = (ppm: number) => ppm / scaleFactor(marks.scale);
  const answer = (state: State, reason: Reason): Verdict => ({ state, reason, outputEc25: output });
  const odd = isOdd(input, output, mark(marks.watch), mark(marks.limit));
  if (output >= mark(marks.hard)) return answer("change", odd ? "odd-reading-above-hard" : "above-hard");
  if (marks.capacityUsed !== undefined && input.capacityShare >= marks.capacityUsed)
    return answer("change", "capacity-used");
  if (odd) return answer("watch", "odd-reading");
  if (output >= mark(marks.limit)) return answer("finish", "above-limit");
  if (output >= mark(marks.watch)) return answer("watch", "above-watch");
  return { ...byCount(input), outputEc25: output };
}

function isOdd({ outputs, spentShare }: VerdictInput, output: number, watchEc25: number, limitEc25: number): boolean {
  const before = outputs[outputs.length - 2] ?? 0;
  return output >= limitEc25 && before < watchEc25 && spentShare < FRONT_FAR;
}

function byCount({ left, litresPerJob, outputs, spentShare }: VerdictInput): Verdict {
  if (left.low < litresPerJob) return { state: "watch", reason: "short-of-a-job" };
  if (spentShare >= NEARLY_USED) return { state: "watch", reason: "nearly-used" };
  return { state: "fine", reason: outputs.length === 0 ? "no-reading" : "below-watch" };
}
