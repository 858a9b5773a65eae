import type { ThreeOf } from "../life/life-range";
import { WEEKS_A_YEAR, type Demand } from "./demand";
import type { OptionFigures } from "./figures";

/** What a kept plan expects, as it was worked out when it was kept. */
export type PlanFigures = Pick<
  OptionFigures,
  | "litres"
  | "resinLitres"
  | "daysBusiest"
  | "daysQuietest"
  | "flow"
  | "contactSeconds"
  | "bedVolumesPerHour"
  | "pressureLoss"
  | "weight"
  | "purchase"
  | "refillsPerYear"
  | "minutesPerYear"
  | "wastePerYear"
  | "cost"
  | "costRange"
  | "per1000Litres"
  | "perJob"
> & {
  /** L a week and a year. */
  readonly week: ThreeOf<number>;
  readonly year: ThreeOf<number>;
};

/** An option's figures as a plan keeps them. */
export function planFigures(option: OptionFigures, demand: Demand): PlanFigures {
  const { litres, resinLitres, daysBusiest, daysQuietest, flow, contactSeconds, bedVolumesPerHour } = option;
  const { pressureLoss, weight, purchase, refillsPerYear, minutesPerYear, wastePerYear } = option;
  const { cost, costRange, per1000Litres, perJob } = option;
  return {
    ...{ litres, resinLitres, daysBusiest, daysQuietest, flow, contactSeconds, bedVolumesPerHour },
    ...{ pressureLoss, weight, purchase, refillsPerYear, minutesPerYear, wastePerYear },
    ...{ cost, costRange, per1000Litres },
    ...(perJob === undefined ? {} : { perJob }),
    week: demand.week,
    year: demand.year,
  };
}

/** What the log says since the plan is in use. */
export interface PlanActual {
  readonly weeks: number;
  /** L since then. */
  readonly litres: number;
  /** L of each charge that ended at its limit since then. */
  readonly charges: readonly number[];
  /** L that the charge in use has given. */
  readonly chargeSoFar: number;
}

export interface OutcomeLine {
  readonly what: "week" | "charge" | "refills" | "cost";
  readonly planned: ThreeOf<number>;
  readonly actual: number;
  readonly state: "as-planned" | "above" | "below";
}

/** Weeks before anything can be said. */
const LEAST_WEEKS = 1;

function lineOf(what: OutcomeLine["what"], planned: ThreeOf<number>, actual: number): OutcomeLine {
  const state = actual > planned.high ? "above" : actual < planned.low ? "below" : "as-planned";
  return { what, planned, actual, state };
}

/** Money a year when so many litres and refills are needed in place of those planned. */
function costAt({ cost, year, refillsPerYear }: PlanFigures, litresPerYear: number, refills: number): number {
  const { resin, delivery, labour, water, waste, energy, consumables, purchase } = cost;
  const perRefill = refillsPerYear > 0 ? (resin + delivery + labour) / refillsPerYear : 0;
  return perRefill * refills + ((water + waste + energy) * litresPerYear) / year.typical + consumables + purchase;
}

/**
 * A plan held against what really happened. Litres of a charge come from charges that ended at their limit; a charge in use
 * speaks only once it has given more than the plan said.
 *
 * @returns nothing in the first week
 * @example planOutcome(expected, { weeks: 10, litres: 12_500, charges: [3150], chargeSoFar: 700 })[0].state // "as-planned"
 */
export function planOutcome(expected: PlanFigures, actual: PlanActual): readonly OutcomeLine[] {
  if (actual.weeks < LEAST_WEEKS) return [];
  const perWeek = actual.litres / actual.weeks;
  const lines = [lineOf("week", expected.week, perWeek)];
  const mean = actual.charges.reduce((sum, each) => sum + each, 0) / actual.charges.length;
  const charge = actual.charges.length > 0 ? mean : undefined;
  const known = charge ?? (actual.chargeSoFar > expected.litres.high ? actual.chargeSoFar : undefined);
  if (known === undefined) return lines;
  lines.push(lineOf("charge", expected.litres, known));
  const litresPerYear = perWeek * WEEKS_A_YEAR;
  const refills = litresPerYear / known;
  const { year, litres, costRange, cost } = expected;
  const planned = {
    low: year.low / litres.high,
    typical: expected.refillsPerYear,
    high: year.high / litres.low,
  };
  lines.push(lineOf("refills", planned, refills));
  const money: ThreeOf<number> = { low: costRange.low, typical: cost.total, high: costRange.high };
  return [...lines, lineOf("cost", money, costAt(expected, litresPerYear, refills))];
}
