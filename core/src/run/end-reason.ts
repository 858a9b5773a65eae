import { groupsOf } from "../belief/groups";
import { loadUsed } from "../ledger/water-used";
import { LAST_SHARE } from "../belief/owner";
import type { EndReason } from "../resin/charge.record";
import type { Vessel } from "../vessel/vessel.record";
import { onScale, type Scale } from "../water/meter";
import type { ChargeLedger } from "./ledger-facts";
import { limitOf } from "./hydraulics";

/** What the last readings of a charge say about why it ends. */
export interface ReasonSeen {
  /** The reason they bear out. */
  readonly why: Exclude<EndReason, "fault">;
  /** The last output, on the scale of the meter that saw it, and the limit on the same. */
  readonly output: number;
  readonly limit: number;
  readonly scale: Scale;
}

/**
 * The reason that the last output readings bear out: at or above the limit it was reached, below it the charge was changed
 * early. Readings speak of the end when they are from the last 15 % of the load.
 *
 * @returns nothing where no reading speaks of the end
 */
export function reasonSeen({ charge, outputs, lines }: ChargeLedger, vessel: Vessel): ReasonSeen | undefined {
  const groups = groupsOf(outputs, charge.resinLitres);
  const last = groups[groups.length - 1];
  const reading = outputs[outputs.length - 1];
  if (!last || !reading || last.meq < (1 - LAST_SHARE) * loadUsed(lines).meq) return undefined;
  const limit = limitOf(vessel);
  const { scale } = reading;
  const why = last.ec25 >= limit ? "limit" : "early";
  return { why, output: onScale(last.ec25, scale), limit: onScale(limit, scale), scale };
}

/** Whether a reason goes against what the last readings say; a fault never does. */
export const isAgainstReadings = (why: EndReason, seen: ReasonSeen | undefined): boolean =>
  seen !== undefined && why !== "fault" && why !== seen.why;
