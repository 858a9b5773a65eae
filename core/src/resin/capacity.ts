import { checkScale, scaleFactor, type Scale } from "../water/meter";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, within, type Result } from "../result";
import {
  CACO3_MG_PER_MEQ,
  LITRES_PER_CUBIC_FOOT,
  MILLIGRAMS_PER_GRAIN,
  US_GALLONS_PER_CUBIC_FOOT,
} from "../units/constants";
import { choice, type ValueOf } from "../descriptor/field";

export const GRADE = choice(
  "The resin",
  { virgin: "Virgin", dyed: "Virgin, dyed", regenerated: "Regenerated" },
  { fault: "Choose virgin, dyed or regenerated resin.", label: "Resin" },
);
export type Grade = ValueOf<typeof GRADE>;

/** Capacity of each side of a mixed bed, eq per litre of mixed resin. */
export interface Sides {
  readonly cation: number;
  readonly anion: number;
}

/**
 * Planning assumptions for new resin, eq/L. Regenerated resin of a service exchange holds 35 to 45 % less than virgin, and
 * differs by batch.
 */
export const GRADE_CAPACITIES: Readonly<Record<Grade, Sides>> = {
  virgin: { cation: 0.68, anion: 0.56 },
  dyed: { cation: 0.68, anion: 0.54 },
  regenerated: { cation: 0.46, anion: 0.36 },
};

/** One kind of beads alone, in a bed of its own. */
export type Beads = "cation" | "anion";

/** eq per litre of a bed of one kind of beads, cation beads in the hydrogen and anion beads in the hydroxide form: planning assumptions. */
export const SINGLE_BEADS: Readonly<Record<Grade, Readonly<Record<Beads, number>>>> = {
  virgin: { cation: 1.8, anion: 1 },
  dyed: { cation: 1.8, anion: 0.96 },
  regenerated: { cation: 1.2, anion: 0.64 },
};

/** A batch of resin: as the grade usually is, or as weak or strong as batches of it come. */
export type Batch = "weak" | "usual" | "strong";

/** What the anion side of a weak and of a strong batch holds, beside the usual one: regenerated resin comes with 0.30 to 0.45 eq/L. */
const BATCH_SHARES: Readonly<Record<Grade, Readonly<Record<Batch, number>>>> = {
  virgin: { weak: 1, usual: 1, strong: 1 },
  dyed: { weak: 1, usual: 1, strong: 1 },
  regenerated: { weak: 0.3 / 0.36, usual: 1, strong: 0.45 / 0.36 },
};

/** How fast ions reach the beads, beside virgin resin: planning assumptions. */
export const GRADE_HEALTH: Readonly<Record<Grade, number>> = { virgin: 1, dyed: 1, regenerated: 0.6 };

/** The four ways people state what a resin holds. */
export type Capacity =
  | { readonly grade: Grade; readonly batch?: Batch }
  | { readonly constant: number; readonly scale: Scale }
  | { readonly ratedLitres: number; readonly ratedPpm: number; readonly scale: Scale; readonly resinLitres: number }
  | Sides;

export interface CapacityAnswer extends Sides {
  /** US gal·ppm per ft³ on the sodium-chloride scale, from the smaller side. */
  readonly constant: number;
  /** As CaCO3 per ft³. */
  readonly kilograins: number;
}

/** gal·ppm per ft³ on the sodium-chloride scale that equal 1 eq/L: 50,000 mg/eq × gal per ft³. */
export const CONSTANT_PER_CAPACITY = CACO3_MG_PER_MEQ * 1000 * US_GALLONS_PER_CUBIC_FOOT;

/** Trade constants in use, US gal·ppm per ft³ on the sodium-chloride scale. */
export const TRADE_CONSTANT_BAND = { low: 150_000, high: 260_000 } as const;

export const smallerSide = (sides: Sides) => Math.min(sides.cation, sides.anion);

/** eq/L above which a claim is more than a mixed bed's own chemistry can hold: virgin resin, by the side that binds. */
export const CHEMISTRY_CEILING = smallerSide(GRADE_CAPACITIES.virgin);

type CapacityFigure = "constant" | "ratedLitres" | "ratedPpm" | "resinLitres" | "cation" | "anion";

function checkStatement(capacity: Capacity): Result<true> {
  if ("grade" in capacity && !(capacity.grade in GRADE_CAPACITIES)) {
    return fail("unknown-grade", "Choose virgin, dyed or regenerated resin.", "grade");
  }
  if ("scale" in capacity) {
    const scale = checkScale(capacity.scale);
    if (!scale.ok) return scale;
  }
  return checkRanges(capacity as Partial<Record<CapacityFigure, number>>, {
    constant: RANGES.constant,
    ratedLitres: RANGES.ratedLitres,
    ratedPpm: RANGES.ratedPpm,
    resinLitres: RANGES.volume,
    cation: RANGES.capacity,
    anion: RANGES.capacity,
  });
}

function sidesOf(capacity: Capacity): Sides {
  if ("grade" in capacity) {
    const share = BATCH_SHARES[capacity.grade][capacity.batch ?? "usual"];
    const { cation, anion } = GRADE_CAPACITIES[capacity.grade];
    return { cation: share * cation, anion: share * anion };
  }
  if ("constant" in capacity) {
    const both = (capacity.constant * (0.5 / scaleFactor(capacity.scale))) / CONSTANT_PER_CAPACITY;
    return { cation: both, anion: both };
  }
  if ("ratedLitres" in capacity) {
    const load = capacity.ratedPpm / (100 * scaleFactor(capacity.scale));
    const both = (capacity.ratedLitres * load) / (1000 * capacity.resinLitres);
    return { cation: both, anion: both };
  }
  return { cation: capacity.cation, anion: capacity.anion };
}

/**
 * Brings any statement of capacity to eq per litre of each side, to the trade constant and to kilograins.
 *
 * @example describeCapacity({ grade: "virgin" }) // 0.68 / 0.56 eq/L, 209,455 gal·ppm/ft³, 12.24 kgr/ft³
 */
export function describeCapacity(capacity: Capacity): Result<CapacityAnswer> {
  const checked = checkStatement(capacity);
  if (!checked.ok) return checked;
  const sides = sidesOf(capacity);
  const smaller = smallerSide(sides);
  return within(
    "capacity",
    finite({
      ...sides,
      constant: smaller * CONSTANT_PER_CAPACITY,
      kilograins: (smaller * CACO3_MG_PER_MEQ * LITRES_PER_CUBIC_FOOT) / MILLIGRAMS_PER_GRAIN,
    }),
  );
}
