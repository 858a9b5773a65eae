import { checkRanges, isWithin, RANGES } from "../ranges";
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

/** How far below the smallest gap and above the whole span of the readings the time constant is looked for. */
const REACH = { below: 8, above: 100 } as const;
const COARSE_STEPS = 160;
const FINE_STEPS = 60;

interface Trial extends Curve {
  /** Sum of squares. */
  readonly misfit: number;
}

/** The best floor and height for one time constant, by linear least squares; a floor below 0 is 0. */
function trialAt(seconds: readonly number[], ec: readonly number[], tau: number): Trial {
  const first = seconds[0]!;
  const n = seconds.length;
  let [sumE, sumY, sumEE, sumEY] = [0, 0, 0, 0];
  for (let i = 0; i < n; i += 1) {
    const e = Math.exp((first - seconds[i]!) / tau);
    const y = ec[i]!;
    sumE += e;
    sumY += y;
    sumEE += e * e;
    sumEY += e * y;
  }
  const spread = n * sumEE - sumE * sumE;
  const free = spread > 1e-12 * n * sumEE ? (n * sumEY - sumE * sumY) / spread : 0;
  const floorFree = (sumY - free * sumE) / n;
  const [floor, height] = floorFree < 0 ? [0, sumEY / sumEE] : [floorFree, free];
  let misfit = 0;
  for (let i = 0; i < n; i += 1) misfit += (floor + height * Math.exp((first - seconds[i]!) / tau) - ec[i]!) ** 2;
  return { initial: floor + height * Math.exp(first / tau), floor, tau, misfit: height > 0 ? misfit : Infinity };
}

/** The least of a function between two points that bracket it, by golden section (Kiefer 1953). */
function leastBetween(misfit: (at: number) => number, low: number, high: number): number {
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [low, high];
  let [c, d] = [b - ratio * (b - a), a + ratio * (b - a)];
  let [fc, fd] = [misfit(c), misfit(d)];
  for (let step = 0; step < FINE_STEPS; step += 1) {
    if (fc <= fd) {
      [b, d, fd] = [d, c, fc];
      c = b - ratio * (b - a);
      fc = misfit(c);
    } else {
      [a, c, fc] = [c, d, fd];
      d = a + ratio * (b - a);
      fd = misfit(d);
    }
  }
  return (a + b) / 2;
}

/** Least squares of all three figures: one search over the logarithm of τ, coarse and then fine. */
function fitCurve(seconds: readonly number[], ec: readonly number[]): Trial {
  const gaps = seconds.slice(1).map((t, i) => t - seconds[i]!);
  const low = Math.log(Math.min(...gaps.filter((gap) => gap > 0)) / REACH.below);
  const high = Math.log((seconds[seconds.length - 1]! - seconds[0]!) * REACH.above);
  const step = (high - low) / COARSE_STEPS;
  const misfit = (logTau: number) => trialAt(seconds, ec, Math.exp(logTau)).misfit;
  let best = high;
  for (let i = 0, least = Infinity; i <= COARSE_STEPS; i += 1) {
    const found = misfit(low + i * step);
    if (found < least) [least, best] = [found, low + i * step];
  }
  return trialAt(seconds, ec, Math.exp(leastBetween(misfit, best - step, best + step)));
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
 * Start-up creep after standing: `EC(t) = floor + (initial - floor) exp(-t/τ)` by least squares, the load it sends to the
 * resin, and how long diverting it to drain pays. For each τ the best floor and start follow from linear least squares, so
 * that one search over ln τ finds every fit (variable projection, Golub and Pereyra 1973). The readings may come in any order.
 *
 * @returns a fault for fewer than four readings, readings that don't fall, or that begin too late
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
  if (!(initial > floor)) return cannotFit("These readings don't fall towards a level.");
  if (!isWithin(initial, RANGES.observed))
    return cannotFit("These readings begin too late to tell how high the start was.");
  const { flow, startsPerWeek, pricePerEquivalent, pricePerLitre } = input;
  const loadPerStart = loadOfStart(flow, curve);
  const perMilliequivalent = pricePerEquivalent === undefined ? undefined : pricePerEquivalent / 1000;
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
    fitError: Math.sqrt(curve.misfit / seconds.length),
  });
}

/** Until the resin saved by a litre is worth less than the litre, s; never negative. */
function divertSeconds({ initial, floor, tau }: Curve, perMilliequivalent: number, perLitre: number): number {
  const worth = (perMilliequivalent * (initial - floor)) / 100 / perLitre;
  return worth <= 1 ? 0 : tau * Math.log(worth);
}
