import { describeBed, USUAL_BED_VOLUMES } from "../bed/bed";
import { given, planningAssumption, type Explanation } from "../explain/explanation";
import { GRADE_HEALTH, type Grade } from "../resin/capacity";

/** What a tool asks of tap and bed. */
export interface Feeding {
  /** L/min that the tool wants. */
  readonly wanted: number;
  /** L/min that the tap gives when it is open. */
  readonly tap: number;
  /** L of resin, and mm across. */
  readonly resin: number;
  readonly diameter: number;
  readonly grade: Grade;
}

/** Whether tap and bed can feed a tool, and what is the matter where not. */
export interface FeedingAnswer {
  readonly state: "fits" | "tap-short" | "bed-short";
  /** L/min at which the bed still works as beds usually do. */
  readonly bedTakes: number;
  /** kPa that the beads take at the tool's flow. */
  readonly pressureLoss: number;
  /** Of what the bed takes, L/min. */
  readonly explanation: Explanation;
}

/** What an open garden tap gives, L/min: a planning assumption, a bucket and a watch tell. */
export const OPEN_TAP = 12;
/** What a pressure washer wants, L/min: a planning assumption; its plate says it. */
export const WASHER = 7;

/**
 * A pressure washer draws its flow whatever stands before it: a tap that gives less starves its pump, a bed that is too small
 * for it lets ions through.
 *
 * @example feeding({ wanted: 7, tap: 12, resin: 6.4, diameter: 152, grade: "virgin" })?.state // "bed-short": it takes 4.3
 */
export function feeding({ wanted, tap, resin, diameter, grade }: Feeding): FeedingAnswer | undefined {
  const bed = describeBed({ volume: resin, diameter, flow: wanted, health: GRADE_HEALTH[grade] });
  if (!bed.ok) return undefined;
  const bedTakes = (USUAL_BED_VOLUMES.high * resin) / 60;
  const state = wanted > tap ? "tap-short" : wanted > bedTakes ? "bed-short" : "fits";
  const explanation: Explanation = {
    name: "What these beads keep up with",
    value: bedTakes,
    unit: "L/min",
    formula: "b × V / 60",
    words: "as many bed volumes an hour as beds usually work at, of this bed",
    inputs: [
      planningAssumption("b", "Bed volumes an hour at most", USUAL_BED_VOLUMES.high, "per h"),
      given("V", "Resin in the vessel", resin, "L", "its inside and its usual fill"),
    ],
    school: "trade practice",
    source: "planning assumption",
  };
  return { state, bedTakes, pressureLoss: bed.value.pressureLoss, explanation };
}
