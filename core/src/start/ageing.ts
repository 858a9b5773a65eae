import { given, planningAssumption, type Explanation } from "../explain/explanation";
import { WEEKS_A_YEAR } from "../plan/demand";
import { MONTHLY_STANDING_LOSS } from "../resin/storage";

const MONTHS_A_YEAR = 12;
/** A charge that lasts less is not worth a word about its age. */
const YEARS_THAT_AGE = 0.75;

/**
 * Share of a charge's capacity that standing wet takes until it is used up: of a charge that lasts years it counts.
 * @param years that it lasts by its litres alone
 * @example lostToAgeing(2) // 0.113
 */
export const lostToAgeing = (years: number): number => 1 - (1 - MONTHLY_STANDING_LOSS) ** (MONTHS_A_YEAR * years);

/** How long a charge lasts by its litres alone, and what standing takes of it until then. */
export interface Ageing {
  readonly years: number;
  /** Share of its capacity. */
  readonly lost: number;
  /** Of the share, in percent. */
  readonly explanation: Explanation;
}

/**
 * How a charge ages that is used little.
 * @param litres it gives
 * @returns undefined where it is used up before age counts
 * @example ageing(4160, 1, 40)?.years // 2
 */
export function ageing(litres: number, jobsPerWeek: number, litresPerJob: number): Ageing | undefined {
  const years = litres / (jobsPerWeek * litresPerJob * WEEKS_A_YEAR);
  if (!(years > YEARS_THAT_AGE) || !Number.isFinite(years)) return undefined;
  const lost = lostToAgeing(years);
  return {
    years,
    lost,
    explanation: {
      name: "What standing takes",
      value: 100 * lost,
      unit: "%",
      formula: `100 × (1 − (1 − d) ^ (${MONTHS_A_YEAR} × L / (j × v × ${WEEKS_A_YEAR})))`,
      words: "month by month a share of what is left, for as long as the litres last",
      inputs: [
        planningAssumption("d", "Lost a month, standing wet", MONTHLY_STANDING_LOSS, ""),
        given("L", "Litres to your limit", litres, "L", "the answer above"),
        given("j", "Jobs a week", jobsPerWeek, "", "as you said"),
        given("v", "Water of a job", litresPerJob, "L", "as you said"),
      ],
      school: "resin chemistry",
      source: "planning assumption",
    },
  };
}
