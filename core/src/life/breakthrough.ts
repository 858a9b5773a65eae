import { fail, succeed, type Result } from "../result";
import { risingRootNear, type ValueAndSlope } from "../numerics/root";
import { firstFrom } from "../numerics/search";

/**
 * Breakthrough `X = (EC_out - floor)/(EC_feed - floor)` against throughput `T`, the load put on as a share of capacity:
 * constant pattern under film control with no return (Hall, Eagleton, Acrivos and Vermeulen 1966).
 *
 * @param throughput T, 0 or more
 * @param transferUnits N, above 0
 * @returns a share from exp(-N) to 1
 * @example breakthrough(1, 30) // exp(-1)
 */
export function breakthrough(throughput: number, transferUnits: number): number {
  if (throughput * transferUnits < 1) return Math.exp(-transferUnits);
  if (throughput <= 1 + 1 / transferUnits) return Math.min(1, Math.exp(transferUnits * (throughput - 1) - 1));
  return 1;
}

/** Flow paths of a bed: relative capacity of each, rising, and the share of the water in it and in all before it. */
export interface FlowPaths {
  readonly capacity: Float64Array;
  readonly share: Float64Array;
  readonly before: Float64Array;
}

const PATHS = 241;
const REACH = 6; // standard deviations each way

function makeFlowPaths(spread: number): FlowPaths {
  if (spread === 0) return { capacity: Float64Array.of(1), share: Float64Array.of(1), before: Float64Array.of(0) };
  const variance = Math.log(1 + spread * spread);
  const sd = Math.sqrt(variance);
  const capacity = new Float64Array(PATHS);
  const share = new Float64Array(PATHS);
  let total = 0;
  for (let i = 0; i < PATHS; i += 1) {
    const z = -REACH + (2 * REACH * i) / (PATHS - 1);
    capacity[i] = Math.exp(sd * z - variance / 2);
    share[i] = Math.exp((-z * z) / 2);
    total += share[i]!;
  }
  const before = new Float64Array(PATHS);
  for (let i = 0, sum = 0; i < PATHS; i += 1) {
    share[i] = share[i]! / total;
    before[i] = sum;
    sum += share[i]!;
  }
  return { capacity, share, before };
}

let lastSpread = -1;
let lastPaths: FlowPaths = makeFlowPaths(0);

/** Lognormal flow paths of mean 1 and this coefficient of variation; the last set is kept. */
export function flowPaths(spread: number): FlowPaths {
  if (spread !== lastSpread) {
    lastPaths = makeFlowPaths(spread);
    lastSpread = spread;
  }
  return lastPaths;
}

/**
 * Breakthrough averaged over unequal flow paths: `Σ share X(T/τ)`.
 * @example meanBreakthrough(0.9, 31.6, flowPaths(0.05)) // about 0.047
 */
export function meanBreakthrough(throughput: number, transferUnits: number, paths: FlowPaths): number {
  const { capacity, share } = paths;
  let mean = 0;
  for (let i = 0; i < capacity.length; i += 1)
    mean += share[i]! * breakthrough(throughput / capacity[i]!, transferUnits);
  return mean;
}

/** Logarithm of the averaged breakthrough over a share, and how it grows with throughput. */
function logMean(throughput: number, share: number, transferUnits: number, paths: FlowPaths): ValueAndSlope {
  const { capacity, share: weights, before } = paths;
  // The paths of least capacity are spent: they let all of their water through, whatever comes.
  const spentUpTo = throughput / spentThroughput(transferUnits);
  const last = capacity.length - 1;
  const from = Math.min(
    last,
    firstFrom(capacity.length, (i) => capacity[i]! > spentUpTo),
  );
  let [mean, slope] = [before[from]!, 0];
  for (let i = from; i <= last; i += 1) {
    const onPath = throughput / capacity[i]!;
    const part = weights[i]! * breakthrough(onPath, transferUnits);
    mean += part;
    // Before its front forms a path leaks evenly, and after its end too.
    if (onPath * transferUnits >= 1 && part < weights[i]!) slope += (part * transferUnits) / capacity[i]!;
  }
  return { value: Math.log(mean / share), slope: slope / mean };
}

/** Throughput at which every flow path of the bed is spent. */
export const spentThroughput = (transferUnits: number) => 1 + 1 / transferUnits;

/**
 * Throughput `T_b` at which breakthrough reaches `share`: `1 + (1 + ln X)/N` for even flow, else the root of the averaged
 * curve.
 *
 * @param share X_b, between exp(-N) and 1
 * @returns T_b, or the fault `unreachable` when the bed leaks more than that from the first litre
 * @example throughputAt(0.049, 31.58, 0) // 0.936
 */
export function throughputAt(share: number, transferUnits: number, spread: number): Result<number> {
  if (share >= 1) return succeed(spentThroughput(transferUnits));
  if (share <= Math.exp(-transferUnits)) {
    return fail(
      "unreachable",
      "At this flow the bed is too short: it leaks more than the limit from the first litre. Slow down or use a larger vessel.",
    );
  }
  if (spread === 0) return succeed(1 + (1 + Math.log(share)) / transferUnits);
  const paths = flowPaths(spread);
  const { capacity } = paths;
  // Every path has passed less than the share at the one end, and more at the other.
  const even = 1 + (1 + Math.log(share)) / transferUnits;
  const [low, high] = [even * capacity[0]!, even * capacity[capacity.length - 1]!];
  // Paths that end early bring it forward, the more so the more transfer units.
  const near = even - Math.min(0.5 * transferUnits * (even * spread) ** 2, 2 * spread);
  return succeed(risingRootNear((t) => logMean(t, share, transferUnits, paths), near, low, high));
}

/**
 * Share of the beads taken at a depth share ζ from the inlet, when the bed has seen throughput T: it draws the bead column.
 *
 * @param depthShare 0 at the inlet to 1 at the outlet
 * @example shareTaken(0.5, 0.1, 30) // 1, behind the front
 */
export function shareTaken(throughput: number, depthShare: number, transferUnits: number): number {
  if (throughput * transferUnits < 1) return transferUnits * throughput * Math.exp(-transferUnits * depthShare);
  return Math.min(1, Math.exp(transferUnits * (throughput - depthShare) - 1));
}

/**
 * Depth share at which half the beads are taken, 0 to 1: where the front stands.
 * @example frontDepth(0.5, 30) // 0.49
 */
export function frontDepth(throughput: number, transferUnits: number): number {
  return Math.min(1, Math.max(0, throughput - (1 + Math.log(0.5)) / transferUnits));
}
