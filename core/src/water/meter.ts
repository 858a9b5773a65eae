import { checkRanges, isWithin, RANGES } from "../ranges";
import { fail, finite, succeed, type Result } from "../result";
import type { Scale } from "../units/scale";

export type { Scale };

/** What a meter showed, on its own scale. */
export interface Reading {
  /** ppm on `scale`, or µS/cm when the scale is `ec`. */
  readonly value: number;
  readonly scale: Scale;
  /** Water temperature, °C; needed when the meter does not compensate. */
  readonly temperature?: number;
  /** Whether the meter already reports at 25 °C (default true). */
  readonly compensated?: boolean;
}

/** ppm shown per µS/cm at 25 °C. */
export const SCALE_FACTORS = { nacl: 0.5, "442": 0.7, kcl: 0.53, ec: 1 } as const;

/** Change of conductivity per °C away from 25 °C (Standard Methods 2510, natural waters). */
export const TEMPERATURE_COEFFICIENT = 0.0191;

/**
 * ppm shown per µS/cm by a meter of this scale.
 * @example scaleFactor("442") // 0.7
 */
export const scaleFactor = (scale: Scale): number => (typeof scale === "number" ? scale : SCALE_FACTORS[scale]);

const isScale = (scale: unknown): scale is Scale =>
  typeof scale === "number" ? isWithin(scale, RANGES.scaleFactor) : typeof scale === "string" && scale in SCALE_FACTORS;

/** Refuses a scale that no meter has. */
export const checkScale = (scale: unknown): Result<true> =>
  isScale(scale)
    ? succeed(true)
    : fail(
        "unknown-scale",
        "Choose the meter's scale: NaCl, 442, KCl, µS/cm, or its own factor from 0.40 to 1.00.",
        "scale",
      );

/**
 * Conductivity at 25 °C in µS/cm from what a meter showed; a value of 0 is a reading like others.
 * `EC25 = value / s`, and for a meter without compensation `/ (1 + 0.0191 (T - 25))` (Standard Methods 2510).
 *
 * @example conductivityAt25({ value: 212, scale: "nacl" }) // 424 µS/cm
 */
export function conductivityAt25(reading: Reading): Result<number> {
  const scale = checkScale(reading.scale);
  if (!scale.ok) return scale;
  const ranges = checkRanges(reading, { value: RANGES.observed, temperature: RANGES.temperature });
  if (!ranges.ok) return ranges;
  const asShown = reading.value / scaleFactor(reading.scale);
  if (reading.compensated !== false) return finite(asShown);
  if (reading.temperature === undefined) {
    return fail(
      "temperature-missing",
      "A meter without temperature compensation needs the water's temperature.",
      "temperature",
    );
  }
  return finite(asShown / (1 + TEMPERATURE_COEFFICIENT * (reading.temperature - 25)));
}

/** The same, for a feed or a limit, where 0 makes no sense. */
export function positiveConductivityAt25(reading: Reading): Result<number> {
  const ranges = checkRanges(reading, { value: RANGES.value });
  return ranges.ok ? conductivityAt25(reading) : ranges;
}

/**
 * What a meter of this scale shows at a conductivity in µS/cm at 25 °C.
 * @example onScale(424, "nacl") // 212 ppm
 */
export const onScale = (ec25: number, scale: Scale): number => ec25 * scaleFactor(scale);

/** A reading of 0 is below what the meter tells: in the middle between nothing and half a step of it. */
export const BELOW_A_STEP = 0.25;
