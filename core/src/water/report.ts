import { ANIONS, CATIONS, EQUIVALENT_WEIGHTS, equivalentSums, type Analysis } from "./analysis";
import { CO2_MG_PER_MMOL, SILICA_MG_PER_MMOL } from "./carbon-dioxide";
import { describeWater, type Water, type WaterAnswer } from "./water";
import { finite, within, type Result } from "../result";
import { checkRanges, RANGES } from "../ranges";
import type { ReportValues } from "./water-report.record";

/** One ion's share of its side. */
export interface Equivalents {
  readonly ion: keyof Analysis;
  /** meq/L. */
  readonly load: number;
}

export interface HiddenLoad {
  /** meq/L on the anion beads that a meter shows. */
  readonly visible: number;
  /** meq/L of carbon dioxide. */
  readonly co2: number;
  /** meq/L of silica. */
  readonly silica: number;
  /** Share of the anion load that no meter shows. */
  readonly share: number;
  /** meq/L on the cation beads from the ammonia that carbon leaves of chloramine. */
  readonly ammonia: number;
  /** Share of the cation load. */
  readonly ammoniaShare: number;
}

export interface ReportAnswer {
  readonly water: WaterAnswer;
  readonly cations: readonly Equivalents[];
  readonly anions: readonly Equivalents[];
  /** Sums of the analysis, meq/L. */
  readonly cationSum: number;
  readonly anionSum: number;
  /** µS/cm that these ions should give; absent when one side of the analysis is missing. */
  readonly computedEc25?: number;
  /** Computed over measured; absent without a measured one. */
  readonly conductivityRatio?: number;
  /** Whether computed and measured conductivity agree within a tenth. */
  readonly conductivityAgrees?: boolean;
  readonly hidden: HiddenLoad;
}

/** mg of ammonium left of 1 mg of monochloramine as Cl2, mole for mole (White 2010, Handbook of Chlorination). */
export const AMMONIUM_PER_CHLORAMINE = 18.039 / 70.906;
/** Computed and measured conductivity within this share agree (Standard Methods 1030 E). */
export const CONDUCTIVITY_AGREES_WITHIN = 0.1;

const ANALYSIS_FIELDS = [...CATIONS, ...ANIONS] as const;

/** Only the ions of a report; undefined when it has none. */
export function analysisOf(values: ReportValues): Analysis | undefined {
  const ions = ANALYSIS_FIELDS.filter((ion) => values[ion] !== undefined);
  const some = ions.some((ion) => ion !== "alkalinity");
  return some ? (Object.fromEntries(ions.map((ion) => [ion, values[ion]])) as Analysis) : undefined;
}

/** A report as a water: its ions as the analysis, its conductivity as the reading. */
export function waterOfReport(values: ReportValues): Water {
  const analysis = analysisOf(values);
  const { ph, silica, co2, ec25, temperature, alkalinity } = values;
  return {
    ...(analysis ? { analysis } : {}),
    ...(ec25 === undefined ? {} : { reading: { value: ec25, scale: "ec" as const } }),
    ...(ph === undefined ? {} : { ph }),
    ...(silica === undefined ? {} : { silica }),
    ...(co2 === undefined ? {} : { co2 }),
    ...(temperature === undefined ? {} : { temperature }),
    ...(analysis || alkalinity === undefined ? {} : { alkalinity }),
  };
}

const equivalentsOf = (values: ReportValues, ions: readonly (keyof Analysis)[]): Equivalents[] =>
  ions.filter((ion) => (values[ion] ?? 0) > 0).map((ion) => ({ ion, load: values[ion]! / EQUIVALENT_WEIGHTS[ion] }));

function hiddenLoad(values: ReportValues, water: WaterAnswer): HiddenLoad {
  const co2 = water.co2 / CO2_MG_PER_MMOL;
  const silica = (values.silica ?? 0) / SILICA_MG_PER_MMOL;
  const visible = water.anionLoad - co2 - silica;
  const ammonia = ((values.chloramine ?? 0) * AMMONIUM_PER_CHLORAMINE) / EQUIVALENT_WEIGHTS.nh4;
  return {
    visible,
    co2,
    silica,
    share: water.anionLoad > 0 ? (co2 + silica) / water.anionLoad : 0,
    ammonia,
    ammoniaShare: ammonia / (water.cationLoad + ammonia),
  };
}

/**
 * A water report read: loads, balance, conductivity computed against measured, and what no meter sees.
 *
 * @returns a fault when it has neither an ion nor a conductivity, or a figure outside its range
 * @example describeReport({ ca: 40, alkalinity: 100, cl: 10, ph: 7.2 }).hidden.share // a sixth or so is carbon dioxide
 */
export function describeReport(values: ReportValues): Result<ReportAnswer> {
  const own = checkRanges(values, {
    chloramine: { ...RANGES.ion, name: "The chloramine" },
    ec25: { ...RANGES.value, name: "The conductivity", unit: "µS/cm" },
  });
  if (!own.ok) return own;
  const described = describeWater(waterOfReport(values));
  if (!described.ok) return described;
  const water = described.value;
  const analysis = analysisOf(values) ?? {};
  const { cations: cationSum, anions: anionSum } = equivalentSums(analysis);
  const whole = cationSum > 0 && anionSum > 0;
  const computed = whole ? within("analysis", describeWater({ analysis })) : undefined;
  if (computed && !computed.ok) return computed;
  const computedEc25 = computed?.value.ec25;
  const ratio = computedEc25 !== undefined && values.ec25 !== undefined ? computedEc25 / values.ec25 : undefined;
  return finite({
    water,
    cations: equivalentsOf(analysis, CATIONS),
    anions: equivalentsOf(analysis, ANIONS),
    cationSum,
    anionSum,
    ...(computedEc25 === undefined ? {} : { computedEc25 }),
    ...(ratio === undefined
      ? {}
      : {
          conductivityRatio: ratio,
          conductivityAgrees: Math.abs(Math.log(ratio)) <= Math.log1p(CONDUCTIVITY_AGREES_WITHIN),
        }),
    hidden: hiddenLoad(values, water),
  });
}
