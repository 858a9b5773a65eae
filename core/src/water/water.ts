import {
  ANIONS,
  CATIONS,
  equivalentSums,
  EQUIVALENT_WEIGHTS,
  IMBALANCE_DOUBTFUL,
  IMBALANCE_UNTRUSTWORTHY,
  type Analysis,
} from "./analysis";
import { BICARBONATE_PH, CO2_MG_PER_MMOL, freeCarbonDioxide, SILICA_MG_PER_MMOL } from "./carbon-dioxide";
import { conductivityOf, type Ions } from "./conductivity";
import { onScale, positiveConductivityAt25, type Reading } from "./meter";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, succeed, within, type Result } from "../result";
import { CACO3_MG_PER_MEQ } from "../units/constants";

/** A feed as the technician knows it: a meter reading, an analysis, or both, and what a meter does not see. */
export interface Water {
  readonly reading?: Reading;
  readonly analysis?: Analysis;
  readonly ph?: number;
  /** mg/L as CaCO3; here or in the analysis. */
  readonly alkalinity?: number;
  /** mg/L as SiO2. */
  readonly silica?: number;
  /** mg/L; overrides the figure from pH and alkalinity. */
  readonly co2?: number;
  /** °C (default 15); it never compensates a reading. */
  readonly temperature?: number;
}

export interface Warning {
  readonly code: string;
  readonly message: string;
}

/** What a water puts on each side of a mixed bed. */
export interface WaterAnswer {
  /** µS/cm at 25 °C. */
  readonly ec25: number;
  readonly ppm: { readonly nacl: number; readonly "442": number; readonly kcl: number };
  /** meq/L. */
  readonly cationLoad: number;
  /** meq/L, carbon dioxide and silica included. */
  readonly anionLoad: number;
  /** mg/L: 50 times the cation load. */
  readonly asCaCO3: number;
  /** mg/L; 0 when nothing tells. */
  readonly co2: number;
  /** (cations - anions) / (cations + anions) of the analysis, before carbon dioxide and silica. */
  readonly imbalance?: number;
  readonly warnings: readonly Warning[];
}

/** °C taken when nobody measured. */
export const DEFAULT_TEMPERATURE = 15;

/** µS/cm per meq/L of a natural water, good to about 10 % (Standard Methods 1030 E). */
export const CONDUCTIVITY_PER_LOAD = 100;

/** µS/cm above which load and conductivity part. */
const CONDUCTIVITY_TRUSTED_TO = 2000;

/** The meter-visible load, meq/L, of a conductivity in µS/cm. @example visibleLoad(424) // 4.24 */
export const visibleLoad = (ec25: number) => ec25 / CONDUCTIVITY_PER_LOAD;

const warn = (code: string, message: string): Warning => ({ code, message });

const analysisRanges = { ...Object.fromEntries([...CATIONS, ...ANIONS].map((ion) => [ion, RANGES.ion])) } as {
  readonly [ion in keyof Required<Analysis>]: typeof RANGES.ion;
};

/** The analysis with a top-level alkalinity counted among its anions. */
function completeAnalysis(water: Water): Result<Analysis | undefined> {
  const { analysis, alkalinity } = water;
  if (analysis === undefined) return succeed(undefined);
  const ranges = checkRanges(analysis, analysisRanges);
  if (!ranges.ok) return within("analysis", ranges);
  if (alkalinity !== undefined && analysis.alkalinity !== undefined && alkalinity !== analysis.alkalinity) {
    return fail("two-alkalinities", "The alkalinity stands twice, with two values; keep the right one.", "alkalinity");
  }
  const complete = { ...analysis, alkalinity: analysis.alkalinity ?? alkalinity ?? 0 };
  const { cations, anions } = equivalentSums(complete);
  if (cations + anions === 0)
    return fail("empty-analysis", "Every ion of this analysis is 0; enter what the report says.", "analysis");
  return succeed(complete);
}

const millimoles = (analysis: Analysis, ion: keyof Analysis, charge: number) =>
  (analysis[ion] ?? 0) / (EQUIVALENT_WEIGHTS[ion] * charge);

/** The ions of an analysis, mmol/L, its alkalinity as bicarbonate. */
export function ionsOfAnalysis(analysis: Analysis): Ions {
  return {
    ca: millimoles(analysis, "ca", 2),
    mg: millimoles(analysis, "mg", 2),
    na: millimoles(analysis, "na", 1),
    k: millimoles(analysis, "k", 1),
    nh4: millimoles(analysis, "nh4", 1),
    cl: millimoles(analysis, "cl", 1),
    so4: millimoles(analysis, "so4", 2),
    no3: millimoles(analysis, "no3", 1),
    f: millimoles(analysis, "f", 1),
    hco3: millimoles(analysis, "alkalinity", 1),
  };
}

/**
 * Conductivity of an analysis, µS/cm: from its ions, or, where a whole side is missing and there is no charge balance, 100
 * for each meq/L of the side it has.
 */
function conductivityOfAnalysis(analysis: Analysis): number {
  const { cations, anions } = equivalentSums(analysis);
  return cations === 0 || anions === 0
    ? CONDUCTIVITY_PER_LOAD * (cations + anions)
    : conductivityOf(ionsOfAnalysis(analysis));
}

interface Sides {
  readonly cations: number;
  readonly anions: number;
  readonly imbalance?: number;
  readonly warnings: readonly Warning[];
}

function sidesOfAnalysis(analysis: Analysis, readingEc25: number | undefined): Sides {
  const { cations, anions } = equivalentSums(analysis);
  if (cations === 0 || anions === 0) {
    const missing = cations === 0 ? "cations" : "anions";
    const known = cations === 0 ? anions : cations;
    const other = readingEc25 === undefined ? known : visibleLoad(readingEc25);
    const from = readingEc25 === undefined ? "the other side" : "the reading";
    const warnings = [warn("side-missing", `The analysis has no ${missing}; their load is taken from ${from}.`)];
    return cations === 0 ? { cations: other, anions, warnings } : { cations, anions: other, warnings };
  }
  const imbalance = (cations - anions) / (cations + anions);
  return { cations, anions, imbalance, warnings: imbalanceWarnings(imbalance) };
}

function imbalanceWarnings(imbalance: number): Warning[] {
  const percent = `${Math.abs(imbalance * 100).toFixed(0)} %`;
  if (Math.abs(imbalance) > IMBALANCE_UNTRUSTWORTHY) {
    return [
      warn(
        "analysis-untrustworthy",
        `Cations and anions differ by ${percent}: this analysis is not to be trusted; ask for it again.`,
      ),
    ];
  }
  if (Math.abs(imbalance) > IMBALANCE_DOUBTFUL) {
    return [
      warn(
        "analysis-doubtful",
        `Cations and anions differ by ${percent}: something in this analysis is missing or mistyped.`,
      ),
    ];
  }
  return [];
}

interface Carbonic {
  readonly co2: number;
  readonly warnings: readonly Warning[];
}

function carbonicOf(water: Water, alkalinity: number | undefined, ec25: number): Result<Carbonic> {
  if (water.co2 !== undefined) return succeed({ co2: water.co2, warnings: [] });
  if (water.ph === undefined || alkalinity === undefined) return succeed({ co2: 0, warnings: [] });
  const co2 = freeCarbonDioxide({
    ph: water.ph,
    alkalinity,
    ec25,
    temperature: water.temperature ?? DEFAULT_TEMPERATURE,
  });
  if (!co2.ok) return co2;
  const outside = water.ph < BICARBONATE_PH.low || water.ph > BICARBONATE_PH.high;
  const warnings = outside
    ? [
        warn(
          "ph-outside",
          "Alkalinity is bicarbonate only from pH 4.5 to 8.5: outside it the carbon dioxide figure is rough.",
        ),
      ]
    : [];
  return succeed({ co2: co2.value, warnings });
}

/**
 * Conductivity, loads and carbon dioxide of a water. With only a meter `L = EC25/100` (Standard Methods 1030 E) on both
 * sides; with an analysis the sums of `mg/L / equivalent weight`; carbon dioxide and silica add to the anion side only.
 *
 * @returns loads in meq/L, or a fault: neither reading nor analysis, an empty analysis, a figure outside its range.
 * @example describeWater({ reading: { value: 212, scale: "nacl" } }) // ec25 424, both loads 4.24 meq/L
 */
export function describeWater(water: Water): Result<WaterAnswer> {
  const ranges = checkRanges(water, {
    ph: RANGES.ph,
    alkalinity: RANGES.alkalinity,
    silica: RANGES.silica,
    co2: RANGES.co2,
    temperature: RANGES.temperature,
  });
  if (!ranges.ok) return ranges;
  if (water.reading === undefined && water.analysis === undefined) {
    return fail("no-water", "Enter a meter reading or an analysis of the feed.", "reading");
  }
  const completed = completeAnalysis(water);
  if (!completed.ok) return completed;
  const analysis = completed.value;
  const measured = water.reading === undefined ? undefined : within("reading", positiveConductivityAt25(water.reading));
  if (measured && !measured.ok) return measured;

  const ec25 = measured?.value ?? conductivityOfAnalysis(analysis ?? {});
  const sides: Sides = analysis
    ? sidesOfAnalysis(analysis, measured?.value)
    : { cations: visibleLoad(ec25), anions: visibleLoad(ec25), warnings: [] };
  const carbonic = carbonicOf(water, analysis?.alkalinity ?? water.alkalinity, ec25);
  if (!carbonic.ok) return carbonic;
  const { co2 } = carbonic.value;
  const above =
    ec25 > CONDUCTIVITY_TRUSTED_TO
      ? [
          warn(
            "conductivity-high",
            "Above 2,000 µS/cm the load follows conductivity less closely; an analysis would be better.",
          ),
        ]
      : [];
  return finite({
    ec25,
    ppm: { nacl: onScale(ec25, "nacl"), "442": onScale(ec25, "442"), kcl: onScale(ec25, "kcl") },
    cationLoad: sides.cations,
    anionLoad: sides.anions + co2 / CO2_MG_PER_MMOL + (water.silica ?? 0) / SILICA_MG_PER_MMOL,
    asCaCO3: CACO3_MG_PER_MEQ * sides.cations,
    co2,
    ...(sides.imbalance === undefined ? {} : { imbalance: sides.imbalance }),
    warnings: [...sides.warnings, ...carbonic.value.warnings, ...above],
  });
}
