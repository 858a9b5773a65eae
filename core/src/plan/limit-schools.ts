import type { Use } from "../vessel/marks";
import { finite, type Result } from "../result";
import { behind } from "./before";
import { barrelLabour } from "./cost";
import { optionFigures, type PlanQuestion } from "./figures";
import type { OptionSpec } from "./options";

/** Where good practitioners change their resin, ppm on the sodium-chloride scale, or as a share of capacity. */
export interface LimitSchool {
  readonly name: string;
  readonly limit: number;
  /** Changed at this share of its life, whatever the meter says. */
  readonly share?: number;
}

const FOR_GLASS: readonly LimitSchool[] = [
  { name: "Change at 10", limit: 10 },
  { name: "Change at 20", limit: 20 },
  { name: "Go to 30, rinse longer", limit: 30 },
];
export const LIMIT_SCHOOLS: Readonly<Record<Use, readonly LimitSchool[]>> = {
  glass: FOR_GLASS,
  paint: FOR_GLASS,
  aquarium: [
    { name: "Act at 1", limit: 1 },
    { name: "Act at 2", limit: 2 },
    { name: "At nine tenths, whatever the meter says", limit: 1, share: 0.9 },
  ],
};

export interface LimitSchoolAnswer extends LimitSchool {
  /** L that one refill brings. */
  readonly litres: number;
  /** Days between refills in the busiest month. */
  readonly days: number;
  /** Money a year, and what of it doesn't hang on the refills. */
  readonly cost: number;
  readonly besides: number;
  readonly reachable: boolean;
}

/**
 * One option under each school of output limits: what waiting longer brings, in litres, days and money.
 * @example byLimitSchool(spec, question, "glass").value.map(({ litres }) => litres) // 3308, 3378, 3425
 */
export function byLimitSchool(
  spec: OptionSpec,
  question: PlanQuestion,
  use: Use,
): Result<readonly LimitSchoolAnswer[]> {
  const answers: LimitSchoolAnswer[] = [];
  for (const school of LIMIT_SCHOOLS[use]) {
    const figures = optionFigures(spec, { ...question, limit: { value: school.limit, scale: "nacl" } });
    if (!figures.ok) return figures;
    const { litres, daysBusiest, cost } = figures.value;
    const share = school.share ?? 1;
    const { setup, prices, demand } = question;
    const ways = behind(spec.before, question.waters.typical, question.peakFlow, setup);
    const barrels = ways.ok ? barrelLabour(spec, ways.value, setup, prices, demand.year.typical) : 0;
    const besides = cost.water + cost.waste + cost.energy + cost.consumables + cost.purchase + barrels;
    answers.push({
      ...school,
      litres: litres.typical * share,
      days: daysBusiest.typical * share,
      cost: besides + (cost.total - besides) / share,
      besides,
      reachable: litres.typical > 0,
    });
  }
  return finite(answers);
}
