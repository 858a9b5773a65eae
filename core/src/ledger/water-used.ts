import { firstFrom } from "../numerics/search";
import { choice, type ValueOf } from "../descriptor/field";
import { fail, succeed, type Result } from "../result";

export const WATER_QUALITY = choice(
  "How well its water is known",
  { metered: "Metered", timed: "Timed", guessed: "Guessed" },
  { fault: "Say how well the water is known: metered, timed or guessed." },
);
/** How well the litres are known. */
export type WaterQuality = ValueOf<typeof WATER_QUALITY>;

/** Relative standard deviation of the litres: planning assumptions. */
export const WATER_UNCERTAINTY: Readonly<Record<WaterQuality, number>> = { metered: 0.03, timed: 0.15, guessed: 0.3 };

/**
 * Litres between two totals of a meter, which is a register: only differences count.
 *
 * @param rollsOverAt litres at which the register starts again from 0, if known
 * @returns litres, or the fault `total-fell` when the total fell and nothing explains it
 * @example registerDifference(99_980, 40, 100_000) // 60
 */
export function registerDifference(before: number, now: number, rollsOverAt?: number): Result<number> {
  if (now >= before) return succeed(now - before);
  if (rollsOverAt !== undefined && before <= rollsOverAt) return succeed(now + rollsOverAt - before);
  return fail("total-fell", "The meter total is below the last one: mistyped, or was the meter replaced?", "total");
}

/** Water of one visit with what it carried. */
export interface WaterUse {
  readonly litres: number;
  readonly quality: WaterQuality;
  /** Feed of the resin, µS/cm at 25 °C. */
  readonly feedEc25: number;
  /** What it loads the beads with, as µS/cm of the tap's: of a bed behind others more than a meter sees of it. */
  readonly loadEc25?: number;
  /** Relative standard deviation of a feed nobody measured that day; 0 when it was read. */
  readonly feedSd: number;
}

export interface LoadUsed {
  readonly litres: number;
  /** Meter-visible load put on the resin, meq. */
  readonly meq: number;
  /** Relative standard deviation of the load. */
  readonly sd: number;
  /** The kind of water figure that most of the litres rest on. */
  readonly quality: WaterQuality;
}

/** Load of one visit's water, meq. @example meqOf({ litres: 100, feedEc25: 400, … }) // 400 */
export const meqOf = ({ litres, feedEc25, loadEc25 = feedEc25 }: WaterUse) => (litres * loadEc25) / 100;

const QUALITIES = Object.keys(WATER_UNCERTAINTY) as WaterQuality[];

/**
 * Load a charge has taken: `Σ litres × EC25/100`. Errors of one kind of water figure move together (the same watch, the same
 * guess), so they add within a kind and in squares between kinds; so do errors of a feed that nobody read.
 *
 * @example loadUsed([{ litres: 100, quality: "timed", feedEc25: 400, feedSd: 0 }]) // { meq: 400, sd: 0.15, ... }
 */
export function loadUsed(uses: readonly WaterUse[]): LoadUsed {
  const total = uses.reduce((sum, use) => sum + meqOf(use), 0);
  const litres = uses.reduce((sum, use) => sum + use.litres, 0);
  const shareOf = (quality: WaterQuality) =>
    uses.filter((use) => use.quality === quality).reduce((sum, use) => sum + meqOf(use), 0) / (total || 1);
  const variance = QUALITIES.reduce((sum, quality) => sum + (shareOf(quality) * WATER_UNCERTAINTY[quality]) ** 2, 0);
  const feed = uses.reduce((sum, use) => sum + use.feedSd * meqOf(use), 0) / (total || 1);
  const quality = QUALITIES.reduce(
    (most, each) => (shareOf(each) > shareOf(most) ? each : most),
    "metered" as WaterQuality,
  );
  return { litres, meq: total, sd: Math.sqrt(variance + feed * feed), quality };
}

/** Spread of a load nobody has put on yet: planning assumption. */
export const FRESH_SD = 0.03;

/** Relative standard deviation of a load, also of none. @example loadSdOf({ meq: 0, sd: 0 }) // 0.03 */
export const loadSdOf = ({ meq, sd }: Pick<LoadUsed, "meq" | "sd">): number => (meq > 0 ? sd : FRESH_SD);

export interface FeedPoint {
  /** Milliseconds since 1970. */
  readonly at: number;
  readonly ec25: number;
}

/** Place of the first reading at a moment or after it, in order of time; their number where none is. @example firstAtOrAfter([{ at: 5 }], 3) // 0 */
export const firstAtOrAfter = (readings: readonly { readonly at: number }[], at: number): number =>
  firstFrom(readings.length, (place) => readings[place]!.at >= at);

/**
 * Feed at a moment, from the readings at that tap in order of time: interpolated between two, the last one after them, the
 * first one before them; undefined when there is none.
 *
 * @example feedAt([{ at: 0, ec25: 300 }, { at: 10, ec25: 400 }], 5) // 350
 */
export function feedAt(readings: readonly FeedPoint[], at: number): number | undefined {
  if (readings.length === 0) return undefined;
  const after = firstAtOrAfter(readings, at);
  if (after === readings.length) return readings[after - 1]!.ec25;
  if (after === 0) return readings[0]!.ec25;
  const [before, next] = [readings[after - 1]!, readings[after]!];
  const part = (at - before.at) / (next.at - before.at);
  return before.ec25 + part * (next.ec25 - before.ec25);
}
