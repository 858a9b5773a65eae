import type { WeighedReading } from "../belief/groups";
import type { OwnerBelief } from "../belief/owner";
import type { ByLoad } from "../front/product-curve";
import type { WaterUse } from "../ledger/water-used";
import type { Id } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import type { Arrangement } from "../rig/arrangement.record";
import type { Rig } from "../rig/rig.record";
import type { Visit } from "../rig/visit.record";
import type { Vessel } from "../vessel/vessel.record";
import type { Scale } from "../water/meter";
import type { WaterReport } from "../water/water-report.record";
import type { FeedFacts } from "./feed-history";

/** A product reading with its place in the charge. */
export interface OutputReading extends WeighedReading {
  readonly visitId: Id;
  /** Milliseconds since 1970. */
  readonly at: number;
  /** As it was seen. */
  readonly value: number;
  readonly scale: Scale;
}

/** How the feed of a bed is known: as the tap's, read behind the bed before, or believed of that bed. */
export type FedBy = "tap" | "read" | "believed";

/** One visit as the ledger counts it. */
export interface LedgerLine extends WaterUse {
  /** Absent for water that only a filling's total shows. */
  readonly visit?: Visit;
  readonly at: number;
  /** Why the water could not be counted. */
  readonly trouble?: string;
  /** The first total of its meter: what it showed before is not known. */
  readonly isFirstTotal?: boolean;
  /** The rig it stood in, and its place among the beds there: 0 for the lead. */
  readonly rigId: Id;
  readonly place: number;
  readonly fedBy: FedBy;
  /** What reached the first bed, µS/cm. */
  readonly tapEc25: number;
  /** Of a bed behind others, where the composition is known: share of each load that came through them, by curve. */
  readonly loads?: ByLoad<readonly number[]>;
}

export interface ChargeLedger {
  readonly charge: Charge;
  readonly lines: readonly LedgerLine[];
  readonly outputs: readonly OutputReading[];
  /** meq of each load, by curve; only of a charge that stood behind others where the composition is known. */
  readonly loads?: ByLoad<readonly number[]>;
}

/** What tells who stood where when, of every rig that shares a vessel with the one that is asked about. */
export interface TrainRecords {
  readonly rigs: readonly Rig[];
  readonly vessels: readonly Vessel[];
  readonly arrangements: readonly Arrangement[];
}

export interface LedgerFacts extends FeedFacts {
  /** Oldest first: of one vessel alone, or of all vessels that `train` tells of. */
  readonly charges: readonly Charge[];
  /** Absent where one vessel stands alone in the rig all the time. */
  readonly train?: TrainRecords;
  readonly reports?: readonly WaterReport[];
  /** What is believed of the resin in each vessel; the grade alone where nothing is said. */
  readonly owners?: ReadonlyMap<Id, OwnerBelief>;
}
