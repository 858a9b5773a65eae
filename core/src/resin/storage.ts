import { checkRanges, RANGES } from "../ranges";
import { finite, type Result } from "../result";
import { choice, type ValueOf } from "../descriptor/field";

/** How well the beads settled. */
export const PACKING = choice(
  "How the beads lie",
  { settled: "Well settled", poured: "Poured only", "loose-cartridge": "Loose" },
  { fault: "Say how the beads lie: settled, poured or loose." },
);
export type Packing = ValueOf<typeof PACKING>;

/** How an opened or sealed bag was kept. */
export const CONTAINER = choice(
  "How the bag was kept",
  {
    "sealed-foil": "Sealed foil",
    "snap-lid-pail": "Snap-lid pail",
    "heat-resealed": "Heat-resealed",
    "rolled-or-zip": "Rolled or zip",
    "shrink-film": "Shrink film",
    "left-open": "Left open",
  },
  { fault: "Say how the bag was kept." },
);
export type Container = ValueOf<typeof CONTAINER>;

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

/** Share of capacity by how well the beads settled: planning assumptions. */
export const PACKING_FACTORS: Readonly<Record<Packing, number>> = { settled: 1, poured: 0.95, "loose-cartridge": 0.8 };

/** Times as fast in a vehicle or in the sun: a planning assumption. */
export const WARM_TIMES = 2;
/** Share of capacity that a month on the shelf leaves. @example keptMonthly("rolled-or-zip", true) // 0.96 */
export const keptMonthly = (container: Container, warm: boolean): number =>
  1 - MONTHLY_STORAGE_LOSS[container] * (warm ? WARM_TIMES : 1);

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
  return finite(keptMonthly(stored.container, stored.warm ?? false) ** stored.months);
}

/** Share of capacity left after standing wet in the vessel. @example standingFactor(24) // 0.887 */
export function standingFactor(months: number): Result<number> {
  const ranges = checkRanges({ months }, { months: RANGES.months });
  return ranges.ok ? finite((1 - MONTHLY_STANDING_LOSS) ** months) : ranges;
}
