import type { WeighedReading } from "../belief/groups";
import type { WaterUse } from "../ledger/water-used";
import type { Id } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import type { Visit } from "../rig/visit.record";
import { scaleFactor, type Scale } from "../water/meter";
import { FeedHistory, type DoubtfulFeed, type FeedFacts } from "./feed-history";
import { recordedEc25, scaleOf, time } from "./readings";
import { doubtfulTotals, Register, type Counted } from "./register";

/** A product reading with its place in the charge. */
export interface OutputReading extends WeighedReading {
  readonly visitId: Id;
  /** Milliseconds since 1970. */
  readonly at: number;
  /** As it was seen. */
  readonly value: number;
  readonly scale: Scale;
}

/** One visit as the ledger counts it. */
export interface LedgerLine extends WaterUse {
  /** Absent for water that only a filling's total shows. */
  readonly visit?: Visit;
  readonly at: number;
  /** Why the water could not be counted. */
  readonly trouble?: string;
}

export interface ChargeLedger {
  readonly charge: Charge;
  readonly lines: readonly LedgerLine[];
  readonly outputs: readonly OutputReading[];
}

export interface LedgerFacts extends FeedFacts {
  /** Every charge of the vessel, oldest first. */
  readonly charges: readonly Charge[];
}

/** A rig's books: the ledger of each charge, and all the water drawn whether a charge stood there or not. */
export interface RigLedger {
  readonly charges: readonly ChargeLedger[];
  readonly water: readonly { readonly at: number; readonly litres: number }[];
  readonly feed: FeedHistory;
  readonly doubtfulFeeds: readonly DoubtfulFeed[];
  /** Visits whose meter total is left out. */
  readonly doubtfulTotals: ReadonlySet<Id>;
}

function lineOf(at: number, tapId: Id, counted: Counted, feed: FeedHistory): Omit<LedgerLine, "visit"> {
  return { at, ...counted, feedEc25: feed.at(tapId, at), feedSd: feed.readNear(tapId, at) ? 0 : feed.unreadSd(tapId) };
}

function outputsOf(lines: readonly LedgerLine[], meters: LedgerFacts["meters"]): OutputReading[] {
  const outputs: OutputReading[] = [];
  let [litres, meq] = [0, 0];
  for (const { visit, at, ...line } of lines) {
    litres += line.litres;
    meq += (line.litres * line.feedEc25) / 100;
    for (const reading of visit?.readings ?? []) {
      const ec25 = reading.point === "output" ? recordedEc25(reading, meters) : undefined;
      if (ec25 === undefined) continue;
      const scale = scaleOf(reading, meters);
      const seen = { value: reading.value, scale, ppm: 1 / scaleFactor(scale) };
      outputs.push({ visitId: visit!.id, at, litres, meq, ec25, feedEc25: line.feedEc25, ...seen });
    }
  }
  return outputs;
}

/**
 * The books of a rig: what every visit put on the resin, and each product reading beside the load so far. A visit belongs to
 * the charge in the vessel at that moment; water up to a filling's total to the charge before.
 */
export function rigLedger(facts: LedgerFacts): RigLedger {
  const feed = new FeedHistory(facts);
  const doubted = doubtfulTotals(facts.rig, facts.visits, facts.charges);
  const register = new Register(facts.rig.meterRollsOverAt, doubted);
  const ledgers = facts.charges.map((charge) => ({ charge, lines: [] as LedgerLine[] }));
  const water: { at: number; litres: number }[] = [];
  let current = -1;
  const fillUntil = (at: number) => {
    while (current + 1 < ledgers.length && time(ledgers[current + 1]!.charge.filledAt) < at) {
      current += 1;
      const { startTotal, filledAt } = ledgers[current]!.charge;
      const rest = startTotal === undefined ? 0 : register.restart(startTotal);
      if (rest <= 0) continue;
      water.push({ at: time(filledAt), litres: rest });
      const line = lineOf(time(filledAt), facts.rig.tapId, { litres: rest, quality: "metered" }, feed);
      ledgers[current - 1]?.lines.push(line);
    }
  };
  for (const visit of facts.visits) {
    const at = time(visit.at);
    fillUntil(at);
    const counted = register.count(visit);
    if (counted.litres > 0) water.push({ at, litres: counted.litres });
    const ledger = ledgers[current];
    if (!ledger || isOver(ledger.charge, at)) continue;
    ledger.lines.push({ visit, ...lineOf(at, visit.tapId, counted, feed) });
  }
  fillUntil(Infinity);
  return {
    charges: ledgers.map(({ charge, lines }) => ({ charge, lines, outputs: outputsOf(lines, facts.meters) })),
    water,
    feed,
    doubtfulFeeds: feed.doubtful,
    doubtfulTotals: doubted,
  };
}

/** The ledger of each charge of a rig, oldest first. */
export const chargeLedgers = (facts: LedgerFacts): readonly ChargeLedger[] => rigLedger(facts).charges;

const isOver = (charge: Charge, at: number) => charge.ended !== undefined && time(charge.ended.at) < at;
