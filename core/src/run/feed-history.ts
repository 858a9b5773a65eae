import { feedAt, firstAtOrAfter, type FeedPoint } from "../ledger/water-used";
import { median, RANGE_10_90_IN_SD } from "../numerics/quantile";
import type { Id } from "../descriptor/identity";
import type { FeedTest } from "../feed/feed-test.record";
import type { Tap } from "../feed/tap.record";
import type { Rig } from "../rig/rig.record";
import type { Visit } from "../rig/visit.record";
import type { Meter } from "../water/meter.record";
import { passage, recordedEc25, resinFeedPoint, statedFeed, time } from "./readings";

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

/** What the readings of a visit say of the feed at the resin: the median behind the membrane, else at the tap times passage. */
function feedOfVisit(visit: Visit, { rig, meters }: FeedFacts): TakenFeed | undefined {
  for (const point of new Set([resinFeedPoint(rig), "feed"] as const)) {
    const share = point === "feed" ? passage(rig) : 1;
    const taken = visit.readings.flatMap((reading) => {
      const ec25 = reading.point === point ? recordedEc25(reading, meters) : undefined;
      return ec25 === undefined || ec25 <= 0 ? [] : [{ ec25: ec25 * share, confirmed: reading.confirmed === true }];
    });
    if (taken.length === 0) continue;
    const ec25 = median(taken.map((each) => each.ec25));
    return { at: time(visit.at), ec25, recordId: visit.id, confirmed: taken.some((each) => each.confirmed) };
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
    for (const visit of facts.visits) add(visit.tapId, feedOfVisit(visit, facts));
    for (const test of facts.feedTests ?? []) {
      const ec25 = recordedEc25(test, facts.meters);
      if (ec25 === undefined || ec25 <= 0) continue;
      const confirmed = test.confirmed === true;
      add(test.tapId, { at: time(test.at), ec25: ec25 * passage(facts.rig), recordId: test.id, confirmed });
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
      const near = usual === undefined || !(Math.abs(Math.log(each.ec25 / usual)) > room);
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
