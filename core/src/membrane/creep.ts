import { levenbergMarquardt } from "ml-levenberg-marquardt";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, succeed, within, type Result } from "../result";
import { conductivityAt25, type Scale } from "../water/meter";

export interface CreepInput {
  /** Product after standing: seconds since the start and what the meter showed. */
  readonly readings: readonly { readonly seconds: number; readonly value: number }[];
  readonly scale: Scale;
  /** L/min. */
  readonly flow: number;
  readonly startsPerWeek?: number;
  /** Money per equivalent of resin capacity. */
  readonly pricePerEquivalent?: number;
  /** Money per litre of product thrown away. */
  readonly pricePerLitre?: number;
}

export interface CreepAnswer {
  /** At 0 s, µS/cm. */
  readonly initial: number;
  /** Where it settles, µS/cm. */
  readonly floor: number;
  /** Time constant, s. */
  readonly tau: number;
  /** meq sent to the resin in one start above the usual floor. */
  readonly loadPerStart: number;
  /** How long diverting pays, s; only when both prices are known. */
  readonly divertSeconds?: number;
  /** Money a year of resin when nothing is diverted. */
  readonly costPerYear?: number;
  /** Root mean square distance of the readings, µS/cm. */
  readonly fitError: number;
}

const LEAST_READINGS = 4;
const WEEKS_A_YEAR = 52;

const cannotFit = (why: string) => fail("no-fit", `${why} No start-up curve can be drawn through them.`, "readings");

interface Curve {
  readonly initial: number;
  readonly floor: number;
  readonly tau: number;
}

const at = ({ initial, floor, tau }: Curve, seconds: number) => floor + (initial - floor) * Math.exp(-seconds / tau);

/** A start for the fit: the last reading as the floor, the first as the height, the time at which 63 % are gone. */
function seedOf(seconds: readonly number[], ec: readonly number[]): Curve {
  const floor = Math.min(...ec);
  const initial = Math.max(...ec);
  const reached = ec.findIndex((value) => value - floor <= (initial - floor) / Math.E);
  const tau = Math.max(seconds[Math.max(1, reached)]! - seconds[0]!, 1e-6 * (1 + seconds[seconds.length - 1]!));
  return { initial, floor, tau };
}

/** Least squares of all three figures, in units of the seed so that the optimizer sees numbers near 1. */
function fitCurve(seconds: readonly number[], ec: readonly number[]): Curve {
  const seed = seedOf(seconds, ec);
  const height = seed.initial - seed.floor;
  const { parameterValues } = levenbergMarquardt(
    { x: seconds.map((t) => t / seed.tau), y: ec.map((value) => value / height) },
    ([initial, floor, rate]) =>
      (t) =>
        floor! + (initial! - floor!) * Math.exp(-t * rate!),
    {
      initialValues: [seed.initial / height, seed.floor / height, 1],
      damping: 1e-2,
      gradientDifference: 1e-6,
      centralDifference: true,
      maxIterations: 500,
      errorTolerance: 1e-16,
    },
  );
  const [initial, floor, rate] = parameterValues as [number, number, number];
  return { initial: initial * height, floor: floor * height, tau: seed.tau / rate };
}

function inTime({ readings, scale }: CreepInput): Result<{ seconds: number[]; ec: number[] }> {
  const sorted = [...readings].sort((a, b) => a.seconds - b.seconds);
  const ec: number[] = [];
  for (const [i, { value }] of sorted.entries()) {
    const converted = within(`readings.${i}`, conductivityAt25({ value, scale }));
    if (!converted.ok) return converted;
    ec.push(converted.value);
  }
  return succeed({ seconds: sorted.map(({ seconds }) => seconds), ec });
}

/** Whether the straight line through the readings falls. */
function falls(seconds: readonly number[], ec: readonly number[]): boolean {
  const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  const [middle, level] = [mean(seconds), mean(ec)];
  const slope = seconds.reduce((sum, t, i) => sum + (t - middle) * (ec[i]! - level), 0);
  return slope < 0;
}

function checkCreep(input: CreepInput): Result<true> {
  const { flow, startsPerWeek, pricePerEquivalent, pricePerLitre } = input;
  const own = checkRanges(
    { flow, startsPerWeek, pricePerEquivalent, pricePerLitre },
    {
      flow: RANGES.flow,
      startsPerWeek: RANGES.starts,
      pricePerEquivalent: RANGES.price,
      pricePerLitre: { ...RANGES.price, above: 0, name: "The price of a litre" },
    },
  );
  if (!own.ok) return own;
  for (const [i, reading] of input.readings.entries()) {
    const checked = within(`readings.${i}`, checkRanges(reading, { seconds: RANGES.seconds, value: RANGES.observed }));
    if (!checked.ok) return checked;
  }
  return input.readings.length < LEAST_READINGS ? cannotFit("Take at least four readings.") : succeed(true);
}

/** Load above the floor that one start sends on, meq: the area under the curve. */
const loadOfStart = (flow: number, { initial, floor, tau }: Curve) => (flow * (initial - floor) * (tau / 60)) / 100;

/**
 * Start-up creep after standing: `EC(t) = floor + (initial - floor) exp(-t/τ)` by least squares (Levenberg 1944, Marquardt
 * 1963), the load it sends to the resin, and how long diverting it to drain pays.
 *
 * @returns a fault for fewer than four readings, or readings that don't fall
 * @example creep({ readings, scale: "nacl", flow: 1.7 }) // floor 18.0 µS/cm, τ 52 s, 2.18 meq a start
 */
export function creep(input: CreepInput): Result<CreepAnswer> {
  const checked = checkCreep(input);
  if (!checked.ok) return checked;
  const timed = inTime(input);
  if (!timed.ok) return timed;
  const { seconds, ec } = timed.value;
  if (!falls(seconds, ec)) return cannotFit("These readings rise or stay level.");
  const curve = fitCurve(seconds, ec);
  const { initial, floor, tau } = curve;
  if (!(tau > 0 && initial > floor && Number.isFinite(initial - floor + tau)))
    return cannotFit("These readings don't fall towards a level.");
  const { flow, startsPerWeek, pricePerEquivalent, pricePerLitre } = input;
  const loadPerStart = loadOfStart(flow, curve);
  const perMilliequivalent = pricePerEquivalent === undefined ? undefined : pricePerEquivalent / 1000;
  const squares = seconds.reduce((sum, t, i) => sum + (at(curve, t) - ec[i]!) ** 2, 0);
  return finite({
    initial,
    floor,
    tau,
    loadPerStart,
    ...(perMilliequivalent === undefined || pricePerLitre === undefined
      ? {}
      : { divertSeconds: divertSeconds(curve, perMilliequivalent, pricePerLitre) }),
    ...(perMilliequivalent === undefined || startsPerWeek === undefined
      ? {}
      : { costPerYear: loadPerStart * startsPerWeek * WEEKS_A_YEAR * perMilliequivalent }),
    fitError: Math.sqrt(squares / seconds.length),
  });
}

/** Until the resin saved by a litre is worth less than the litre, s; never negative. */
function divertSeconds({ initial, floor, tau }: Curve, perMilliequivalent: number, perLitre: number): number {
  const worth = (perMilliequivalent * (initial - floor)) / 100 / perLitre;
  return worth <= 1 ? 0 : tau * Math.log(worth);
}
