import { CO2_MG_PER_MMOL, freeCarbonDioxide } from "./carbon-dioxide";
import { EQUIVALENT_WEIGHTS } from "./analysis";
import { DEFAULT_TEMPERATURE, visibleLoad } from "./water";
import type { ReportValues } from "./water-report.record";

/** Free carbon dioxide of a water as far as it is known: lognormal, mg/L. */
export interface CarbonDioxideKnown {
  readonly median: number;
  /** Standard deviation of its logarithm; 0 where pH and alkalinity tell it, or somebody measured it. */
  readonly sd: number;
  /** What it rests on. */
  readonly by: "measured" | "ph-and-alkalinity" | "alkalinity" | "ph" | "nothing";
}

/** Planning assumptions: mg/L per µS/cm of a tap where neither pH nor alkalinity is known, and its spread. */
const BY_CONDUCTIVITY = 0.0125;
const UNKNOWN_SD = 1;
/** A usual pH, and what its spread leaves of carbon dioxide where the alkalinity alone is known. */
const USUAL_PH = 7.6;
const BY_ALKALINITY_SD = 0.92;
/** Of the anions, bicarbonate, and what its spread leaves where the pH alone is known. */
const ALKALINITY_SHARE = 0.5;
const BY_PH_SD = 0.45;

/** Silica that nobody measured, mg/L: its median; a planning assumption. */
export const USUAL_SILICA = 8;

/**
 * Standard deviations at which five equally likely values of a normal stand: the means of its fifths.
 * @example FIFTHS[4] // 1.4: exp(1.4) is four times the median
 */
export const FIFTHS = [-1.4, -0.532, 0, 0.532, 1.4] as const;

/** mg/L as CaCO3 of a water half of whose anions are bicarbonate. @param ec25 µS/cm */
export const usualAlkalinity = (ec25: number): number =>
  ALKALINITY_SHARE * visibleLoad(ec25) * EQUIVALENT_WEIGHTS.alkalinity;

/**
 * Free carbon dioxide of a tap by what is known of it. Unknown, it is not zero: behind a membrane it is often most of what
 * the resin gets.
 *
 * @example carbonDioxideOf({ ec25: 400 }) // median 5 mg/L, sd 1: 1.4 to 18 hold four in five
 */
export function carbonDioxideOf(values: ReportValues & { readonly ec25: number }): CarbonDioxideKnown {
  const { co2, ph, alkalinity, ec25, temperature = DEFAULT_TEMPERATURE } = values;
  if (co2 !== undefined) return { median: co2, sd: 0, by: "measured" };
  const from = (at: number, bicarbonate: number) => {
    const found = freeCarbonDioxide({ ph: at, alkalinity: bicarbonate, ec25, temperature });
    return found.ok ? found.value : BY_CONDUCTIVITY * ec25;
  };
  if (ph !== undefined && alkalinity !== undefined)
    return { median: from(ph, alkalinity), sd: 0, by: "ph-and-alkalinity" };
  if (alkalinity !== undefined) return { median: from(USUAL_PH, alkalinity), sd: BY_ALKALINITY_SD, by: "alkalinity" };
  if (ph !== undefined) return { median: from(ph, usualAlkalinity(ec25)), sd: BY_PH_SD, by: "ph" };
  return { median: BY_CONDUCTIVITY * ec25, sd: UNKNOWN_SD, by: "nothing" };
}

/** mmol/L of carbon dioxide. @example carbonMillimoles(44.0095) // 1 */
export const carbonMillimoles = (milligrams: number) => milligrams / CO2_MG_PER_MMOL;
