/** A laboratory analysis, mg/L of each ion; nitrogen as the ion; alkalinity as CaCO3. */
export interface Analysis {
  readonly ca?: number;
  readonly mg?: number;
  readonly na?: number;
  readonly k?: number;
  readonly nh4?: number;
  readonly cl?: number;
  readonly so4?: number;
  readonly no3?: number;
  readonly f?: number;
  readonly alkalinity?: number;
}

/** mg per meq (IUPAC atomic weights; alkalinity as CaCO3). */
export const EQUIVALENT_WEIGHTS = {
  ca: 20.039,
  mg: 12.1525,
  na: 22.99,
  k: 39.098,
  nh4: 18.039,
  cl: 35.453,
  so4: 48.03,
  no3: 62.005,
  f: 18.998,
  alkalinity: 50.04,
} as const satisfies Record<keyof Analysis, number>;

export const CATIONS = ["ca", "mg", "na", "k", "nh4"] as const;
export const ANIONS = ["cl", "so4", "no3", "f", "alkalinity"] as const;

const sum = (analysis: Analysis, ions: readonly (keyof Analysis)[]) =>
  ions.reduce((total, ion) => total + (analysis[ion] ?? 0) / EQUIVALENT_WEIGHTS[ion], 0);

/**
 * Equivalents of each side, meq/L.
 * @example equivalentSums({ ca: 40.078, cl: 70.906 }) // { cations: 2, anions: 2 }
 */
export const equivalentSums = (analysis: Analysis) => ({
  cations: sum(analysis, CATIONS),
  anions: sum(analysis, ANIONS),
});

/** Beyond these shares an analysis is doubtful, and then not to be trusted (Standard Methods 1030 E). */
export const IMBALANCE_DOUBTFUL = 0.05;
export const IMBALANCE_UNTRUSTWORTHY = 0.1;
