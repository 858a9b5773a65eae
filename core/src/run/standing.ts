import type { BedAnswer } from "../bed/bed";
import {
  capacityWeights,
  chargeAt,
  chargeBelief,
  curveWeights,
  laterThanLimit,
  loadAtMark,
  markOf,
  middleCurve,
  onCurve,
  outputByLoads,
  outputOf,
  promisedMeq,
  shapeOf,
  shareReachedBy,
  tight,
  type ChargeBelief,
  type LeftQuestion,
  type Mark,
} from "../belief/charge-belief";
import { chargePrior, xQuantile, type CapacityWeights } from "../belief/grids";
import { shareOfFeed } from "../belief/weigh";
import { groupsOf, type ReadingGroup } from "../belief/groups";
import type { OwnerBelief } from "../belief/owner";
import { addDays } from "../dates/calendar";
import { expectedUse, sinceLastLog, type ExpectedUse, type KnownWork, type SinceLog } from "../dates/expected-use";
import { firstPass } from "../front/front-table";
import { carbonicPlateau, plateauShows } from "../front/meter-throughput";
import { frontOf, type ProductCurve } from "../front/product-curve";
import type { CapacityRange } from "../ledger/own-capacity";
import { loadSdOf, loadUsed, type LoadUsed } from "../ledger/water-used";
import { frontDepth } from "../life/breakthrough";
import type { ThreeOf } from "../life/life-range";
import { NORMAL_90 } from "../numerics/quantile";
import { RememberedOf } from "../numerics/remembered";
import type { Id } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import { fail, finite, succeed, type Result } from "../result";
import { slowRise, trendLeft, trendTo, type SlowRise, type TrendToMark } from "../verdict/slow-rise";
import { CONVINCED, paceOf, verdict, type Verdict } from "../verdict/verdict";
import type { RigLedger } from "./charge-ledger";
import type { ChargeLedger, OutputReading } from "./ledger-facts";
import type { DoubtfulFeed } from "./feed-history";
import {
  chargeCondition,
  gradeCapacityOf,
  hardOf,
  hydraulicsOf,
  limitOf,
  scaleOfCharge,
  type Hydraulics,
} from "./hydraulics";
import { drawnLeft, leftBehind, threeBehind, type Ahead } from "./in-series";
import { learn, lessonsOf, vesselLedger, type VesselFacts } from "./lessons";
import { passage, time } from "./readings";
import type { Event, PlainBed } from "./in-place";
import { leakMarkOf, loadTogether, markInPlace } from "./marks";
import { scaleFactor } from "../water/meter";
import type { CarbonDioxideKnown } from "../water/unmeasured";
import { unloggedOf, type Unlogged } from "./unlogged";
import { usedBefore, type Before } from "./used-before";

export interface StandingInput extends VesselFacts {
  /** Milliseconds since 1970. */
  readonly now: number;
  /** ISO date of today where the crew works. */
  readonly today: string;
  /** The ISO date of an instant where the crew works. */
  readonly dateOf: (milliseconds: number) => string;
  readonly bookings?: readonly KnownWork[];
}

/** Feed to come at the resin, µS/cm. */
export interface FeedToCome extends ThreeOf<number> {
  /** Standard deviation of its logarithm. */
  readonly sd: number;
  /** Read within thirty days; else as the tap's record states it. */
  readonly isRead: boolean;
}

/** Where the charge in use stands; everything comes from one belief over the resin, its front and what goes round it. */
export interface Standing {
  readonly charge: Charge;
  readonly ledger: ChargeLedger;
  readonly used: LoadUsed;
  /** Of a charge that was taken over part-used: what may have gone through before, its middle. */
  readonly usedBefore?: { readonly litres: number; readonly meq: number };
  readonly bed: BedAnswer;
  /** Share of capacity left by storage and packing. */
  readonly condition: number;
  /** eq/L of the grade's smaller side. */
  readonly gradeCapacity: number;
  /** Load at the limit as a share of capacity, for a front of usual width; that of the mark in `leftTo`. */
  readonly limitThroughput: number;
  readonly markThroughput: number;
  /** eq/L: what this owner's charges hold. */
  readonly ownCapacity: CapacityRange;
  /** Ended charges that taught it. */
  readonly taught: number;
  /** eq/L of this charge by the count alone, before its readings spoke. */
  readonly capacityByCount: CapacityRange;
  /** eq/L of this charge; of one taken over part-used what it still held then. */
  readonly capacity: CapacityRange;
  readonly feed: FeedToCome;
  /** Share of the tap's ions that reaches the resin. */
  readonly passage: number;
  /** Load put on as a share of capacity: low pairs with the high capacity. */
  readonly throughput: ThreeOf<number>;
  /** Load put on as a share of what the owner's resin holds to the limit, whatever this charge's readings say. */
  readonly promisedShare: number;
  /** Litres left to the mark in `leftTo`; absent at `none`, and where the feed itself meets the limit. */
  readonly left?: ThreeOf<number>;
  readonly leftTo: "limit" | "hard" | "none";
  /** meq that the beds before it will still hold back until its mark, and until its first leak, by the middle of each. */
  readonly aheadHolds?: { readonly toMark?: number; readonly toLeak?: number };
  /** Litres left to the limit before this charge's readings spoke. */
  readonly leftByCount: ThreeOf<number>;
  /** Litres until anything leaks, and what goes first; absent where the composition is unknown. */
  readonly leak?: Leak;
  readonly sinceLog: SinceLog;
  readonly use: ExpectedUse;
  /** Likeliest width of the front, and share of the water that goes round the beads where that is likely. */
  readonly shape: { readonly width: number; readonly bypass: number };
  readonly verdict: Verdict;
  /** Share of the belief whose limit lies at or below the load used. */
  readonly limitReached: number;
  readonly pace: number;
  /** Depth of the front, 0 at the inlet: early, likely, late. */
  readonly front: ThreeOf<number>;
  readonly outputs: readonly OutputReading[];
  readonly groups: readonly ReadingGroup[];
  /** Readings that rise as the curve does not make it, run on to the mark in `leftTo`, at `none` to the stop point. */
  readonly rise?: TrendToMark;
  /** Whether the middle of the litres left is the trend's, not the belief's. */
  readonly isByTrend: boolean;
  /** Whether the belief goes along with readings at or above a mark; else the count does not explain them. */
  readonly isExplained: boolean;
  /** Whether the feed itself meets the limit. */
  readonly feedMeetsLimit: boolean;
  /** Figures of this charge that are far from usual and wait to be confirmed or seen again. */
  readonly heldBack: HeldBack;
  /** Water of this charge that nobody typed; oldest first. */
  readonly unlogged: readonly Unlogged[];
  /** Of a water whose carbon dioxide nobody measured: what is known of it, and the litres that stand large were it measured. */
  readonly carbon?: { readonly by: CarbonDioxideKnown["by"]; readonly narrowed: ThreeOf<number> };
  /** The carbonic acid of spent anion beads alone meets the limit. */
  readonly plateau?: Plateau;
}

/** A limit that carbonic acid alone meets: what dries away without a spot ends the charge. */
export interface Plateau {
  /** µS/cm of the carbonic acid. */
  readonly ec25: number;
  /** µS/cm of a limit that it would not meet. */
  readonly raised: number;
  /** Share of the charge to that limit for which it ends early. */
  readonly early: number;
}

export interface HeldBack {
  readonly feeds: readonly DoubtfulFeed[];
  /** Visits whose meter total is left out. */
  readonly totals: readonly Id[];
}

export interface Leak extends ThreeOf<number> {
  readonly species: NonNullable<ProductCurve["leak"]>["species"];
  /** Whether the leaking water stays below the limit on a meter. */
  readonly isUnseen: boolean;
  /** By the middle of what is believed of the water: load at the first leak as a share of the load at the limit, and of the capacity. */
  readonly share: number;
  readonly throughput: number;
  /** By curve: of a water whose carbon dioxide nobody measured there are five. */
  readonly throughputs: readonly number[];
}

/** A standing with what its dates and its curve are drawn from. */
export interface WorkedStanding {
  readonly standing: Standing;
  readonly belief: ChargeBelief;
  /** What the dates are of: the mark in `leftTo`, of an aquarium the first leak. */
  readonly mark?: Mark;
  readonly toHard: Mark;
  /** The readings' own trend to `mark`, where they rise as the curve does not make it. */
  readonly trend?: TrendToMark;
  readonly question: LeftQuestion;
  /** The bed as its grade says. */
  readonly plain: PlainBed;
  readonly firstDay: string;
  /** Beds that stand before it, as they are believed. */
  readonly ahead: Ahead;
}

/** Weeks whose water tells which taps a rig hangs on. */
const TAPS_OF_DAYS = 21;
const MS_PER_DAY = 86_400_000;

/** Feed to expect: each tap's as it stands now, by its share of the last three weeks' water. */
function feedToCome({ rig, now }: StandingInput, { feed }: RigLedger, { lines }: ChargeLedger): FeedToCome {
  const last = lines[lines.length - 1]?.at ?? now;
  const byTap = new Map<Id, number>();
  for (const { at, visit, litres } of lines)
    if (visit && last - at <= TAPS_OF_DAYS * MS_PER_DAY) byTap.set(visit.tapId, (byTap.get(visit.tapId) ?? 0) + litres);
  const all = [...byTap.values()].reduce((sum, litres) => sum + litres, 0);
  const shares =
    all > 0 ? [...byTap].map(([tapId, litres]) => [tapId, litres / all] as const) : [[rig.tapId, 1] as const];
  const mean = (of: (tapId: Id) => number) => shares.reduce((sum, [tapId, share]) => sum + share * of(tapId), 0);
  const typical = mean((tapId) => feed.at(tapId, now));
  const sd = mean((tapId) => feed.sdAt(tapId, now));
  const reach = Math.exp(NORMAL_90 * sd);
  const isRead = shares.every(([tapId]) => feed.readNear(tapId, now));
  return { low: typical / reach, typical, high: typical * reach, sd, isRead };
}

const rangeOf = (weights: CapacityWeights, gradeCapacity: number): CapacityRange => ({
  low: gradeCapacity * Math.exp(xQuantile(weights, 0.1)),
  median: gradeCapacity * Math.exp(xQuantile(weights, 0.5)),
  high: gradeCapacity * Math.exp(xQuantile(weights, 0.9)),
});

const NONE_AHEAD: Ahead = [];

/**
 * Where the charge in a vessel stands: load used against a belief that starts at the grade, learns from the owner's past
 * charges and is moved by the product readings. Of a vessel among others ask `workTrain`.
 *
 * @param owner what `learn` gave for the crew's lessons; only this vessel's own when absent
 * @param ahead the beds before it, as they are believed
 * @returns a standing, or the fault `no-charge` when the vessel is empty
 */
export function workStanding(
  input: StandingInput,
  owner?: OwnerBelief,
  books: RigLedger = vesselLedger(input),
  ahead: Ahead = NONE_AHEAD,
): Result<WorkedStanding> {
  const open = [...input.charges]
    .reverse()
    .find(({ vesselId, ended }) => vesselId === input.vessel.id && ended === undefined);
  const ledger = open && books.ofCharge(open.id);
  if (!ledger) return fail("no-charge", "This vessel has no charge in use.");
  const hydraulics = hydraulicsOf(ledger.charge, input);
  if (!hydraulics.ok) return hydraulics;
  const believed = owner ?? learn(lessonsOf(input), input.vessel.id);
  const worked = standingOf(input, believe(input, books, ledger, hydraulics.value, believed, ahead));
  const checked = finite(worked.standing);
  return checked.ok ? succeed(worked) : checked;
}

/** Where the charge in a vessel stands. @see workStanding */
export function standing(input: StandingInput, owner?: OwnerBelief): Result<Standing> {
  const worked = workStanding(input, owner);
  return worked.ok ? succeed(worked.value.standing) : worked;
}

interface Work {
  readonly use: ExpectedUse;
  readonly sinceLog: SinceLog;
  readonly firstDay: string;
}

/** Water to expect, and what may have gone since the last log. */
function workOf(input: StandingInput, { water }: RigLedger, { filledAt }: Charge): Work {
  const { rig, now, today, dateOf, bookings = [] } = input;
  const drawn = water.map(({ at, litres }) => ({ date: dateOf(at), litres })).filter(({ date }) => date <= today);
  const use = expectedUse(drawn, {
    litresPerJob: rig.litresPerJob,
    ...(rig.jobsPerWeek === undefined ? {} : { jobsPerWeek: rig.jobsPerWeek }),
  });
  const last = drawn.reduce(
    (latest, { date }) => (date > latest ? date : latest),
    dateOf(Math.min(now, time(filledAt))),
  );
  const booked = new Map(bookings.map(({ on, litres }) => [on, litres]));
  const isLoggedToday = drawn.some(({ date }) => date === today);
  return { use, sinceLog: sinceLastLog(last, today, use, booked), firstDay: isLoggedToday ? addDays(today, 1) : today };
}

/** What a standing is drawn from: the belief, its marks and the question asked of it. */
interface Believed {
  readonly books: RigLedger;
  readonly ledger: ChargeLedger;
  readonly hydraulics: Hydraulics;
  readonly owner: OwnerBelief;
  readonly used: LoadUsed;
  readonly before: Before;
  /** Relative standard deviation of the load. */
  readonly loadSd: number;
  readonly feed: FeedToCome;
  readonly groups: readonly ReadingGroup[];
  readonly belief: ChargeBelief;
  readonly toLimit: Mark;
  /** µS/cm. */
  readonly toLimitEc25: number;
  readonly toHard: Mark;
  readonly work: Work;
  readonly question: LeftQuestion;
  readonly feedMeetsLimit: boolean;
  readonly leak: Leak | undefined;
  /** The first leak; absent where the composition is unknown. */
  readonly toLeak: Mark | undefined;
  /** The first leak, which harms an aquarium whatever a meter shows of it, and where the feed itself meets the limit; else the limit. */
  readonly toEnd: Mark;
  readonly ahead: Ahead;
}

function believe(
  input: StandingInput,
  books: RigLedger,
  ledger: ChargeLedger,
  hydraulics: Hydraulics,
  owner: OwnerBelief,
  ahead: Ahead,
): Believed {
  const { vessel, rig } = input;
  const { charge, outputs, lines } = ledger;
  const used = loadUsed(lines);
  const loadSd = loadSdOf(used);
  const feed = feedToCome(input, books, ledger);
  const [limitEc25, hardEc25] = [limitOf(vessel), hardOf(vessel)];
  const groups = groupsOf(outputs, charge.resinLitres);
  const work = workOf(input, books, charge);
  const scale = scaleOfCharge(vessel, hydraulics, feed.typical);
  const before = usedBefore(charge.partUsed, {
    litresPerJob: rig.litresPerJob,
    week: work.use.weekdays.reduce((sum, litres) => sum + litres, 0),
    feedEc25: feed.typical,
    promised: Math.exp(scale.logPromised),
  });
  const belief = chargeBelief(owner, loadSd, groups, scale, before.used);
  const place = (mark: Mark, event: Event) => markInPlace(mark, belief, hydraulics.plain, ahead, event, ledger.loads);
  const toMark = (ec25: number) => place(markOf(ec25, feed.typical, belief), shareOfFeed(ec25, feed.typical));
  const toLimit = toMark(limitEc25);
  const toLeak = leakMarkOf(belief);
  const question: LeftQuestion = {
    used: used.meq,
    ...(ledger.loads ? { loads: ledger.loads } : {}),
    feed: { median: feed.typical, sd: feed.sd },
    sinceLog: { median: work.sinceLog.litres, sd: work.sinceLog.sd },
  };
  const leak = toLeak && leakOf(belief, question, place(toLeak, "leak"), ahead);
  const feedMeetsLimit = limitEc25 >= feed.typical;
  return {
    books,
    ledger,
    hydraulics,
    owner,
    used,
    before,
    loadSd,
    feed,
    groups,
    belief,
    toLimit,
    toLimitEc25: limitEc25,
    toHard: toMark(hardEc25),
    toLeak: toLeak && place(toLeak, "leak"),
    work,
    question,
    feedMeetsLimit,
    leak,
    ahead,
    toEnd: toLeak && (rig.use === "aquarium" || feedMeetsLimit) ? place(toLeak, "leak") : toLimit,
  };
}

interface Judged {
  readonly verdict: Verdict;
  readonly limitReached: number;
  readonly pace: number;
  readonly promisedShare: number;
  readonly rise: TrendToMark | undefined;
  readonly isExplained: boolean;
  /** What the litres left run to; absent where none are shown. */
  readonly mark: Mark | undefined;
  readonly leftTo: Standing["leftTo"];
}

/** Draws over which a foretold output is averaged. */
const FORETOLD_DRAWS = 200;

/** The readings' own trend, where they rise as the curve does not make it. */
function riseOf({ belief, owner, loadSd, before, groups, toLimitEc25 }: Believed): SlowRise | undefined {
  return slowRise(groups, toLimitEc25, (earlier, { meq, loads, feedEc25 }) => {
    const then = chargeBelief(owner, loadSd, earlier, belief.scale, before.used);
    let shares = 0;
    for (let i = 0; i < FORETOLD_DRAWS; i += 1) {
      const drawn = chargeAt(then, (i + 0.5) / FORETOLD_DRAWS);
      const byLoads = loads && outputByLoads(then, drawn);
      shares += byLoads ? byLoads(loads) : outputOf(then, drawn)(meq);
    }
    return (feedEc25 * shares) / FORETOLD_DRAWS;
  });
}

function judge({ vessel, rig }: StandingInput, believed: Believed): Judged {
  const { belief, groups, used, before, owner, question, toLimit, toHard, toEnd, leak, feedMeetsLimit, work, ahead } =
    believed;
  const promised = promisedMeq(belief) * Math.exp(xQuantile(owner.capacity, 0.5));
  const usedToEnd =
    question.loads && toEnd.loads ? loadTogether(question.loads, toEnd.loads, curveWeights(belief)) : used.meq;
  const promisedShare =
    (usedToEnd + before.meq) / (promised * (leak && toEnd !== toLimit ? Math.min(1, leak.share) : 1));
  const litres = groups.map((group) => group.litres);
  const pace = paceOf(litres, work.use.dayWithWater, rig.litresPerJob);
  const rise = riseOf(believed);
  const trend = (ec25: number) => rise && trendTo(rise, ec25, believed.feed.typical, used.litres);
  const toLimitByTrend = toEnd === toLimit ? trend(believed.toLimitEc25) : undefined;
  const leftAt = (of: ChargeBelief, asked: LeftQuestion, share: number) => {
    if (feedMeetsLimit && toEnd === toLimit) return Infinity;
    const own = leftBehind(of, toEnd, ahead, asked, share);
    return toLimitByTrend ? Math.min(own, trendLeft(toLimitByTrend, share, asked.sinceLog.median)) : own;
  };
  const logged: LeftQuestion = { ...question, sinceLog: { median: 0, sd: 0 } };
  const limitReached = shareReachedBy(belief, toLimit, used.meq);
  const hardReached = shareReachedBy(belief, toHard, used.meq);
  const asks = verdict({
    marks: vessel.marks,
    groups,
    limitReached,
    hardReached,
    capacityShare: promisedShare,
    left: { low: leftAt(belief, question, 0.1), lowWhenLogged: leftAt(belief, logged, 0.1) },
    leftAlmostSurely: leftAt(tellsOfBypass(believed) ? belief : tight(belief), question, ALMOST_SURELY),
    pace,
  });
  const leftTo = asks.state === "change" ? "none" : asks.state === "finish" ? "hard" : "limit";
  const isExplained = (leftTo === "none" ? hardReached : limitReached) >= CONVINCED;
  // What the count does not explain has no litres to offer; nor has one look above the stop point.
  const isAboveHard = (groups[groups.length - 1]?.ec25 ?? 0) >= hardOf(vessel);
  const isBelieved = leftTo === "limit" || (leftTo === "hard" && isExplained && !isAboveHard);
  const mark = !isBelieved || feedMeetsLimit ? undefined : leftTo === "hard" ? toHard : toLimit;
  return {
    ...{ verdict: asks, limitReached, pace, promisedShare, mark, leftTo },
    rise: trend(leftTo === "limit" ? believed.toLimitEc25 : hardOf(vessel)),
    isExplained: leftTo === "limit" || isExplained,
  };
}

/** Whether any reading tells how much goes round the beads: of a bed that was fed next to nothing none does. */
const tellsOfBypass = ({ groups, toLimitEc25 }: Believed) => groups.some(({ feedEc25 }) => feedEc25 > toLimitEc25);

/** What the resin of a charge holds, in eq/L, and how far its front stands. */
function figuresOf({ ledger: { charge }, belief, used, before, owner, loadSd, hydraulics: { bed } }: Believed) {
  const gradeCapacity = gradeCapacityOf(charge);
  const capacity = rangeOf(capacityWeights(belief), gradeCapacity);
  // What a part-used charge had taken before counts for where its front stands.
  const throughputAt = (eqPerLitre: number) =>
    (used.meq + before.meq) / ((belief.scale.meq * eqPerLitre) / gradeCapacity + before.meq);
  const throughput = {
    low: throughputAt(capacity.high),
    typical: throughputAt(capacity.median),
    high: throughputAt(capacity.low),
  };
  return {
    gradeCapacity,
    ownCapacity: rangeOf(owner.capacity, gradeCapacity),
    capacityByCount: rangeOf(chargePrior(owner.capacity, loadSd), gradeCapacity),
    capacity,
    throughput,
    front: {
      low: frontDepth(throughput.low, bed.transferUnits),
      typical: frontDepth(throughput.typical, bed.transferUnits),
      high: frontDepth(throughput.high, bed.transferUnits),
    },
  };
}

function standingOf(input: StandingInput, believed: Believed): WorkedStanding {
  const { books, ledger, hydraulics, owner, used, before, feed, groups, belief, question, leak, ahead } = believed;
  const { charge, outputs } = ledger;
  const { mark, rise, leftTo, ...judged } = judge(input, believed);
  const { sinceLog, use, firstDay } = believed.work;
  const limitThroughput = promisedMeq(belief) / belief.scale.meq;
  const shape = shapeOf(belief);
  const own = mark && threeBehind(belief, mark, ahead, question);
  const left = own && rise ? noLaterThan(own, rise, sinceLog.litres) : own;
  const where: Standing = {
    charge,
    ledger,
    used,
    ...(before.used ? { usedBefore: { litres: before.litres, meq: before.meq } } : {}),
    bed: hydraulics.bed,
    condition: chargeCondition(charge),
    ...figuresOf(believed),
    ...judged,
    limitThroughput,
    markThroughput: mark
      ? (Math.exp(belief.scale.logPromised) * laterThanLimit(belief, mark)) / belief.scale.meq
      : limitThroughput,
    taught: owner.taught,
    feed,
    passage: passage(input.rig),
    leftTo,
    ...(left ? { left } : {}),
    isByTrend: own !== undefined && left!.typical < own.typical,
    ...(ahead.length > 0 ? { aheadHolds: aheadHolds(believed, mark) } : {}),
    leftByCount: leftByCount(believed),
    ...(leak && leftTo !== "none" ? { leak } : {}),
    sinceLog,
    use,
    shape: { width: shape.width, bypass: shape.tight < 0.5 ? shape.bypass : 0 },
    outputs,
    groups,
    ...(rise ? { rise } : {}),
    feedMeetsLimit: believed.feedMeetsLimit,
    ...carbonOf(believed, mark),
    ...plateauOf(input, believed),
    heldBack: heldBackOf(input, books, ledger),
    unlogged: unloggedOf(ledger),
  };
  const isCounted = mark !== undefined || (believed.feedMeetsLimit && leak !== undefined);
  const dated = leftTo === "limit" && isCounted ? believed.toEnd : mark;
  return {
    standing: where,
    belief,
    ...(dated ? { mark: dated } : {}),
    ...(dated && dated === mark && rise ? { trend: rise } : {}),
    toHard: believed.toHard,
    question,
    plain: hydraulics.plain,
    firstDay,
    ahead,
  };
}

/** What is known of a carbon dioxide that nobody measured, and what a measurement would leave of the range. */
function carbonOf({ belief, hydraulics, ahead, question, toEnd, toLimit, feedMeetsLimit }: Believed, mark?: Mark) {
  const { carbon } = hydraulics;
  const to = mark === toLimit || feedMeetsLimit ? toEnd : mark;
  if (!carbon || belief.scale.curves.length === 1 || !to) return {};
  const narrowed = threeBehind(onCurve(belief, middleCurve(belief)), to, ahead, question);
  return { carbon: { by: carbon.by, narrowed } };
}

/** A limit is raised so far above the carbonic acid, and to a whole figure. */
const CLEAR_OF_IT = 1.2;
/** Ending a twentieth early is no matter. */
const WORTH_RAISING = 0.05;

/** Whether the carbonic acid of spent anion beads alone ends the charge; where it does harm, as in an aquarium, it may. */
function plateauOf({ rig, vessel }: StandingInput, { belief, hydraulics, toLimitEc25, feed }: Believed) {
  const curve = middleCurve(belief);
  const water = hydraulics.plain.kind === "mixed" ? hydraulics.plain.waters[curve] : undefined;
  if (!water || rig.use === "aquarium" || !plateauShows(water.ions, toLimitEc25)) return {};
  const ec25 = carbonicPlateau(water.ions.hco3);
  const perUnit = scaleFactor(vessel.marks.scale);
  const raised = Math.ceil(CLEAR_OF_IT * ec25 * perUnit) / perUnit;
  if (raised >= feed.typical) return {};
  const reached = (mark: number) => firstPass(frontOf(belief.scale.curves[curve]!, 0), shareOfFeed(mark, feed.typical));
  const early = 1 - Math.exp(reached(toLimitEc25) - reached(raised));
  return early < WORTH_RAISING ? {} : { plateau: { ec25, raised, early } };
}

/** Litres left by the readings' own trend; the middle and the high end no later than the belief's. */
function noLaterThan(own: ThreeOf<number>, trend: TrendToMark, gone: number): ThreeOf<number> {
  const by = (share: number) => trendLeft(trend, share, gone);
  const typical = Math.min(by(0.5), own.typical);
  return { low: Math.min(by(0.1), typical), typical, high: Math.min(by(0.9), own.high) };
}

/** What the beds ahead hold back until a mark: what came less what reached this one. */
function aheadHolds({ belief, ahead, used, feed, toLeak, question }: Believed, mark: Mark | undefined) {
  const middle = chargeAt(belief, 0.5);
  const until = (to: Mark) => {
    const litres = drawnLeft(
      { belief, used: used.meq, loads: question.loads },
      to,
      ahead,
      middle,
      () => 0.5,
      feed.typical,
    );
    return (litres * feed.typical) / 100 - Math.max(0, loadAtMark(belief, to, middle) - used.meq);
  };
  return {
    ...(mark ? { toMark: until(mark) } : {}),
    ...(toLeak ? { toLeak: until(toLeak) } : {}),
  };
}

const MOST_COUNTS = 20;
const counts = new RememberedOf<OwnerBelief, ThreeOf<number>>(MOST_COUNTS);

/** Litres left by the count, before this charge's readings spoke: the same whatever they say, so worked out once. */
function leftByCount(believed: Believed): ThreeOf<number> {
  const { owner, loadSd, belief, before, groups, toLimit, question, ahead } = believed;
  if (groups.length === 0) return threeBehind(tight(belief), toLimit, ahead, question);
  const byCount = () =>
    threeBehind(chargeBelief(owner, loadSd, [], belief.scale, before.used), toLimit, ahead, question);
  if (ahead.length > 0) return byCount();
  const { logPromised } = belief.scale;
  const key = `${JSON.stringify([loadSd, before.used, question, logPromised])} ${toLimit.offsets.join(" ")}`;
  return counts.about(owner).of(key, byCount);
}

/** What waits to be confirmed since this charge was filled. */
function heldBackOf({ visits, feedTests = [] }: StandingInput, books: RigLedger, { charge }: ChargeLedger): HeldBack {
  const filled = time(charge.filledAt);
  const recent = new Set([...visits, ...feedTests].filter(({ at }) => time(at) >= filled).map(({ id }) => id));
  return {
    feeds: books.doubtfulFeeds.filter(({ recordId }) => recent.has(recordId)),
    totals: [...books.doubtfulTotals].flatMap(([id, doubt]) => (doubt === "far-above" && recent.has(id) ? [id] : [])),
  };
}

/** Share of the belief that "almost surely" leaves out: a planning assumption; at 0.03 a charge in 25 passed unwarned. */
const ALMOST_SURELY = 0.02;
/** A first leak this close before the limit shows on the meter. */
const SEEN_FROM = 0.95;

function leakOf(belief: ChargeBelief, question: LeftQuestion, mark: Mark, ahead: Ahead): Leak {
  const middle = middleCurve(belief);
  const leaks = belief.scale.curves.map(({ leak }) => leak!);
  const { throughput, species } = leaks[middle]!;
  const { meq, logPromised, later } = belief.scale;
  const share = (throughput * meq) / Math.exp(logPromised + later[middle]!);
  const left = threeBehind(belief, mark, ahead, question);
  const throughputs = leaks.map((each) => each.throughput);
  return { ...left, species, isUnseen: share < SEEN_FROM, share, throughput, throughputs };
}
