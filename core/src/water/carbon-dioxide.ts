import { EQUIVALENT_WEIGHTS } from "./analysis";
import { toKelvin } from "../units/constants";
import { checkRanges, RANGES } from "../ranges";
import { finite, type Result } from "../result";

export const CO2_MG_PER_MMOL = 44.0095;
export const SILICA_MG_PER_MMOL = 60.084;

/** Between these, alkalinity is bicarbonate within a few percent. */
export const BICARBONATE_PH = { low: 4.5, high: 8.5 } as const;

/** mol/L of ionic strength per µS/cm (Griffin and Jurinak 1973, rounded). */
const STRENGTH_PER_CONDUCTIVITY = 1.6e-5;
const DAVIES_A = 0.5085;

/** Activity coefficient of a monovalent ion in a water of this conductivity, µS/cm (Davies 1962). */
export function monovalentActivity(ec25: number): number {
  const strength = STRENGTH_PER_CONDUCTIVITY * ec25;
  const root = Math.sqrt(strength);
  return 10 ** (-DAVIES_A * (root / (1 + root) - 0.3 * strength));
}

/**
 * pK1 of carbonic acid at a temperature in °C (Plummer and Busenberg 1982).
 * @example carbonicPk1(25) // 6.352
 */
export function carbonicPk1(celsius: number): number {
  const t = toKelvin(celsius);
  return -(-356.3094 - 0.06091964 * t + 21834.37 / t + 126.8339 * Math.log10(t) - 1684915 / (t * t));
}

export interface CarbonDioxideInput {
  readonly ph: number;
  /** mg/L as CaCO3. */
  readonly alkalinity: number;
  /** µS/cm at 25 °C, for the ionic strength. */
  readonly ec25: number;
  /** °C. */
  readonly temperature: number;
}

/**
 * Free carbon dioxide, mg/L, from pH and alkalinity: `CO2 = 44.0095 HCO3 γ 10^(-pH) / K1`. It loads the anion beads and no
 * meter sees it. Good between pH 4.5 and 8.5, where alkalinity is bicarbonate.
 *
 * @example freeCarbonDioxide({ ph: 7.15, alkalinity: 138, ec25: 395, temperature: 12 }) // about 22 mg/L
 */
export function freeCarbonDioxide(input: CarbonDioxideInput): Result<number> {
  const ranges = checkRanges(input, { ph: RANGES.ph, alkalinity: RANGES.ion, temperature: RANGES.temperature });
  if (!ranges.ok) return ranges;
  const bicarbonate = input.alkalinity / EQUIVALENT_WEIGHTS.alkalinity;
  const ratio = 10 ** (carbonicPk1(input.temperature) - input.ph);
  return finite(CO2_MG_PER_MMOL * bicarbonate * monovalentActivity(input.ec25) * ratio);
}
