import { feedAt, firstAtOrAfter, type FeedPoint } from "../ledger/water-used";
import { median, RANGE_10_90_IN_SD } from "../numerics/quantile";
import type { Id } from "../descriptor/identity";
import type { FeedTest } from "../feed/feed-test.record";
import type { Tap } from "../feed/tap.record";
import type { Rig } from "../rig/rig.record";
import type { ReadingRecord, Visit } from "../rig/visit.record";
import { BELOW_A_STEP, scaleFactor } from "../water/meter";
import type { Meter } from "../water/meter.record";
import { passage, recordedEc25, resinFeedPoint, scaleOf, statedFeed, stepOf, time } from "./readings";

export interface FeedFacts {
  readonly rig: Rig;
  readonly taps: ReadonlyMap<Id, Tap>;
  readonly meters: ReadonlyMap<Id, Meter>;
  /** Oldest first. */
  readonly visits: readonly Visit[];
  readonly feedTests?: readonly FeedTest[];
}

/** A feed reading that is far from usual and that nobody confirmed: it counts once it is seen again. */
export interface DoubtfulFeed {
  readonly recordId: Id;
  readonly ec25: number;
  /** µS/cm it was held against. */
  readonly usual: number;
}

interface TakenFeed extends FeedPoint {
  readonly recordId: Id;
  readonly confirmed: boolean;
  /** µS/cm that it may be: more than what counts where the meter showed 0. */
  readonly upTo: number;
}

const DAY = 86_400_000;
/** A reading speaks for the days about it: planning assumption. */
const READ_WITHIN = 30 * DAY;
/** Spread of a feed that was just read, of its logarithm: a planning assumption. */
const READ_SD = 0.05;
/** A feed half as much again as usual is asked about, or beyond a quarter more than the tap's own range. */
const FAR = Math.log(1.5);
const BEYOND_STATED = 1.25;
/** Behind a membrane nobody knows beforehand what passes: far is three times as much, or a third. */
const FAR_BEHIND_MEMBRANE = Math.log(3);
/** Seen again: within a quarter of it. */
const SEEN_AGAIN = Math.log(1.25);
/** Latest readings whose median is the usual. */
const USUAL_OF = 7;

/** What was seen of a feed, µS/cm: as read, or where the meter showed 0 what it may hide. */
interface Seen {
  readonly ec25: number;
  readonly upTo: number;
}

/** Steps of the meters as far as their readings show them. */
class Steps {
  private readonly shown = new Map<Id | undefined, number[]>();

  constructor({ visits, feedTests = [] }: Pick<FeedFacts, "visits" | "feedTests">) {
    for (const { meterId, value } of [...visits.flatMap(({ readings }) => readings), ...feedTests]) {
      const known = this.shown.get(meterId);
      if (known) known.push(value);
      else this.shown.set(meterId, [value]);
    }
  }

  /** @returns nothing where the scale is not known */
  seen(
    reading: Pick<ReadingRecord, "meterId" | "scale" | "value" | "temperature">,
    meters: ReadonlyMap<Id, Meter>,
  ): Seen | undefined {
    const ec25 = recordedEc25(reading, meters);
    if (ec25 === undefined || ec25 > 0) return ec25 === undefined ? undefined : { ec25, upTo: ec25 };
    const step = stepOf(this.shown.get(reading.meterId) ?? []) / scaleFactor(scaleOf(reading, meters));
    return { ec25: BELOW_A_STEP * step, upTo: 2 * BELOW_A_STEP * step };
  }
}

/** What the readings of a visit say of the feed at the resin: the median behind the membrane, else at the tap times passage. */
function feedOfVisit(visit: Visit, { rig, meters }: FeedFacts, steps: Steps): TakenFeed | undefined {
  for (const point of new Set([resinFeedPoint(rig), "feed"] as const)) {
    const share = point === "feed" ? passage(rig) : 1;
    const taken = visit.readings.flatMap((reading) => {
      const seen = reading.point === point ? steps.seen(reading, meters) : undefined;
      return seen ? [{ ...seen, confirmed: reading.confirmed === true }] : [];
    });
    if (taken.length === 0) continue;
    const middle = (of: (each: Seen) => number) => share * median(taken.map(of));
    const [ec25, upTo] = [middle((each) => each.ec25), middle((each) => each.upTo)];
    return { at: time(visit.at), ec25, upTo, recordId: visit.id, confirmed: taken.some((each) => each.confirmed) };
  }
  return undefined;
}

/** The feed at the resin as it was read, tap by tap, with what is held back. */
export class FeedHistory {
  readonly doubtful: readonly DoubtfulFeed[];
  private readonly points = new Map<Id, readonly FeedPoint[]>();

  constructor(private readonly facts: FeedFacts) {
    const byTap = new Map<Id, TakenFeed[]>();
    const add = (tapId: Id, taken: TakenFeed | undefined) => {
      if (!taken) return;
      const known = byTap.get(tapId);
      if (known) known.push(taken);
      else byTap.set(tapId, [taken]);
    };
    const steps = new Steps(facts);
    const share = passage(facts.rig);
    for (const visit of facts.visits) add(visit.tapId, feedOfVisit(visit, facts, steps));
    for (const test of facts.feedTests ?? []) {
      const seen = steps.seen(test, facts.meters);
      if (!seen) continue;
      const [at, confirmed] = [time(test.at), test.confirmed === true];
      add(test.tapId, { at, ec25: seen.ec25 * share, upTo: seen.upTo * share, recordId: test.id, confirmed });
    }
    const doubtful: DoubtfulFeed[] = [];
    for (const [tapId, taken] of byTap) {
      const inTime = taken.sort((a, b) => a.at - b.at);
      this.points.set(tapId, this.believed(inTime, facts.taps.get(tapId), doubtful));
    }
    this.doubtful = doubtful;
  }

  private believed(taken: readonly TakenFeed[], tap: Tap | undefined, doubtful: DoubtfulFeed[]): FeedPoint[] {
    const stated = tap && statedFeed(this.facts.rig, tap);
    const far = passage(this.facts.rig) < 1 ? FAR_BEHIND_MEMBRANE : FAR;
    const room = stated
      ? Math.max(far, BEYOND_STATED * Math.log(Math.max(stated.high / stated.typical, stated.typical / stated.low)))
      : far;
    const believed: FeedPoint[] = [];
    taken.forEach((each, i) => {
      const latest = believed.slice(-USUAL_OF).map((point) => point.ec25);
      const usual = latest.length > 0 ? median(latest) : stated?.typical;
      const next = taken[i + 1];
      const seenAgain = next !== undefined && Math.abs(Math.log(next.ec25 / each.ec25)) < SEEN_AGAIN;
      const near = usual === undefined || !(Math.log(each.ec25 / usual) > room || Math.log(usual / each.upTo) > room);
      if (near || each.confirmed || seenAgain || isAgain(each, taken[i - 1])) believed.push(each);
      else doubtful.push({ recordId: each.recordId, ec25: each.ec25, usual });
    });
    return believed;
  }

  /** µS/cm at the resin at a moment, from readings at this tap, else as stated for it. */
  at(tapId: Id, moment: number): number {
    const tap = this.facts.taps.get(tapId);
    return feedAt(this.points.get(tapId) ?? [], moment) ?? (tap ? statedFeed(this.facts.rig, tap).typical : 0);
  }

  /** Whether somebody read this tap within thirty days of a moment. */
  readNear(tapId: Id, moment: number): boolean {
    const points = this.points.get(tapId) ?? [];
    const first = points[firstAtOrAfter(points, moment - READ_WITHIN)];
    return first !== undefined && first.at <= moment + READ_WITHIN;
  }

  /** Relative standard deviation of a feed that nobody read: the tap's stated range, which holds 80 % of its days. */
  unreadSd(tapId: Id): number {
    const tap = this.facts.taps.get(tapId);
    if (!tap) return 0.2;
    const { low, typical, high } = statedFeed(this.facts.rig, tap);
    return Math.max(READ_SD, (high - low) / RANGE_10_90_IN_SD / typical);
  }

  /** Spread of the logarithm of the feed to come. */
  sdAt(tapId: Id, moment: number): number {
    return this.readNear(tapId, moment) ? READ_SD : this.unreadSd(tapId);
  }
}

const isAgain = (each: TakenFeed, before: TakenFeed | undefined) =>
  before !== undefined && Math.abs(Math.log(each.ec25 / before.ec25)) < SEEN_AGAIN;
