/** Exact by definition (NIST Special Publication 811, appendix B). */
export const LITRES_PER_US_GALLON = 3.785411784;
export const LITRES_PER_CUBIC_FOOT = 28.316846592;
export const KILOPASCALS_PER_PSI = 6.894757293168;
export const KILOGRAMS_PER_POUND = 0.45359237;
export const MILLIGRAMS_PER_GRAIN = 64.79891;
export const MILLIMETRES_PER_INCH = 25.4;

export const US_GALLONS_PER_CUBIC_FOOT = LITRES_PER_CUBIC_FOOT / LITRES_PER_US_GALLON;

export const KELVIN_AT_ZERO_CELSIUS = 273.15;
export const toKelvin = (celsius: number) => celsius + KELVIN_AT_ZERO_CELSIUS;

/** Milligrams of CaCO3 in one milliequivalent, as the trade rounds it. */
export const CACO3_MG_PER_MEQ = 50;

/** mg/L as CaCO3 of one degree of carbonate hardness, as aquarium kits count it. */
export const CACO3_PER_DKH = 17.848;
