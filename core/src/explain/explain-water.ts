import { AERATION_RATE, CO2_IN_BALANCE_WITH_AIR } from "../water/aeration";
import { checkMeter, type StandardCheck } from "../feed/reconcile";
import { succeed, type Result } from "../result";
import { EQUIVALENT_WEIGHTS, type Analysis } from "../water/analysis";
import { conductivityParts } from "../water/conductivity";
import { scaleFactor } from "../water/meter";
import { ionsOfAnalysis } from "../water/water";
import {
  carbonicPk1,
  CO2_MG_PER_MMOL,
  monovalentActivity,
  SILICA_MG_PER_MMOL,
  type CarbonDioxideInput,
} from "../water/carbon-dioxide";
import type { HiddenLoad } from "../water/report";
import { NORMAL_90 } from "../numerics/quantile";
import { SETTLED_WITHIN, TAP_PRIOR } from "../feed/tap-beliefs";
import type { TapRange } from "../feed/tap-range";
import { given, planningAssumption, type Explanation } from "./explanation";

const WATER_SCHOOL = "water chemistry at equilibrium";
const typed = "the analysis";
const constant = (symbol: string, name: string, value: number, unit: string) =>
  given(symbol, name, value, unit, "handbook value");
const assumed = planningAssumption;

/** How free carbon dioxide follows from pH and alkalinity. */
export function explainCarbonDioxide(input: CarbonDioxideInput): Explanation {
  const { ph, alkalinity, ec25, temperature } = input;
  const activity = monovalentActivity(ec25);
  const pk = carbonicPk1(temperature);
  return {
    name: "Carbon dioxide",
    value: (CO2_MG_PER_MMOL * alkalinity * activity * 10 ** (pk - ph)) / EQUIVALENT_WEIGHTS.alkalinity,
    unit: "mg/L",
    formula: "M × A / w × g × 10^(k − p)",
    words: "alkalinity as bicarbonate, and the part of it that is still carbon dioxide at this pH",
    inputs: [
      constant("M", "Weight of a millimole of CO2", CO2_MG_PER_MMOL, "mg/mmol"),
      { symbol: "A", name: "Alkalinity", value: alkalinity, unit: "mg/L as CaCO3", from: typed },
      constant("w", "Weight of an equivalent as CaCO3", EQUIVALENT_WEIGHTS.alkalinity, "mg/meq"),
      {
        symbol: "g",
        name: "Activity of a monovalent ion",
        value: activity,
        unit: "",
        from: `conductivity of ${Math.round(ec25)} µS/cm`,
      },
      { symbol: "k", name: "pK1 of carbonic acid", value: pk, unit: "", from: `water at ${temperature} °C` },
      { symbol: "p", name: "pH", value: ph, unit: "", from: typed },
    ],
    school: WATER_SCHOOL,
    source: "Plummer and Busenberg 1982; Davies 1962; Griffin and Jurinak 1973",
  };
}

/** How the share of the anion load that no meter shows came about, in percent. */
export function explainHiddenShare({ visible, co2, silica }: HiddenLoad): Explanation {
  return {
    name: "Share that no meter shows",
    value: (100 * (co2 + silica)) / (visible + co2 + silica),
    unit: "%",
    formula: "100 × (c + s) / (v + c + s)",
    words: "carbon dioxide and silica as a share of everything the anion beads take up",
    inputs: [
      {
        symbol: "c",
        name: "Carbon dioxide",
        value: co2,
        unit: "meq/L",
        from: `mg/L divided by ${CO2_MG_PER_MMOL}`,
      },
      { symbol: "s", name: "Silica", value: silica, unit: "meq/L", from: `mg/L divided by ${SILICA_MG_PER_MMOL}` },
      {
        symbol: "v",
        name: "Anions that a meter shows",
        value: visible,
        unit: "meq/L",
        from: "analysis or conductivity",
      },
    ],
    school: WATER_SCHOOL,
    source: "Standard Methods 1030 E; definition",
  };
}

/** How much carbon dioxide is left after hours of aeration. */
export function explainAeration(co2: number, hours: number): Explanation {
  return {
    name: "Carbon dioxide left",
    value: CO2_IN_BALANCE_WITH_AIR + (co2 - CO2_IN_BALANCE_WITH_AIR) * Math.exp(-AERATION_RATE * hours),
    unit: "mg/L",
    formula: "a + (c − a) × exp(0 − k × h)",
    words: "what is above the balance with air goes off at a steady rate",
    inputs: [
      assumed("a", "In balance with air", CO2_IN_BALANCE_WITH_AIR, "mg/L"),
      { symbol: "c", name: "Carbon dioxide before", value: co2, unit: "mg/L", from: "pH and alkalinity" },
      assumed("k", "Loss in a bubbled barrel, pump unknown", AERATION_RATE, "per h"),
      { symbol: "h", name: "Hours aerated", value: hours, unit: "h", from: "what you chose" },
    ],
    school: "first-order gas transfer",
    source: "Lewis and Whitman 1924",
  };
}

/** How one end of a tap's range came about, µS/cm. */
export function explainTapRange(range: TapRange, end: "low" | "high"): Explanation {
  const sign = end === "low" ? "−" : "+";
  return {
    name: end === "low" ? "Low feed" : "High feed",
    value: range[end],
    unit: "µS/cm",
    formula: `t × exp(0 ${sign} z × s × (1 + 1 / n)^0.5)`,
    words: `one day in ten lies ${end === "low" ? "below" : "above"} this, if days to come are like the days seen`,
    inputs: [
      { symbol: "t", name: "Typical", value: range.typical, unit: "µS/cm", from: "geometric mean of the days" },
      constant("z", "One tail of a tenth", NORMAL_90, "standard deviations"),
      {
        symbol: "s",
        name: "Spread of the days over the year",
        value: range.spread,
        unit: "",
        from: `the days seen, with ${TAP_PRIOR.spread} as if seen on ${TAP_PRIOR.days} days before (assumption)`,
      },
      { symbol: "n", name: "Days", value: range.days, unit: "", from: "the readings" },
    ],
    school: "your own readings",
    source: "Gelman et al. 2013, Bayesian Data Analysis, chapter 3",
  };
}

const NORMAL_95 = 1.6448536269514722;

/** How many days of readings settle a tap. */
export function explainDaysToSettle(range: TapRange): Explanation {
  return {
    name: "Days that settle the typical",
    value: ((NORMAL_95 * range.scatter) / Math.log1p(SETTLED_WITHIN)) ** 2,
    unit: "days in all",
    formula: "(z × s / ln(1 + w))^2",
    words: "enough days for the typical to be known to 5 % either way, nine times in ten; rounded up",
    inputs: [
      constant("z", "Both tails of a twentieth", NORMAL_95, "standard deviations"),
      {
        symbol: "s",
        name: "Scatter of the days beyond the season",
        value: range.scatter,
        unit: "",
        from: "the readings",
      },
      assumed("w", "How well it should be known", SETTLED_WITHIN, ""),
    ],
    school: "your own readings",
    source: "sample size for a mean, Cochran 1977",
  };
}

const ION_WORDS = {
  h: "Hydrogen",
  na: "Sodium",
  k: "Potassium",
  nh4: "Ammonium",
  mg: "Magnesium",
  ca: "Calcium",
  oh: "Hydroxide",
  hco3: "Bicarbonate",
  co3: "Carbonate",
  cl: "Chloride",
  no3: "Nitrate",
  so4: "Sulfate",
  f: "Fluoride",
  silicate: "Silicate",
} as const;

/** How the conductivity of an analysis is summed from its ions. */
export function explainConductivity(analysis: Analysis): Explanation {
  const { ions, reduction } = conductivityParts(ionsOfAnalysis(analysis));
  const sumOf = (charge: 1 | 2) => {
    const names = ions.filter((each) => each.charge === charge).map(({ ion }) => ion);
    return names.length > 0 ? names.join(" + ") : "0";
  };
  return {
    name: "Conductivity of these ions",
    value: ions.reduce((sum, { alone, charge }) => sum + alone * reduction[charge], 0),
    unit: "µS/cm",
    formula: `y1 × (${sumOf(1)}) + y2 × (${sumOf(2)})`,
    words: "each ion carries its own part of the current, and a little less in the company of others",
    inputs: [
      { symbol: "y1", name: "Left to ions of one charge", value: reduction[1], unit: "", from: "ionic strength" },
      { symbol: "y2", name: "Left to ions of two charges", value: reduction[2], unit: "", from: "ionic strength" },
      ...ions.map(({ ion, alone }) => ({
        symbol: ion,
        name: `${ION_WORDS[ion]} alone`,
        value: alone,
        unit: "µS/cm",
        from: "mg/L of the analysis, and what a litre of it conducts",
      })),
    ],
    school: WATER_SCHOOL,
    source: "Appelo 2010; CRC Handbook of Chemistry and Physics",
  };
}

/** How far the two sides of an analysis are apart, in percent. */
export function explainImbalance(cations: number, anions: number): Explanation {
  return {
    name: "Cations against anions",
    value: (100 * (cations - anions)) / (cations + anions),
    unit: "%",
    formula: "100 × (c − a) / (c + a)",
    words: "a water carries no charge: what one side has more is missing from the other, or mistyped",
    inputs: [
      { symbol: "c", name: "Cations", value: cations, unit: "meq/L", from: typed },
      { symbol: "a", name: "Anions", value: anions, unit: "meq/L", from: typed },
    ],
    school: WATER_SCHOOL,
    source: "Standard Methods 1030 E",
  };
}

/** How a meter's error against a standard came about, in percent. */
export function explainMeterCheck(check: StandardCheck): Result<Explanation> {
  const checked = checkMeter(check);
  if (!checked.ok) return checked;
  const { scale, standardEc25, shown, offset = 0 } = check;
  const entered = "what you entered";
  return succeed({
    name: "Error of the meter",
    value: 100 * checked.value.error,
    unit: "%",
    formula: "100 × ((s − o) / (f × e) − 1)",
    words: "what it shows beyond pure water, against what its scale makes of the standard",
    inputs: [
      { symbol: "s", name: "It shows", value: shown, unit: "on its scale", from: entered },
      { symbol: "o", name: "In pure water", value: offset, unit: "on its scale", from: entered },
      constant("f", "Factor of its scale", scaleFactor(scale), "per µS/cm"),
      { symbol: "e", name: "The standard", value: standardEc25, unit: "µS/cm", from: entered },
    ],
    school: "comparison with a standard solution",
    source: "Standard Methods 2510",
  });
}
