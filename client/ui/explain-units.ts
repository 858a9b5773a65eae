import {
  convertExplanation,
  KILOGRAMS_PER_POUND,
  KILOPASCALS_PER_PSI,
  LITRES_PER_CUBIC_FOOT,
  LITRES_PER_US_GALLON,
  type Explanation,
} from "@winter-bead/core";
import { perGallon, type Units } from "./format";

const perPound = { symbol: "lb", name: "Kilograms in a pound", value: KILOGRAMS_PER_POUND, unit: "kg/lb" } as const;
const perCubicFoot = {
  symbol: "ft3",
  name: "Litres in a cubic foot",
  value: LITRES_PER_CUBIC_FOOT,
  unit: "L/ft³",
} as const;
const perPsi = { symbol: "psi", name: "Kilopascals in a psi", value: KILOPASCALS_PER_PSI, unit: "kPa/psi" } as const;
const inverseGallon = {
  symbol: "gal",
  name: "US gallons in a litre",
  value: 1 / LITRES_PER_US_GALLON,
  unit: "US gal/L",
} as const;

/** A working in the user's units, where its number is shown in them. */
export function explainedIn(units: Units, explanation: Explanation): Explanation {
  if (units !== "us") return explanation;
  const { unit } = explanation;
  if (/^L( a \w+)?$/.test(unit)) return convertExplanation(explanation, unit.replace(/^L/, "US gal"), perGallon);
  if (unit.startsWith("L of resin")) return convertExplanation(explanation, unit.replace(/^L/, "ft³"), perCubicFoot);
  if (unit.endsWith(" per 1000 L"))
    return convertExplanation(explanation, unit.replace(" L", " US gal"), inverseGallon);
  if (unit === "kg") return convertExplanation(explanation, "lb", perPound);
  return unit === "kPa" ? convertExplanation(explanation, "psi", perPsi) : explanation;
}
