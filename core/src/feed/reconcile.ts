import { conductivityAt25, scaleFactor, type Reading, type Scale } from "../water/meter";
import { fail, finite, within, type Result } from "../result";

export interface SideBySide {
  readonly first: Reading;
  readonly second: Reading;
}

export interface Reconciled {
  /** µS/cm at 25 °C by each meter. */
  readonly firstEc25: number;
  readonly secondEc25: number;
  /** What the numbers differ by, second over first. */
  readonly shownRatio: number;
  /** What their scales alone make of it: factor of the second over that of the first. */
  readonly scaleRatio: number;
  /** What is left once scales and temperature are taken out. */
  readonly restRatio: number;
  /** Whether the rest is within what two good meters differ by. */
  readonly agree: boolean;
  /** Scales that, set on the second meter, would explain what is left. */
  readonly wouldExplain: readonly Scale[];
}

/** Two good hand meters differ by 2 % each and a digit: their difference is taken as 5 %. A planning assumption. */
export const METERS_AGREE_WITHIN = 0.05;

const TRIED: readonly Scale[] = ["nacl", "442", "kcl", "ec"];
/** Hand meters show whole numbers. */
const LAST_DIGIT = 1;

const roomFor = ({ first, second }: SideBySide) =>
  METERS_AGREE_WITHIN + LAST_DIGIT / Math.max(1, Math.min(first.value, second.value));

/**
 * Two meters in the same cup: what their scales explain, and what is left to explain.
 *
 * @returns a fault for a reading outside its range or of 0
 * @example reconcile({ first: { value: 100, scale: "nacl" }, second: { value: 140, scale: "442" } }) // agree, rest 1
 */
export function reconcile(pair: SideBySide): Result<Reconciled> {
  const { first, second } = pair;
  const a = within("first", conductivityAt25(first));
  if (!a.ok) return a;
  const b = within("second", conductivityAt25(second));
  if (!b.ok) return b;
  if (a.value === 0 || b.value === 0)
    return fail(
      "pure",
      "Compare the meters in tap water: at 0 every scale looks the same.",
      a.value === 0 ? "first" : "second",
    );
  const restRatio = b.value / a.value;
  const room = Math.log1p(roomFor(pair));
  const agrees = (ratio: number) => Math.abs(Math.log(ratio)) <= room;
  const agree = agrees(restRatio);
  const wouldExplain = agree
    ? []
    : TRIED.filter(
        (scale) =>
          scaleFactor(scale) !== scaleFactor(second.scale) &&
          agrees((restRatio * scaleFactor(second.scale)) / scaleFactor(scale)),
      );
  return finite({
    firstEc25: a.value,
    secondEc25: b.value,
    shownRatio: second.value / first.value,
    scaleRatio: scaleFactor(second.scale) / scaleFactor(first.scale),
    restRatio,
    agree,
    wouldExplain,
  });
}

export interface StandardCheck {
  readonly scale: Scale;
  /** What the bottle says, µS/cm at 25 °C. */
  readonly standardEc25: number;
  /** What the meter showed in it. */
  readonly shown: number;
  /** What it shows in pure water, on its own scale (default 0). */
  readonly offset?: number | undefined;
}

export interface CheckedMeter {
  /** What it should have shown. */
  readonly expected: number;
  /** Error as a share of the expected: 0.04 reads 4 % high. */
  readonly error: number;
  readonly good: boolean;
  /** ppm (or µS/cm) shown per µS/cm: its true factor. */
  readonly ownFactor: number;
}

/** A hand meter within this share of its standard is good: the usual statement of accuracy is 2 %, and a digit. */
export const METER_GOOD_WITHIN = 0.03;

/**
 * A meter against a standard solution: its error, and the factor by which it really reads.
 * @example checkMeter({ scale: "nacl", standardEc25: 1413, shown: 735 }) // error +0.04, own factor 0.520
 */
export function checkMeter({ scale, standardEc25, shown, offset = 0 }: StandardCheck): Result<CheckedMeter> {
  const standard = within("standardEc25", conductivityAt25({ value: standardEc25, scale: "ec" }));
  if (!standard.ok) return standard;
  const read = within("shown", conductivityAt25({ value: shown, scale }));
  if (!read.ok) return read;
  if (standard.value === 0 || shown <= offset)
    return fail(
      "no-check",
      "The standard must be above 0, and the meter must show more in it than in pure water.",
      "shown",
    );
  const expected = standard.value * scaleFactor(scale);
  const error = (shown - offset) / expected - 1;
  return finite({
    expected,
    error,
    good: Math.abs(error) <= METER_GOOD_WITHIN + LAST_DIGIT / Math.max(1, expected),
    ownFactor: (shown - offset) / standard.value,
  });
}
