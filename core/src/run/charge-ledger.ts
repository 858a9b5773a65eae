import { feedAt, registerDifference, type FeedPoint, type WaterQuality, type WaterUse } from "../ledger/water-used";
import { conductivityAt25, scaleFactor, type Scale } from "../water/meter";
import type { Charge, Id, Meter, ReadingPoint, ReadingRecord, Rig, Tap, Visit } from "../records/records";

/** A product reading with its place in the charge. */
export interface OutputReading {
  readonly visitId: Id;
  /** Milliseconds since 1970. */
  readonly at: number;
  /** Litres treated by the charge when it was taken. */
  readonly litres: number;
  /** Meter-visible load on the resin by then, meq. */
  readonly meq: number;
  readonly ec25: number;
  readonly feedEc25: number;
  /** One standard deviation of the meter, µS/cm. */
  readonly sd: number;
}

/** One visit as the ledger counts it. */
export interface LedgerLine extends WaterUse {
  readonly visit: Visit;
  readonly at: number;
  readonly feedMeasured: boolean;
  /** Why the water could not be counted. */
  readonly trouble?: string;
}

export interface ChargeLedger {
  readonly charge: Charge;
  readonly lines: readonly LedgerLine[];
  readonly outputs: readonly OutputReading[];
}

export interface LedgerFacts {
  readonly rig: Rig;
  readonly taps: ReadonlyMap<Id, Tap>;
  readonly meters: ReadonlyMap<Id, Meter>;
  /** Every visit of the rig, oldest first. */
  readonly visits: readonly Visit[];
  /** Every charge of the rig, oldest first. */
  readonly charges: readonly Charge[];
}

const METER_RESOLUTION_PPM = 1;
const METER_SHARE = 0.03;

/** Conductivity of a kept reading by its meter's present scale, µS/cm at 25 °C; undefined when it can't be told. */
export function recordedEc25(
  reading: Pick<ReadingRecord, "meterId" | "scale" | "value" | "temperature">,
  meters: ReadonlyMap<Id, Meter>,
): number | undefined {
  const meter = reading.meterId === undefined ? undefined : meters.get(reading.meterId);
  const scale = reading.scale ?? meter?.scale;
  if (scale === undefined) return undefined;
  const compensated = meter?.compensated ?? true;
  const offset = scale === meter?.scale ? (meter.offset ?? 0) : 0;
  const ec25 = conductivityAt25({
    value: Math.max(0, reading.value - offset),
    scale,
    ...(reading.temperature === undefined ? {} : { temperature: reading.temperature }),
    ...(compensated || reading.temperature === undefined ? {} : { compensated: false }),
  });
  return ec25.ok ? ec25.value : undefined;
}

const scaleOf = (reading: ReadingRecord, meters: ReadonlyMap<Id, Meter>): Scale =>
  reading.scale ?? (reading.meterId === undefined ? undefined : meters.get(reading.meterId)?.scale) ?? "nacl";

/** The larger of 1 ppm on the meter's scale and 3 % of the reading, µS/cm. */
function meterSd(reading: ReadingRecord, ec25: number, meters: ReadonlyMap<Id, Meter>): number {
  return Math.max(METER_RESOLUTION_PPM / scaleFactor(scaleOf(reading, meters)), METER_SHARE * ec25);
}

/** The point whose reading is what the resin gets: behind the membrane when there is one. */
export const resinFeedPoint = (rig: Rig): ReadingPoint =>
  rig.stages.some((stage) => stage.kind === "membrane") ? "after-membrane" : "feed";

/** Share of the tap's ions that reach the resin when nobody read behind the membrane. */
export function passage(rig: Rig): number {
  return rig.stages.reduce((share, stage) => (stage.kind === "membrane" ? share * (1 - stage.rejection) : share), 1);
}

/** The tap's stated range as it reaches the resin, µS/cm. */
export function statedFeed(rig: Rig, tap: Tap) {
  const toResin = (value: number) => (value / scaleFactor(tap.scale)) * passage(rig);
  return { low: toResin(tap.low), typical: toResin(tap.typical), high: toResin(tap.high) };
}

export const time = (instant: string) => Date.parse(instant);

function feedPoints(facts: LedgerFacts): Map<Id, FeedPoint[]> {
  const point = resinFeedPoint(facts.rig);
  const byTap = new Map<Id, FeedPoint[]>();
  for (const visit of facts.visits) {
    for (const reading of visit.readings) {
      if (reading.point !== point) continue;
      const ec25 = recordedEc25(reading, facts.meters);
      if (ec25 === undefined || ec25 <= 0) continue;
      const list = byTap.get(visit.tapId) ?? [];
      list.push({ at: time(visit.at), ec25 });
      byTap.set(visit.tapId, list);
    }
  }
  return byTap;
}

/** Half the tap's 10/90 range as a share of its middle. */
function unreadFeedSd(rig: Rig, tap: Tap | undefined): number {
  if (!tap) return 0.2;
  const { low, typical, high } = statedFeed(rig, tap);
  return Math.max(0.05, (high - low) / 2.563 / typical);
}

interface Counted {
  readonly litres: number;
  readonly quality: WaterQuality;
  readonly trouble?: string;
}

const nothingCounted: Counted = { litres: 0, quality: "metered" };

/** Follows the rig's water meter from visit to visit and from filling to filling. */
class Register {
  private total: number | undefined;
  private carried = 0;

  constructor(private readonly rollsOverAt: number | undefined) {}

  /** A total noted at a filling: what came since the last one belongs to the charge before. */
  restart(total: number): number {
    const since = this.advance(total).litres;
    return since;
  }

  count(visit: Visit): Counted {
    const { water } = visit;
    if (!water) return nothingCounted;
    if (water.by === "timed") {
      this.carried += water.minutes * water.flow;
      return { litres: water.minutes * water.flow, quality: "timed" };
    }
    if (water.by === "jobs") {
      this.carried += water.jobs * water.litresPerJob;
      return { litres: water.jobs * water.litresPerJob, quality: "guessed" };
    }
    if (water.replaced) this.total = 0;
    return this.advance(water.total);
  }

  private advance(total: number): Counted {
    const before = this.total;
    const alreadyCounted = this.carried;
    this.total = total;
    this.carried = 0;
    if (before === undefined) return nothingCounted;
    const litres = registerDifference(before, total, this.rollsOverAt);
    if (!litres.ok) return { ...nothingCounted, trouble: litres.fault.message };
    return { litres: Math.max(0, litres.value - alreadyCounted), quality: "metered" };
  }
}

function lineOf(visit: Visit, counted: Counted, facts: LedgerFacts, feeds: Map<Id, FeedPoint[]>): LedgerLine {
  const { rig } = facts;
  const at = time(visit.at);
  const tap = facts.taps.get(visit.tapId);
  const readHere = visit.readings.some((reading) => reading.point === resinFeedPoint(rig) && reading.value > 0);
  const known = feedAt(feeds.get(visit.tapId) ?? [], at);
  const feedEc25 = known ?? (tap ? statedFeed(rig, tap).typical : 0);
  return { visit, at, ...counted, feedEc25, feedMeasured: readHere, feedSd: readHere ? 0 : unreadFeedSd(rig, tap) };
}

function outputsOf(lines: readonly LedgerLine[], meters: ReadonlyMap<Id, Meter>): OutputReading[] {
  const outputs: OutputReading[] = [];
  let [litres, meq] = [0, 0];
  for (const line of lines) {
    litres += line.litres;
    meq += (line.litres * line.feedEc25) / 100;
    for (const reading of line.visit.readings) {
      if (reading.point !== "output") continue;
      const ec25 = recordedEc25(reading, meters);
      if (ec25 === undefined) continue;
      outputs.push({
        visitId: line.visit.id,
        at: line.at,
        litres,
        meq,
        ec25,
        feedEc25: line.feedEc25,
        sd: meterSd(reading, ec25, meters),
      });
    }
  }
  return outputs;
}

/**
 * The ledger of each charge of a rig, oldest first: what every visit put on the resin, and each product reading beside the
 * load so far. A visit belongs to the charge in the vessel at that moment.
 */
export function chargeLedgers(facts: LedgerFacts): readonly ChargeLedger[] {
  const feeds = feedPoints(facts);
  const register = new Register(facts.rig.meterRollsOverAt);
  const ledgers = facts.charges.map((charge) => ({ charge, lines: [] as LedgerLine[] }));
  let current = -1;
  for (const visit of facts.visits) {
    const at = time(visit.at);
    while (current + 1 < ledgers.length && time(ledgers[current + 1]!.charge.filledAt) < at) {
      current += 1;
      const { startTotal } = ledgers[current]!.charge;
      if (startTotal !== undefined) addRemainder(ledgers[current - 1]?.lines, register.restart(startTotal));
    }
    const counted = register.count(visit);
    const ledger = ledgers[current];
    if (!ledger || isOver(ledger.charge, at)) continue;
    ledger.lines.push(lineOf(visit, counted, facts, feeds));
  }
  return ledgers.map(({ charge, lines }) => ({ charge, lines, outputs: outputsOf(lines, facts.meters) }));
}

const isOver = (charge: Charge, at: number) => charge.ended !== undefined && time(charge.ended.at) < at;

function addRemainder(lines: LedgerLine[] | undefined, litres: number): void {
  const last = lines?.[lines.length - 1];
  if (last && litres > 0) lines![lines!.length - 1] = { ...last, litres: last.litres + litres };
}
