import { checkRanges, RANGES } from "../ranges";
import { finite, type Result } from "../result";

/** Carbon dioxide in balance with air at 25 °C, mg/L. */
export const CO2_IN_BALANCE_WITH_AIR = 0.6;
/** First-order loss in an aerated barrel, per hour: a planning assumption. */
export const AERATION_RATE = 0.12;

export interface AerationInput {
  /** mg/L before. */
  readonly co2: number;
  /** mg/L in balance with the air above it (default 0.6). */
  readonly air?: number;
  /** Per hour (default 0.12, an assumption). */
  readonly rate?: number;
  readonly hours: number;
}

export interface AerationAnswer {
  /** mg/L after. */
  readonly co2: number;
  /** Share of the carbon dioxide load gone, below 0 when the water takes some up. */
  readonly saved: number;
}

/**
 * Carbon dioxide left after standing aerated: `C = Cair + (C0 - Cair) exp(-k t)`, first-order gas transfer
 * (Lewis and Whitman 1924).
 *
 * @example aerate({ co2: 23, hours: 9 }) // { co2: 8.207, saved: 0.643 }
 */
export function aerate(input: AerationInput): Result<AerationAnswer> {
  const ranges = checkRanges(input, { co2: RANGES.co2, air: RANGES.co2, rate: RANGES.rate, hours: RANGES.hours });
  if (!ranges.ok) return ranges;
  const { co2: before, air = CO2_IN_BALANCE_WITH_AIR, rate = AERATION_RATE, hours } = input;
  const after = air + (before - air) * Math.exp(-rate * hours);
  return finite({ co2: after, saved: before === 0 ? 0 : (before - after) / before });
}
