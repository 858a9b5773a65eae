import { fail, finite, type Result } from "../result";
import type { Water } from "../water/water";
import { barrelLabour, NO_COST, yearlyCost, type YearlyCost } from "./cost";
import { optionLife, type PlanQuestion } from "./figures";
import type { OptionSpec } from "./options";
import { litresStanding } from "./standing-in-use";

/** One option at work for a year, with something about it changed. */
export interface ScenarioAnswer {
  readonly spec: OptionSpec;
  /** L a year, and L that one refill brings. */
  readonly litresPerYear: number;
  readonly litresPerCharge: number;
  readonly refills: number;
  readonly cost: YearlyCost;
  /** Money a year of the labour of barrels, a part of the labour. */
  readonly barrels: number;
}

/** The same water as low, typical and high, for what is asked of one feed. */
export const oneWater = (water: Water) => ({ low: water, typical: water, high: water });

/**
 * Litres and money of one option for the typical feed, when a year takes so many litres.
 *
 * @returns a fault when the option can't do the work: nothing comes, or the limit is out of reach
 */
export function scenario(
  spec: OptionSpec,
  question: PlanQuestion,
  litresPerYear: number = question.demand.year.typical,
): Result<ScenarioAnswer> {
  const life = optionLife(spec, { ...question, waters: oneWater(question.waters.typical) });
  if (!life.ok) return life;
  const { ways } = life.value;
  const fresh = (spec.train === "lead-lag" ? life.value.lead : life.value.alone)[question.until].typical;
  const litres = litresStanding(fresh, litresPerYear);
  if (!ways || litres <= 0)
    return fail("unreachable", life.value.impossible ?? life.value.typical?.reason ?? "The limit is out of reach.");
  const { prices, setup, peakFlow } = question;
  const cost = litresPerYear > 0 ? yearlyCost({ spec, ways, prices, setup, peakFlow }, litresPerYear, litres) : NO_COST;
  const barrels = barrelLabour(spec, ways, setup, prices, litresPerYear);
  return finite({ spec, litresPerYear, litresPerCharge: litres, refills: litresPerYear / litres, cost, barrels });
}
