import { scaleFactor, type Scale } from "../water/meter";
import type { TapRange } from "./tap-range";

/** A reading that does not fit, with what may be behind it; the technician decides. */
export interface Doubt {
  /** Reading against the typical, 1 for as usual. */
  readonly ratio: number;
  /** Likeliest first, each with what to do. */
  readonly possibilities: readonly string[];
}

export interface NewReading {
  readonly value: number;
  readonly scale: Scale;
  readonly ec25: number;
}

/** Another tap, for the chance that this one was read by mistake. */
export interface OtherTap {
  readonly name: string;
  /** µS/cm. */
  readonly typical: number;
}

/** Two-sided 99 % of the days. */
const UNUSUAL = 2.5758293035489004;
/** Below this a difference is what taps do. */
const LEAST_DIFFERENCE = 0.2;
const LIKE_ANOTHER = 0.1;
const NEARLY_PURE = 0.25;

const NAMED_SCALES: readonly (readonly [Scale, string])[] = [
  ["nacl", "NaCl"],
  ["442", "442"],
  ["ec", "µS/cm"],
];

const near = (a: number, b: number, share: number) => Math.abs(Math.log(a / b)) < Math.log1p(share);

function scaleMixUps(reading: NewReading, range: TapRange): string[] {
  const factor = scaleFactor(reading.scale);
  return NAMED_SCALES.flatMap(([scale, name]) => {
    const other = scaleFactor(scale);
    const asIf = (reading.ec25 * factor) / other;
    const fits = asIf >= range.low && asIf <= range.high;
    return other !== factor && fits ? [`If the meter stood on ${name}, this is as usual: look at its setting.`] : [];
  });
}

/**
 * Whether a reading does not fit its tap, and what may be behind it. It is a question, never a refusal.
 *
 * @returns nothing when the reading fits or fewer than two days are known
 * @example questionReading({ value: 300, scale: "nacl", ec25: 600 }, range, []) // "If the meter stood on 442, ..."
 */
export function questionReading(
  reading: NewReading,
  range: TapRange | undefined,
  others: readonly OtherTap[],
): Doubt | undefined {
  if (!range || range.days < 2 || reading.ec25 <= 0) return undefined;
  const ratio = reading.ec25 / range.typical;
  const room = Math.max(UNUSUAL * range.spread * Math.sqrt(1 + 1 / range.days), Math.log1p(LEAST_DIFFERENCE));
  if (Math.abs(Math.log(ratio)) <= room) return undefined;
  const likeAnother = others
    .filter((other) => near(reading.ec25, other.typical, LIKE_ANOTHER))
    .map((other) => `It reads like ${other.name}: is this the right tap?`);
  const general =
    ratio > 1
      ? ["The line may have stood: run it a minute or two and read again.", "The supplier may have changed the source."]
      : ratio < NEARLY_PURE
        ? ["This is nearly pure water: was the probe in the product line?"]
        : [
            "A dry or dirty probe, or air on it, reads low: rinse it, shake it and read again.",
            "Rain or a blended supply can bring it down.",
          ];
  return { ratio, possibilities: [...scaleMixUps(reading, range), ...likeAnother, ...general] };
}
