import { MONTHLY_STANDING_LOSS } from "../resin/storage";

const MONTHS_A_YEAR = 12;

/**
 * Share of a charge's capacity that standing wet takes until it is used up: of a charge that lasts years it counts.
 * @param years that it lasts by its litres alone
 * @example lostToAgeing(2) // 0.113
 */
export const lostToAgeing = (years: number): number => 1 - (1 - MONTHLY_STANDING_LOSS) ** (MONTHS_A_YEAR * years);
