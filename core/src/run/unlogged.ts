import { TOGETHER } from "../belief/groups";
import type { Id } from "../descriptor/identity";
import { time } from "./readings";
import type { ChargeLedger } from "./ledger-facts";

/** Water of a charge that nobody typed: what went between two moments is unknown, not none. */
export interface Unlogged {
  /** The visit at its end. */
  readonly visitId: Id;
  /** Milliseconds since 1970: the visit before, or the filling. */
  readonly since: number;
  readonly at: number;
  /** The meter's first total: what it showed at the filling was never said. */
  readonly isFirstTotal: boolean;
}

/**
 * Water of a charge that is unknown: before a reading for which nobody typed any, and before a meter's first total. What a
 * later total counts along is known again; looks right after each other have no water between them.
 *
 * @returns oldest first
 * @example unloggedOf(ledger) // a reading at 8:00 with its total, one at 17:00 without: [{ visitId, since: 8:00, at: 17:00 }]
 */
export function unloggedOf({ charge, lines }: Pick<ChargeLedger, "charge" | "lines">): readonly Unlogged[] {
  let unknown: Unlogged[] = [];
  let since = time(charge.filledAt);
  for (const { visit, at, isFirstTotal = false, trouble } of lines) {
    if (!visit) continue;
    // A total counts what was not typed since the one before.
    if (visit.water?.by === "total" && !isFirstTotal && trouble === undefined)
      unknown = unknown.filter((each) => each.isFirstTotal);
    const isMissing = visit.water === undefined && visit.readings.some(({ point }) => point === "output");
    if (isFirstTotal || (isMissing && at - since > TOGETHER))
      unknown.push({ visitId: visit.id, since, at, isFirstTotal });
    since = at;
  }
  return unknown;
}
