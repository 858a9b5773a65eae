import { risingRoot } from "../numerics/root";
import { fail, finite, type Result } from "../result";
import { membrane, type MembraneAnswer, type MembraneInput } from "./membrane";

/** Two like membranes, the second on what the first one wastes. */
export interface TwoInARow {
  /** Product of both, L/min and µS/cm. */
  readonly flow: number;
  readonly ec25: number;
  /** Litres wasted for a litre made. */
  readonly wasteRatio: number;
  /** Each by itself; the first one's recovery follows from what the second one lets past. */
  readonly first: MembraneAnswer;
  readonly second: MembraneAnswer;
  readonly firstRecovery: number;
}

/** What is left of a feed once a share of it has become product, µS/cm. @example rejected(420, 12, 0.25) // 556 */
export const rejected = (ec25: number, product: number, recovery: number) =>
  (ec25 - recovery * product) / (1 - recovery);

/** Relative; a flow between them that is farther off is no balance. */
const CLOSE = 1e-6;
const LEAST_RECOVERY = 1e-9;
/** A second membrane that makes less than this share of the first is one too many. */
const LEAST_SHARE = 0.25;

interface AtRecovery {
  readonly first: MembraneAnswer;
  readonly second: MembraneAnswer;
  /** What the second one takes in, L/min, and the recovery of the first that leaves just that. */
  readonly intoSecond: number;
  readonly balanced: number;
}

function atRecovery(input: MembraneInput, firstRecovery: number): Result<AtRecovery> {
  const { feed, recovery } = input;
  const first = membrane({ ...input, recovery: firstRecovery });
  if (!first.ok) return first;
  const second = membrane({ ...input, feed: { ...feed, ec25: rejected(feed.ec25, first.value.ec25, firstRecovery) } });
  if (!second.ok) return second;
  const intoSecond = second.value.flow / recovery;
  const balanced = first.value.flow / (first.value.flow + intoSecond);
  return { ok: true, value: { first: first.value, second: second.value, intoSecond, balanced } };
}

/**
 * Two membranes in a row, the second one fed by the first one's reject at the same pressure: two of `membrane`, with the
 * flow between them in balance. The setting is the second one's: its recovery is the one that is asked for, so that the
 * reject of both ends no thicker than the setting makes it.
 *
 * @returns a fault for a figure outside its range, or where the pressure drives nothing through either
 * @example twoInARow({ feed: { ec25: 430, temperature: 9, pressure: 365 }, recovery: 0.25,
 *   rated: { flow: 0.19, rejection: 0.97, pressure: 345, ec25: 1000, recovery: 0.15 } }).value.wasteRatio // 1.49, of one 3
 */
export function twoInARow(input: MembraneInput): Result<TwoInARow> {
  const alone = membrane(input);
  if (!alone.ok) return alone;
  const { recovery } = input;
  // Where the pressure drives nothing through the second one, the first one takes too much out.
  const tooMuch = (firstRecovery: number) => {
    const at = atRecovery(input, firstRecovery);
    return at.ok ? firstRecovery - at.value.balanced : 1;
  };
  const firstRecovery = risingRoot(tooMuch, LEAST_RECOVERY, recovery / (recovery + LEAST_SHARE));
  const at = atRecovery(input, firstRecovery);
  if (!at.ok) return at;
  const { first, second, intoSecond, balanced } = at.value;
  if (Math.abs(balanced - firstRecovery) > CLOSE * balanced)
    return fail(
      "no-balance",
      "What the first membrane leaves is too thick for the second: it wants more pressure or a lower recovery.",
      "recovery",
    );
  const flow = first.flow + second.flow;
  return finite({
    flow,
    ec25: (first.flow * first.ec25 + second.flow * second.ec25) / flow,
    wasteRatio: (intoSecond - second.flow) / flow,
    first,
    second,
    firstRecovery,
  });
}
