import { lifeRange, type ThreeOf } from "./life-range";
import type { LifeInput } from "./life";
import { CONSTANT_PER_CAPACITY, describeCapacity, type Capacity } from "../resin/capacity";
import { fail, finite, succeed, within, type Result } from "../result";
import { LITRES_PER_CUBIC_FOOT, LITRES_PER_US_GALLON } from "../units/constants";
import { describeWater, type Water } from "../water/water";

/** The four ways good practitioners predict a life. */
export type School = "constant" | "rating" | "chemistry" | "history";

export interface SchoolsInput extends Omit<LifeInput, "water"> {
  readonly waters: ThreeOf<Water>;
  /** US gal·ppm per ft³ on the sodium-chloride scale. */
  readonly constant: number;
  readonly rating?: Extract<Capacity, { ratedLitres: number }>;
  /** Own capacity of past charges, eq/L on the visible load. */
  readonly history?: { readonly low: number; readonly median: number; readonly high: number };
}

export interface SchoolLife extends ThreeOf<number> {
  readonly school: School;
}

/** Litres by the trade constant, bare: `K / ppm × volume`, as the trade says it. */
export const litresByConstant = (constant: number, ppmNacl: number, resinLitres: number): number =>
  (constant / ppmNacl) * (resinLitres / LITRES_PER_CUBIC_FOOT) * LITRES_PER_US_GALLON;

/** Litres by a vendor's rating, bare: rated litres scaled by feed and by resin volume. */
export const litresByRating = (capacity: number, ec25: number, resinLitres: number): number =>
  (capacity * 1000 * resinLitres) / (ec25 / 100);

const three = (of: (key: "low" | "typical" | "high") => number): ThreeOf<number> => ({
  low: of("high"),
  typical: of("typical"),
  high: of("low"),
});

/**
 * One life by each school, litres; a school without its facts (no rating entered, no past charge) is left out.
 * Constant and rating are bare, as their users say them: no kinetics, no limit, no carbon dioxide.
 *
 * @example livesBySchool({ ...typed, constant: 200_000 }) // [{ school: "constant", low, typical, high }, { school: "chemistry", ... }]
 */
export function livesBySchool(input: SchoolsInput): Result<readonly SchoolLife[]> {
  const { waters, constant, rating, history, ...rest } = input;
  const feeds: Record<string, number> = {};
  for (const key of ["low", "typical", "high"] as const) {
    const water = within(`waters.${key}`, describeWater(waters[key]));
    if (!water.ok) return water;
    feeds[key] = water.value.ec25;
  }
  const resin = rest.bed.volume;
  const trade = describeCapacity({ constant, scale: "nacl" });
  if (!trade.ok) return trade;
  const lives: SchoolLife[] = [
    {
      school: "constant",
      ...three((key) => litresByConstant(trade.value.cation * CONSTANT_PER_CAPACITY, feeds[key]! * 0.5, resin)),
    },
  ];
  if (rating) {
    const rated = describeCapacity(rating);
    if (!rated.ok) return within("rating", rated);
    lives.push({ school: "rating", ...three((key) => litresByRating(rated.value.cation, feeds[key]!, resin)) });
  }
  const chemistry = lifeRange({ ...rest, waters, ...batchesOf(rest.capacity) });
  if (!chemistry.ok) return chemistry;
  const litres = chemistry.value;
  lives.push({ school: "chemistry", low: litres.low.litres, typical: litres.typical.litres, high: litres.high.litres });
  if (history) {
    const visible = ownHistoryRange({ ...input, history });
    if (!visible.ok) return visible;
    lives.push(visible.value);
  }
  return finite(lives);
}

/** The batches of a grade at the ends of the range; what was stated otherwise is as it was stated. */
const batchesOf = (capacity: Capacity) =>
  "grade" in capacity
    ? {
        capacities: {
          low: { ...capacity, batch: "weak" },
          typical: capacity,
          high: { ...capacity, batch: "strong" },
        } satisfies ThreeOf<Capacity>,
      }
    : {};

/** Own history speaks of what the meter saw: the life rests on the visible load alone, at the present flow and limit. */
function ownHistoryRange(
  input: SchoolsInput & { readonly history: NonNullable<SchoolsInput["history"]> },
): Result<SchoolLife> {
  const { waters, history } = input;
  const sides = (q: number) => ({ cation: q, anion: q });
  const visible: Partial<Record<keyof ThreeOf<Water>, Water>> = {};
  for (const key of ["low", "typical", "high"] as const) {
    const water = describeWater(waters[key]);
    if (!water.ok) return water;
    visible[key] = { reading: { value: water.value.ec25, scale: "ec" } };
  }
  const range = lifeRange({
    bed: input.bed,
    limit: input.limit,
    waters: visible as ThreeOf<Water>,
    capacities: { low: sides(history.low), typical: sides(history.median), high: sides(history.high) },
    ...(input.storage === undefined ? {} : { storage: input.storage }),
    ...(input.packing === undefined ? {} : { packing: input.packing }),
  });
  if (!range.ok) return range;
  const { low, typical, high } = range.value;
  return succeed({ school: "history", low: low.litres, typical: typical.litres, high: high.litres });
}

/** Largest over smallest typical life; 1 when all agree. */
export function spreadOfSchools(
  lives: readonly SchoolLife[],
): Result<{ readonly least: number; readonly most: number; readonly ratio: number }> {
  const typical = lives.map((each) => each.typical).filter((litres) => litres > 0);
  if (typical.length === 0) return fail("no-life", "No school gives a life for these figures.");
  const [least, most] = [Math.min(...typical), Math.max(...typical)];
  return finite({ least, most, ratio: most / least });
}
