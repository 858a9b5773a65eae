import { conductivityOf } from "./conductivity";
import { onScale } from "./meter";
import { risingRoot } from "../numerics/root";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, succeed, type Result } from "../result";

/** Dissolved matter by its totals, mmol/L: the acid and base forms follow from the pH. */
export interface Composition {
  readonly na?: number;
  /** Ammonia and ammonium together. */
  readonly nh4?: number;
  readonly k?: number;
  readonly mg?: number;
  readonly ca?: number;
  readonly cl?: number;
  readonly no3?: number;
  readonly so4?: number;
  readonly f?: number;
  /** Carbon dioxide, bicarbonate and carbonate together. */
  readonly inorganicCarbon?: number;
  /** Silicic acid and silicate together. */
  readonly silica?: number;
}

export interface CompositionAnswer {
  readonly ph: number;
  /** µS/cm at 25 °C. */
  readonly ec25: number;
  /** On the sodium-chloride scale. */
  readonly ppm: number;
}

/** Equilibrium constants at 25 °C, mol/L (Stumm and Morgan 1996, Aquatic Chemistry). */
export const WATER_PRODUCT = 1.008e-14;
const CARBONIC_1 = 10 ** -6.352;
const CARBONIC_2 = 10 ** -10.329;
const AMMONIUM = 10 ** -9.245;
const SILICIC = 10 ** -9.84;

/** How the totals of weak acids and bases stand at one pH; concentrations in mol/L. */
interface Forms {
  readonly hco3: number;
  readonly co3: number;
  readonly nh4: number;
  readonly silicate: number;
}

function formsAt(h: number, carbon: number, ammonia: number, silica: number): Forms {
  const first = CARBONIC_1 / h;
  const second = (first * CARBONIC_2) / h;
  const carbonDivisor = 1 + first + second;
  return {
    hco3: (carbon * first) / carbonDivisor,
    co3: (carbon * second) / carbonDivisor,
    nh4: (ammonia * h) / (h + AMMONIUM),
    silicate: (silica * SILICIC) / (SILICIC + h),
  };
}

/** Concentrations of the strong ions and totals of the weak ones, mol/L. */
interface Totals {
  /** Strong cations less strong anions, eq/L. */
  readonly strong: number;
  readonly carbon: number;
  readonly ammonia: number;
  readonly silica: number;
}

/** Net charge at this pH, eq/L. */
function netCharge(ph: number, { strong, carbon, ammonia, silica }: Totals): number {
  const h = 10 ** -ph;
  const { hco3, co3, nh4, silicate } = formsAt(h, carbon, ammonia, silica);
  return strong + h + nh4 - WATER_PRODUCT / h - hco3 - 2 * co3 - silicate;
}

/** Twice the hydrogen ion of pure water: net charge on this scale, through asinh, is nearly straight in pH. */
const CHARGE_SCALE = 2e-7;

/** pH from 0 to 14 at which the charges balance, or the fault that none does. */
function balancedPh(totals: Totals): Result<number> {
  const imbalance = (ph: number) => -Math.asinh(netCharge(ph, totals) / CHARGE_SCALE);
  if (imbalance(0) > 0 || imbalance(14) < 0) {
    return fail(
      "no-ph",
      "These ions cannot balance at any pH from 0 to 14: a cation or an anion is missing or mistyped.",
    );
  }
  return succeed(risingRoot(imbalance, 0, 14));
}

/**
 * pH and conductivity of given ions, without a check of their ranges: for the column, which calls it for each step.
 * @returns the fault `no-ph` when the charges balance at no pH from 0 to 14
 */
export function speciate(composition: Composition): Result<{ readonly ph: number; readonly ec25: number }> {
  const { na = 0, nh4 = 0, k = 0, mg = 0, ca = 0, cl = 0, no3 = 0, so4 = 0, f = 0 } = composition;
  const { inorganicCarbon = 0, silica = 0 } = composition;
  const totals: Totals = {
    strong: (na + k + 2 * (mg + ca) - cl - no3 - f - 2 * so4) / 1000,
    carbon: inorganicCarbon / 1000,
    ammonia: nh4 / 1000,
    silica: silica / 1000,
  };
  const ph = balancedPh(totals);
  if (!ph.ok) return ph;
  const h = 10 ** -ph.value;
  const forms = formsAt(h, totals.carbon, totals.ammonia, totals.silica);
  const ec25 = conductivityOf({
    h: 1000 * h,
    oh: (1000 * WATER_PRODUCT) / h,
    na,
    k,
    mg,
    ca,
    cl,
    no3,
    so4,
    f,
    nh4: 1000 * forms.nh4,
    hco3: 1000 * forms.hco3,
    co3: 1000 * forms.co3,
    silicate: 1000 * forms.silicate,
  });
  return succeed({ ph: ph.value, ec25 });
}

const IONS_OF_COMPOSITION = [
  "na",
  "nh4",
  "k",
  "mg",
  "ca",
  "cl",
  "no3",
  "so4",
  "f",
  "inorganicCarbon",
  "silica",
] as const satisfies readonly (keyof Composition)[];

const compositionRanges = Object.fromEntries(IONS_OF_COMPOSITION.map((ion) => [ion, RANGES.millimoles])) as {
  readonly [ion in keyof Composition]: typeof RANGES.millimoles;
};

/**
 * pH by charge balance (activities taken as 1) and conductivity of a composition in mmol/L, closed to the air.
 *
 * @returns a fault when a figure is outside its range or no pH from 0 to 14 balances the charges
 * @example describeComposition({ inorganicCarbon: 0.014 }) // pH 5.64, 0.90 µS/cm: pure water in balance with air
 */
export function describeComposition(composition: Composition): Result<CompositionAnswer> {
  const checked = checkRanges(composition, compositionRanges);
  if (!checked.ok) return checked;
  const solved = speciate(composition);
  if (!solved.ok) return solved;
  const { ph, ec25 } = solved.value;
  return finite({ ph, ec25, ppm: onScale(ec25, "nacl") });
}
