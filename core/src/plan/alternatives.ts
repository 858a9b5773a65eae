import { checkRanges, RANGES } from "../ranges";
import { finite, type Result } from "../result";
import type { Demand } from "./demand";

/** What doing without one's own pure water would take. */
export interface WithoutInput {
  /** Money for a litre of bought pure water. */
  readonly pricePerLitre: number;
  /** L carried home in one trip, and the minutes it takes. */
  readonly litresPerTrip: number;
  readonly minutesPerTrip: number;
  /** Minutes a job of wiping dry, or of coming again, when there is no pure water. */
  readonly minutesPerJob: number;
  /** Money an hour. */
  readonly wage: number;
}

/** Planning assumptions. */
export const WITHOUT_ASSUMPTIONS: Omit<WithoutInput, "wage"> = {
  pricePerLitre: 0.25,
  litresPerTrip: 80,
  minutesPerTrip: 35,
  minutesPerJob: 12,
};

export interface WithoutAnswer {
  /** Money a year of bought water, and of the trips. */
  readonly bought: number;
  readonly trips: number;
  readonly tripsPerYear: number;
  /** Money a year of wiping or coming again; absent when the demand counts no jobs. */
  readonly wiping?: number;
}

/**
 * Carrying bought water home, and doing nothing, in money a year: what any vessel has to beat.
 * @example withoutOwnWater(demand, { ...WITHOUT_ASSUMPTIONS, wage: 30 }) // 1,200 L a week: 15,600 bought, 780 trips
 */
export function withoutOwnWater(demand: Demand, input: WithoutInput): Result<WithoutAnswer> {
  const checked = checkRanges(input, {
    pricePerLitre: RANGES.price,
    litresPerTrip: { ...RANGES.litres, above: 0, name: "The water of a trip" },
    minutesPerTrip: { name: "The minutes of a trip", unit: "min", from: 0, to: 10_000 },
    minutesPerJob: { name: "The minutes of wiping", unit: "min", from: 0, to: 10_000 },
    wage: RANGES.price,
  });
  if (!checked.ok) return checked;
  const tripsPerYear = demand.year.typical / input.litresPerTrip;
  return finite({
    bought: demand.year.typical * input.pricePerLitre,
    trips: (tripsPerYear * input.minutesPerTrip * input.wage) / 60,
    tripsPerYear,
    ...(demand.jobsPerYear > 0 ? { wiping: (demand.jobsPerYear * input.minutesPerJob * input.wage) / 60 } : {}),
  });
}
