import type { Id } from "../descriptor/identity";
import { shareOfFeed } from "../belief/weigh";
import { byLoad, LOADS, type ByLoad } from "../front/product-curve";
import { meqOf } from "../ledger/water-used";
import type { Charge } from "../resin/charge.record";
import { scaleFactor } from "../water/meter";
import type { DoubtfulFeed, FeedHistory } from "./feed-history";
import { hydraulicsOf, limitOf } from "./hydraulics";
import { loadTogether } from "./marks";
import { inPlace, type InPlace, type PlainBed } from "./in-place";
import type { Doubt } from "./register";
import type { ChargeLedger, LedgerFacts, LedgerLine, OutputReading } from "./ledger-facts";
import { recordedEc25, scaleOf } from "./readings";
import { Passages, type Bed, type Passing } from "./passages";
import { vesselOf, whatLeaves, type Leaving } from "./what-leaves";

/** A rig's books: the ledger of each charge, and all the water drawn whether a charge stood there or not. */
export interface RigLedger {
  readonly charges: readonly ChargeLedger[];
  /** That of one charge, without those that it does not hang on. */
  readonly ofCharge: (id: Id) => ChargeLedger | undefined;
  readonly water: readonly { readonly at: number; readonly litres: number }[];
  readonly feed: FeedHistory;
  readonly doubtfulFeeds: readonly DoubtfulFeed[];
  /** Visits whose meter total is left out. */
  readonly doubtfulTotals: ReadonlyMap<Id, Doubt>;
}

/** @param loadsAt what each line left of the loads by its end, in the bed's place; none where they came together */
function outputsOf(
  lines: readonly LedgerLine[],
  passings: readonly Passing[],
  meters: LedgerFacts["meters"],
  loadsAt: readonly ByLoad<readonly number[]>[] | undefined,
): OutputReading[] {
  const outputs: OutputReading[] = [];
  let [litres, meq] = [0, 0];
  lines.forEach((line, i) => {
    litres += line.litres;
    meq += meqOf(line);
    for (const reading of passings[i]!.outputs) {
      const ec25 = recordedEc25(reading, meters);
      if (ec25 === undefined) continue;
      const scale = scaleOf(reading, meters);
      const { visit, at, feedEc25, tapEc25, loads } = line;
      const ppm = 1 / scaleFactor(scale);
      // The front of a bed that is followed load by load is a share of the tap's water; round its beads goes what came.
      const feed = loadsAt
        ? { feedEc25: tapEc25, loads: loadsAt[i]!, ...(loads ? { roundEc25: feedEc25 } : {}) }
        : { feedEc25 };
      outputs.push({ visitId: visit!.id, at, litres, meq, ec25, ...feed, value: reading.value, scale, ppm });
    }
  });
  return outputs;
}

/** Lines with what they load a bed with, and the loads by the end of each as its readings see them. */
interface Loaded {
  readonly lines: readonly LedgerLine[];
  readonly loads?: ByLoad<readonly number[]>;
  readonly loadsAt?: readonly ByLoad<readonly number[]>[];
}

/**
 * Works out what each charge took, bed by bed along the flow: a bed behind another is fed by what leaves that one.
 */
class Books {
  private readonly known = new Map<Bed, ChargeLedger>();
  private readonly leaving = new Map<Bed, readonly Leaving[]>();
  private readonly asked = new Set<Bed>();

  constructor(
    private readonly facts: LedgerFacts,
    private readonly passages: Passages,
  ) {}

  ledgerOf(bed: Bed): ChargeLedger {
    const known = this.known.get(bed);
    if (known) return known;
    // Two beds that each stood behind the other: what leaves one that is just being worked out is not known yet.
    this.asked.add(bed);
    const all = bed.passings.map((passing) => this.lineOf(passing));
    this.asked.delete(bed);
    const { lines, loads, loadsAt } = this.loaded(bed, all);
    const outputs = outputsOf(lines, bed.passings, this.facts.meters, loadsAt);
    const ledger = { charge: bed.charge, lines, outputs, ...(loads ? { loads } : {}) };
    if (this.asked.size === 0 || !bed.passings.some(({ ahead }) => ahead.some((each) => this.asked.has(each.bed))))
      this.known.set(bed, ledger);
    return ledger;
  }

  private lineOf({ rigId, visit, at, tapId, counted, place, ahead }: Passing): LedgerLine {
    const feed = this.passages.feedOf(rigId);
    const tapEc25 = feed.at(tapId, at);
    const { litres, quality } = counted;
    // Put together by hand: a key asks for the lines of years.
    const line: { -readonly [K in keyof LedgerLine]: LedgerLine[K] } = {
      at,
      litres,
      quality,
      rigId,
      place,
      tapEc25,
      feedEc25: tapEc25,
      feedSd: 0,
      fedBy: "tap",
    };
    if (visit) line.visit = visit;
    if (counted.trouble !== undefined) line.trouble = counted.trouble;
    if (counted.isFirstTotal) line.isFirstTotal = true;
    if (ahead.length === 0) {
      if (!feed.readNear(tapId, at)) line.feedSd = feed.unreadSd(tapId);
      return line;
    }
    // Of cation and anion beds that work together the one that lets more through tells, unless somebody read behind them.
    const left = ahead.map(({ bed, passing }) => this.leavingOf(bed)[passing]!);
    const read = left.find((each) => each.isRead);
    line.feedEc25 = (read ?? left.reduce((most, each) => (each.ec25 > most.ec25 ? each : most))).ec25;
    line.fedBy = read ? "read" : "believed";
    // Of cation and anion beds that work together each lets its own loads through.
    const loads = left.flatMap((each) => (each.loads ? [each.loads] : []));
    if (loads.length === left.length) {
      const curves = Math.max(...loads.map(({ anions }) => anions.length));
      line.loads = byLoad((of) =>
        Array.from({ length: curves }, (_, curve) =>
          Math.min(...loads.map((each) => each[of][Math.min(curve, each[of].length - 1)]!)),
        ),
      );
    }
    return line;
  }

  /** The lines of a bed that stood behind others with what they load it with: of each load what came through. */
  private loaded(bed: Bed, lines: readonly LedgerLine[]): Loaded {
    const curves = lines.find(({ loads }) => loads)?.loads?.anions.length;
    if (curves === undefined || lines.some(({ loads, fedBy }) => !loads && fedBy !== "tap")) return { lines };
    const held = this.heldUntilLimit(bed);
    if (!held || held.inPlace.length !== curves) return { lines };
    const loadsAt: ByLoad<readonly number[]>[] = [];
    const sums = byLoad(() => new Array<number>(curves).fill(0));
    const alike = new Float64Array(curves).fill(1 / curves);
    let before = 0;
    const loaded = lines.map((line) => {
      const tap = (line.litres * line.tapEc25) / 100;
      for (const of of LOADS)
        for (let curve = 0; curve < curves; curve += 1) sums[of][curve]! += tap * (line.loads?.[of][curve] ?? 1);
      const together = loadTogether(sums, held.inPlace, alike);
      loadsAt.push(byLoad((of) => sums[of].map((each, curve) => each * held.sharper[curve]![of])));
      const gain = together - before;
      before = together;
      return line.litres > 0 ? { ...line, loadEc25: (100 * gain) / line.litres } : line;
    });
    return { lines: loaded, loads: sums, loadsAt };
  }

  /**
   * How much of each load a bed holds until its limit, in the place where it stood last; and how much less of it shows there
   * than of a bed behind nothing, for beds in a row make a sharper front.
   */
  private heldUntilLimit(bed: Bed): { readonly inPlace: InPlace; readonly sharper: InPlace } | undefined {
    const last = bed.passings[bed.passings.length - 1]!;
    const plain = (of: Bed) => this.plainOf(of, last.rigId);
    const [own, vessel] = [plain(bed), vesselOf(this.facts, bed.charge.vesselId)];
    const ahead = this.unitsAhead(last).map((unit) => unit.map(plain));
    if (!own || !vessel || ahead.some((unit) => unit.some((each) => !each))) return undefined;
    const feed = this.passages.feedOf(last.rigId).at(last.tapId, last.at);
    const limit = shareOfFeed(limitOf(vessel), feed);
    const [placed, alone] = [inPlace(own, ahead as PlainBed[][], limit), inPlace(own, [], limit)];
    if (!placed || !alone) return undefined;
    const sharper = placed.map((here, curve) =>
      byLoad((of) => {
        const by = alone[curve]![of] / here[of];
        return Number.isFinite(by) && by > 0 ? by : 1;
      }),
    );
    return { inPlace: placed, sharper };
  }

  /** Every unit of work before a passing, as the water met them. */
  private unitsAhead({ ahead }: Passing): readonly (readonly Bed[])[] {
    const first = ahead[0];
    if (!first) return [];
    return [...this.unitsAhead(first.bed.passings[first.passing]!), ahead.map(({ bed }) => bed)];
  }

  private plainOf({ charge }: Bed, rigId: Id): PlainBed | undefined {
    const vessel = vesselOf(this.facts, charge.vesselId);
    const rig = this.facts.train?.rigs.find(({ id }) => id === rigId) ?? this.facts.rig;
    const hydraulics = vessel && hydraulicsOf(charge, { ...this.facts, rig, vessel });
    return hydraulics?.ok ? hydraulics.value.plain : undefined;
  }

  private leavingOf(bed: Bed): readonly Leaving[] {
    const known = this.leaving.get(bed);
    if (known) return known;
    if (this.asked.has(bed)) return bed.passings.map(() => ({ ec25: 0, isRead: false }));
    const found = whatLeaves(this.ledgerOf(bed), this.facts);
    this.leaving.set(bed, found);
    return found;
  }
}

/**
 * The books of a rig: what every visit put on each bed, and each product reading beside the load so far. A visit's water
 * passes every charge that stood in the rig at that moment; water up to a filling's total those before it. A ledger is worked
 * out once it is asked for: of a train one hangs on those before it.
 *
 * @param isOf whose ledgers are meant; all of them where nothing is said
 */
export function rigLedger(facts: LedgerFacts, isOf: (charge: Charge) => boolean = () => true): RigLedger {
  const passages = new Passages(facts);
  const books = new Books(facts, passages);
  const feed = passages.feedOf(facts.rig.id);
  let charges: readonly ChargeLedger[] | undefined;
  return {
    get charges() {
      return (charges ??= passages.beds.filter(({ charge }) => isOf(charge)).map((bed) => books.ledgerOf(bed)));
    },
    ofCharge: (id) => {
      const bed = passages.beds.find(({ charge }) => charge.id === id);
      return bed && books.ledgerOf(bed);
    },
    water: passages.waterOf(facts.rig.id),
    feed,
    doubtfulFeeds: feed.doubtful,
    doubtfulTotals: passages.doubtfulTotalsOf(facts.rig.id),
  };
}

/** The ledger of each charge of a rig and of those that share vessels with it, oldest first. */
export const chargeLedgers = (facts: LedgerFacts): readonly ChargeLedger[] => rigLedger(facts).charges;
