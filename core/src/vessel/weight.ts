import { VOID_FRACTION } from "../bed/bed";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, type Result } from "../result";

/** Drained resin, kg per litre of bed: a planning assumption. */
export const DRAINED_RESIN_WEIGHT = 0.7;
/** kg above which the product says: lift with two. */
export const TWO_PERSON_WEIGHT = 25;

export interface WeightInput {
  /** Empty vessel, kg. */
  readonly empty: number;
  /** L. */
  readonly resin: number;
  /** Inside of the vessel, L. */
  readonly grossVolume: number;
}

/**
 * Weight of the closed, wet vessel, kg: empty + 0.70 per litre of drained resin + water in the voids (0.38) + water above.
 *
 * @example wetWeight({ empty: 6, resin: 11.5, grossVolume: 14 }) // { kilograms: 20.9, twoPeople: false }
 */
export function wetWeight(input: WeightInput): Result<{ readonly kilograms: number; readonly twoPeople: boolean }> {
  const ranges = checkRanges(input, { empty: RANGES.weight, resin: RANGES.volume, grossVolume: RANGES.volume });
  if (!ranges.ok) return ranges;
  if (input.resin > input.grossVolume)
    return fail("overfull", "There is more resin than the vessel holds; check both volumes.", "resin");
  const headspace = input.grossVolume - input.resin;
  const kilograms = input.empty + (DRAINED_RESIN_WEIGHT + VOID_FRACTION) * input.resin + headspace;
  return finite({ kilograms, twoPeople: kilograms > TWO_PERSON_WEIGHT });
}

/** Inside volume, L, of a straight cylinder from inner diameter and height in mm. @example cylinderLitres(180, 550) // 14 */
export const cylinderLitres = (diameter: number, height: number) => (Math.PI / 4) * diameter ** 2 * height * 1e-6;
