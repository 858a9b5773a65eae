import {
  KILOGRAMS_PER_POUND,
  KILOPASCALS_PER_PSI,
  LITRES_PER_CUBIC_FOOT,
  LITRES_PER_US_GALLON,
  MILLIMETRES_PER_INCH,
} from "./constants";

/** A linear map between an internal unit and the one a technician reads. */
export interface UnitPair {
  readonly internal: string;
  readonly shown: string;
  readonly toShown: (value: number) => number;
  readonly toInternal: (value: number) => number;
}

const scaled = (internal: string, shown: string, internalPerShown: number): UnitPair => ({
  internal,
  shown,
  toShown: (value) => value / internalPerShown,
  toInternal: (value) => value * internalPerShown,
});

/**
 * US customary readings of the internal units. Factors are exact (NIST SP 811).
 *
 * @example US_UNITS.volume.toShown(3.785411784) // 1 (US gal)
 */
export const US_UNITS = {
  volume: scaled("L", "US gal", LITRES_PER_US_GALLON),
  resinVolume: scaled("L", "ft³", LITRES_PER_CUBIC_FOOT),
  flow: scaled("L/min", "US gal/min", LITRES_PER_US_GALLON),
  length: scaled("mm", "in", MILLIMETRES_PER_INCH),
  pressure: scaled("kPa", "psi", KILOPASCALS_PER_PSI),
  weight: scaled("kg", "lb", KILOGRAMS_PER_POUND),
  temperature: {
    internal: "°C",
    shown: "°F",
    toShown: (celsius: number) => (celsius * 9) / 5 + 32,
    toInternal: (fahrenheit: number) => ((fahrenheit - 32) * 5) / 9,
  },
} as const satisfies Record<string, UnitPair>;
