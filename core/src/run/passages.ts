import type { Id } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import { Trains, type InPlace } from "../rig/trains";
import type { ReadingRecord, Visit } from "../rig/visit.record";
import type { LedgerFacts } from "./ledger-facts";
import { FeedHistory } from "./feed-history";
import { chargeMeq } from "./hydraulics";
import { time } from "./readings";
import { doubtfulTotals, Register, type Counted, type Doubt } from "./register";

/** One visit's water through one bed. */
export interface Passing {
  readonly rigId: Id;
  /** Absent for water that only a filling's total shows. */
  readonly visit?: Visit;
  readonly at: number;
  readonly tapId: Id;
  readonly counted: Counted;
  /** Among the beds of the train, 0 for the lead. */
  readonly place: number;
  /** The bed, or the pair of cation and anion beds, whose product this one was fed: none for the first. */
  readonly ahead: readonly { readonly bed: Bed; readonly passing: number }[];
  /** Readings behind it. */
  readonly outputs: readonly ReadingRecord[];
}

/** One charge with all the water that went through it. */
export interface Bed {
  readonly charge: Charge;
  /** Milliseconds since 1970 of its filling and of its end, `Infinity` while it is in use. */
  readonly from: number;
  readonly until: number;
  readonly passings: Passing[];
  /** L so far. */
  litres: number;
}

interface InTrain {
  readonly stageId: Id | undefined;
  readonly bed: Bed;
}

const ALONE = "alone";

/** What is asked of a bed to tell which work it does. */
interface OfBeads {
  readonly charge: Pick<Charge, "beads">;
}

const beadsOf = ({ charge: { beads = "mixed" } }: OfBeads) => beads;
/** A cation and an anion bed that follow each other do the work of one mixed bed. */
const arePair = (a: OfBeads | undefined, b: OfBeads | undefined) =>
  a !== undefined && b !== undefined && [beadsOf(a), beadsOf(b)].sort().join(" ") === "anion cation";

/**
 * The beds of a train as units of work, in the order the water meets them: mixed beds one by one, a cation and an anion bed
 * that follow each other together. One kind of beads alone takes its side only: what it leaves loads the next as before.
 *
 * @example unitsOf([cation, anion, mixed]) // [[cation, anion], [mixed]]
 */
export function unitsOf<T extends { readonly bed: OfBeads }>(beds: readonly T[]): readonly (readonly T[])[] {
  const units: T[][] = [];
  for (const each of beds) {
    const last = units[units.length - 1];
    if (last?.length === 1 && arePair(last[0]!.bed, each.bed)) last.push(each);
    else units.push([each]);
  }
  return units;
}

/** Whether what leaves a unit is product: one kind of beads alone makes none. */
export const makesProduct = (unit: readonly { readonly bed: OfBeads }[]) =>
  unit.length > 1 || beadsOf(unit[0]!.bed) === "mixed";

/** Which water went through which charge, rig by rig, with what was read behind it. */
export class Passages {
  readonly beds: readonly Bed[];
  readonly trains: Trains | undefined;
  private readonly rigs: ReadonlyMap<Id, Rig>;
  private readonly byVessel = new Map<Id, Bed[]>();
  private readonly feeds = new Map<Id, FeedHistory>();
  private readonly water = new Map<Id, { readonly at: number; readonly litres: number }[]>();
  private readonly doubted = new Map<Id, ReadonlyMap<Id, Doubt>>();

  constructor(private readonly facts: LedgerFacts) {
    const { train, rig, charges } = facts;
    this.trains = train && new Trains(train.arrangements);
    this.rigs = new Map([...(train?.rigs ?? []), rig].map((each) => [each.id, each]));
    this.beds = charges.map((charge) => ({
      ...{ charge, from: time(charge.filledAt), until: charge.ended ? time(charge.ended.at) : Infinity },
      ...{ passings: [], litres: 0 },
    }));
    for (const bed of this.beds) {
      const vesselId = train ? bed.charge.vesselId : ALONE;
      this.byVessel.set(vesselId, [...(this.byVessel.get(vesselId) ?? []), bed]);
    }
    for (const each of this.rigs.values()) this.follow(each);
  }

  feedOf(rigId: Id): FeedHistory {
    const known = this.feeds.get(rigId);
    if (known) return known;
    const { rig, train, visits, ...rest } = this.facts;
    const own = train ? visits.filter((visit) => visit.rigId === rigId) : visits;
    const feed = new FeedHistory({ ...rest, rig: this.rigs.get(rigId) ?? rig, visits: own });
    this.feeds.set(rigId, feed);
    return feed;
  }

  waterOf(rigId: Id): readonly { readonly at: number; readonly litres: number }[] {
    return this.water.get(rigId) ?? [];
  }

  doubtfulTotalsOf(rigId: Id): ReadonlyMap<Id, Doubt> {
    return this.doubted.get(rigId) ?? new Map();
  }

  /** Beds that stand in a rig at a moment: of each vessel the last that was filled before. */
  private standing(rigId: Id, at: number, filledBefore: number): readonly InTrain[] {
    const places: readonly (InPlace | { readonly stageId: undefined; readonly vesselId: Id })[] = this.trains
      ? this.trains.at(rigId, at)
      : [{ stageId: undefined, vesselId: ALONE }];
    return places.flatMap(({ stageId, vesselId }): InTrain[] => {
      const own = this.byVessel.get(vesselId) ?? [];
      for (let i = own.length - 1; i >= 0; i -= 1) if (own[i]!.from < filledBefore) return [{ stageId, bed: own[i]! }];
      return [];
    });
  }

  /** Follows the water of one rig, visit by visit and filling by filling. */
  private follow(rig: Rig): void {
    const { train, visits, charges } = this.facts;
    const own = train ? visits.filter((visit) => visit.rigId === rig.id) : visits;
    const fillings = train ? charges.filter((charge) => charge.rigId === rig.id) : charges;
    const doubted = doubtfulTotals(rig, own, fillings);
    const register = new Register(rig.meterRollsOverAt, doubted);
    const water: { at: number; litres: number }[] = [];
    let filled = 0;
    const fillUntil = (until: number) => {
      for (; filled < fillings.length && time(fillings[filled]!.filledAt) < until; filled += 1) {
        const { startTotal, filledAt } = fillings[filled]!;
        const rest = startTotal === undefined ? 0 : register.restart(startTotal);
        if (rest <= 0) continue;
        const at = time(filledAt);
        water.push({ at, litres: rest });
        const before = this.standing(rig.id, at - 1, at);
        this.pass(before, { rigId: rig.id, at, tapId: rig.tapId, counted: { litres: rest, quality: "metered" } });
      }
    };
    for (const visit of own) {
      const at = time(visit.at);
      fillUntil(at);
      const counted = register.count(visit);
      if (counted.litres > 0) water.push({ at, litres: counted.litres });
      const now = this.standing(rig.id, at, at).filter(({ bed }) => bed.until >= at);
      this.pass(now, { rigId: rig.id, visit, at, tapId: visit.tapId, counted });
    }
    fillUntil(Infinity);
    this.water.set(rig.id, water);
    this.doubted.set(rig.id, doubted);
  }

  /** Takes one visit's water through the beds of a train. */
  private pass(beds: readonly InTrain[], water: Pick<Passing, "rigId" | "visit" | "at" | "tapId" | "counted">): void {
    const readings = this.readingsBehind(beds, water.visit, water.at);
    let ahead: Passing["ahead"] = [];
    let place = 0;
    for (const unit of unitsOf(beds)) {
      const passed = unit.map(({ bed }) => {
        const { rigId, visit, at, tapId, counted } = water;
        const passing = { rigId, at, tapId, counted, place, ahead, outputs: readings.get(bed) ?? [] };
        bed.passings.push(visit ? { visit, ...passing } : passing);
        bed.litres += counted.litres;
        place += 1;
        return { bed, passing: bed.passings.length - 1 };
      });
      if (makesProduct(unit)) ahead = passed;
    }
  }

  /**
   * Which reading is of which bed: one behind a stage, of the last bed up to there; one without a stage, of the last. Behind
   * a pair it is of the bed that is nearer its end by the count; what one kind of beads alone lets through is no product.
   */
  private readingsBehind(
    beds: readonly InTrain[],
    visit: Visit | undefined,
    at: number,
  ): ReadonlyMap<Bed, readonly ReadingRecord[]> {
    const found = new Map<Bed, ReadingRecord[]>();
    const units = unitsOf(beds);
    for (const reading of visit?.readings ?? []) {
      if (reading.point !== "output") continue;
      const upTo = this.upTo(beds, visit!.rigId, reading.stageId, at);
      const unit = upTo && units.find((each) => each.some(({ bed }) => bed === upTo));
      if (!unit || !makesProduct(unit) || unit[unit.length - 1]!.bed !== upTo) continue;
      const { bed } = unit.reduce((fuller, each) => (fullness(each.bed) >= fullness(fuller.bed) ? each : fuller));
      found.set(bed, [...(found.get(bed) ?? []), reading]);
    }
    return found;
  }

  /** The last bed up to a stage; the last of all where none is named, or one that is not in the train any more. */
  private upTo(beds: readonly InTrain[], rigId: Id, stageId: Id | undefined, at: number): Bed | undefined {
    const last = beds[beds.length - 1]?.bed;
    if (stageId === undefined || !this.trains) return last;
    const places = this.trains.placesAt(rigId, at).map((each) => each.stageId);
    const named = places.indexOf(stageId);
    if (named < 0) return last;
    return beds.filter((each) => places.indexOf(each.stageId!) <= named).pop()?.bed;
  }
}

/** Water so far beside what a charge holds: tells which of a pair is nearer its end. */
const fullness = ({ charge, litres }: Bed) => litres / chargeMeq(charge);
