import { checkRanges, RANGES } from "../ranges";
import { finite, type Result } from "../result";

/** How an opened or sealed bag was kept. */
export type Container =
  "sealed-foil" | "snap-lid-pail" | "heat-resealed" | "rolled-or-zip" | "shrink-film" | "left-open";

/** Share of capacity lost a month on the shelf: planning assumptions. */
export const MONTHLY_STORAGE_LOSS: Readonly<Record<Container, number>> = {
  "sealed-foil": 0.005,
  "snap-lid-pail": 0.01,
  "heat-resealed": 0.007,
  "rolled-or-zip": 0.02,
  "shrink-film": 0.03,
  "left-open": 0.08,
};

/** Share lost a month standing wet in the vessel: a planning assumption. */
export const MONTHLY_STANDING_LOSS = 0.005;

/** How well the beads settled: planning assumptions. */
export type Packing = "settled" | "poured" | "loose-cartridge";
export const PACKING_FACTORS: Readonly<Record<Packing, number>> = { settled: 1, poured: 0.95, "loose-cartridge": 0.8 };

const left = (loss: number, months: number) => (1 - loss) ** months;

/**
 * Share of capacity left after storage, `(1 - d)^months`, with `d` doubled in a vehicle or in the sun.
 * @example storageFactor({ container: "rolled-or-zip", months: 6 }) // 0.886
 */
export function storageFactor(stored: {
  readonly container: Container;
  readonly months: number;
  readonly warm?: boolean;
}): Result<number> {
  const ranges = checkRanges(stored, { months: RANGES.months });
  if (!ranges.ok) return ranges;
  return finite(left(MONTHLY_STORAGE_LOSS[stored.container] * (stored.warm ? 2 : 1), stored.months));
}

/** Share of capacity left after standing wet in the vessel. @example standingFactor(24) // 0.887 */
export function standingFactor(months: number): Result<number> {
  const ranges = checkRanges({ months }, { months: RANGES.months });
  return ranges.ok ? finite(left(MONTHLY_STANDING_LOSS, months)) : ranges;
}
