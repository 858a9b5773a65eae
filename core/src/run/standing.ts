import { describeBed, type BedAnswer } from "../bed/bed";
import {
  capacityWeights,
  chargeAt,
  chargeBelief,
  leftQuantile,
  laterThanLimit,
  leftUntil,
  loadAtMark,
  markAtThroughput,
  markOf,
  outputShare,
  shapeOf,
  shareReachedBy,
  tight,
  type ChargeBelief,
  type LeftQuestion,
  type Mark,
} from "../belief/charge-belief";
import { chargePrior, xQuantile, type CapacityWeights } from "../belief/grids";
import { groupsOf, type ReadingGroup } from "../belief/groups";
import { lessonOf, ownerBelief, type Lesson, type OwnerBelief } from "../belief/owner";
import { chargeScale } from "../belief/weigh";
import { addDays, daysBetween, weekdayOf } from "../dates/calendar";
import { expectedUse, sinceLastLog, type Booking, type ExpectedUse, type SinceLog } from "../dates/expected-use";
import { chance, datesOf, DEFAULT_PATHS, NO_USE, WorkToCome, type DepletionAnswer } from "../dates/futures";
import { productCurve, type ProductCurve } from "../front/product-curve";
import type { CapacityRange } from "../ledger/own-capacity";
import { loadUsed, type LoadUsed } from "../ledger/water-used";
import { frontDepth } from "../life/breakthrough";
import type { ThreeOf } from "../life/life-range";
import type { Charge, Id, Tap, Vessel, WaterReport } from "../records/records";
import { GRADE_CAPACITIES, GRADE_HEALTH, smallerSide } from "../resin/capacity";
import { PACKING_FACTORS, storageFactor } from "../resin/storage";
import { fail, finite, succeed, within, type Result } from "../result";
import { slowRise, type SlowRise } from "../verdict/slow-rise";
import { paceOf, verdict, type Verdict } from "../verdict/verdict";
import { scaleFactor } from "../water/meter";
import { rigLedger, type ChargeLedger, type LedgerFacts, type OutputReading, type RigLedger } from "./charge-ledger";
import type { DoubtfulFeed } from "./feed-history";
import { passage, time } from "./readings";
import { compositionAtResin, type KnownComposition } from "./tap-composition";

/** A vessel of a rig with its books: what can teach. */
export interface VesselFacts extends LedgerFacts {
  readonly vessel: Vessel;
  readonly reports?: readonly WaterReport[];
}

export interface StandingInput extends VesselFacts {
  /** Milliseconds since 1970. */
  readonly now: number;
  /** ISO date of today where the crew works. */
  readonly today: string;
  /** The ISO date of an instant where the crew works. */
  readonly dateOf: (milliseconds: number) => string;
  readonly bookings?: readonly Booking[];
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
  /** eq/L of this charge. */
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
  /** Litres left to the limit before this charge's readings spoke. */
  readonly leftByCount: ThreeOf<number>;
  /** Litres until anything leaks, and what goes first; absent where the composition is unknown. */
  readonly leak?: Leak;
  readonly sinceLog: SinceLog;
  readonly use: ExpectedUse;
  /** Likeliest width of the front, and share of the water that goes round the beads where that is likely. */
  readonly shape: { readonly width: number; readonly bypass: number };
  readonly verdict: Verdict;
  readonly pace: number;
  /** Depth of the front, 0 at the inlet: early, likely, late. */
  readonly front: ThreeOf<number>;
  readonly outputs: readonly OutputReading[];
  readonly groups: readonly ReadingGroup[];
  /** Readings that rise slowly, group after group. */
  readonly rise?: SlowRise;
  /** Whether the feed itself meets the limit. */
  readonly feedMeetsLimit: boolean;
  /** Figures of this charge that are far from usual and wait to be confirmed or seen again. */
  readonly heldBack: HeldBack;
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
  /** Load at the first leak as a share of the load at the limit, and of the capacity. */
  readonly share: number;
  readonly throughput: number;
}

/** A standing with what its dates and its curve are drawn from. */
export interface WorkedStanding {
  readonly standing: Standing;
  readonly belief: ChargeBelief;
  /** What the dates are of: the mark in `leftTo`, of an aquarium the first leak. */
  readonly mark?: Mark;
  readonly toHard: Mark;
  readonly question: LeftQuestion;
  readonly firstDay: string;
}

/** Share of capacity that storage and packing leave. */
export function chargeCondition(charge: Charge): number {
  const stored = charge.stored ? storageFactor(charge.stored) : undefined;
  return (stored?.ok ? stored.value : 1) * PACKING_FACTORS[charge.packing];
}

const gradeCapacityOf = (charge: Charge) => smallerSide(GRADE_CAPACITIES[charge.grade]);
const chargeMeq = (charge: Charge) => 1000 * charge.resinLitres * gradeCapacityOf(charge) * chargeCondition(charge);
const limitOf = ({ marks }: Vessel) => marks.limit / scaleFactor(marks.scale);

interface Hydraulics {
  readonly bed: BedAnswer;
  readonly curve: ProductCurve;
  readonly composition: KnownComposition | undefined;
}

function hydraulicsOf(charge: Charge, { rig, vessel, taps, reports }: VesselFacts): Result<Hydraulics> {
  const tap = taps.get(rig.tapId);
  if (!tap) return fail("no-tap", "This rig has no tap.");
  const bed = within("bed", bedOf(charge, vessel, rig.flow, tap));
  if (!bed.ok) return bed;
  const composition = compositionAtResin(rig, tap, reports);
  const curve = productCurve(bed.value.transferUnits, composition, GRADE_CAPACITIES[charge.grade]);
  return succeed({ bed: bed.value, curve, composition });
}

const bedOf = (charge: Charge, vessel: Vessel, flow: number, { temperature }: Tap): Result<BedAnswer> =>
  describeBed({
    volume: charge.resinLitres,
    diameter: vessel.diameter,
    flow,
    health: GRADE_HEALTH[charge.grade],
    ...(temperature === undefined ? {} : { temperature }),
  });

/** A lesson with the moment its charge ended, so that those of a whole crew can be told in their order. */
export interface DatedLesson extends Lesson {
  readonly endedAt: number;
}

/** What the ended charges of a vessel teach; those that ended by a fault, or are left out, teach nothing. */
export function lessonsOf(facts: VesselFacts): readonly DatedLesson[] {
  return vesselLedger(facts).charges.flatMap(({ charge, lines, outputs }): DatedLesson[] => {
    const { ended } = charge;
    if (!ended || ended.why === "fault") return [];
    const feedAtEnd = lines[lines.length - 1]?.feedEc25 ?? 0;
    const hydraulics = hydraulicsOf(charge, facts);
    if (!hydraulics.ok || !(feedAtEnd > 0)) return [];
    const { meq, sd } = loadUsed(lines);
    const lesson = lessonOf({
      chargeId: charge.id,
      vesselId: charge.vesselId,
      load: meq,
      sd,
      word: ended.why,
      groups: groupsOf(outputs, charge.resinLitres),
      scale: chargeScale(chargeMeq(charge), hydraulics.value.curve, limitOf(facts.vessel), feedAtEnd),
    });
    return lesson ? [{ ...lesson, endedAt: time(ended.at) }] : [];
  });
}

const vesselLedger = (facts: VesselFacts): RigLedger =>
  rigLedger({ ...facts, charges: facts.charges.filter((charge) => charge.vesselId === facts.vessel.id) });

/** What a crew's ended charges taught of its resin, and of the front in one vessel. */
export function learn(lessons: readonly DatedLesson[], vesselId: Id): OwnerBelief {
  return ownerBelief(
    [...lessons].sort((a, b) => a.endedAt - b.endedAt),
    vesselId,
  );
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
  const reach = Math.exp(1.2815515655446004 * sd);
  const isRead = shares.every(([tapId]) => feed.readNear(tapId, now));
  return { low: typical / reach, typical, high: typical * reach, sd, isRead };
}

/** Spread of a load nobody has put on yet. */
const FRESH_SD = 0.03;

const rangeOf = (weights: CapacityWeights, gradeCapacity: number): CapacityRange => ({
  low: gradeCapacity * Math.exp(xQuantile(weights, 0.1)),
  median: gradeCapacity * Math.exp(xQuantile(weights, 0.5)),
  high: gradeCapacity * Math.exp(xQuantile(weights, 0.9)),
});

/**
 * Where the charge in a vessel stands: load used against a belief that starts at the grade, learns from the owner's past
 * charges and is moved by the product readings.
 *
 * @param owner what `learn` gave for the crew's lessons; only this vessel's own when absent
 * @returns a standing, or the fault `no-charge` when the vessel is empty
 */
export function workStanding(input: StandingInput, owner?: OwnerBelief): Result<WorkedStanding> {
  const books = vesselLedger(input);
  const ledger = [...books.charges].reverse().find((each) => each.charge.ended === undefined);
  if (!ledger) return fail("no-charge", "This vessel has no charge in use.");
  const hydraulics = hydraulicsOf(ledger.charge, input);
  if (!hydraulics.ok) return hydraulics;
  const believed = owner ?? learn(lessonsOf(input), input.vessel.id);
  const worked = standingOf(input, books, ledger, hydraulics.value, believed);
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

function standingOf(
  input: StandingInput,
  books: RigLedger,
  ledger: ChargeLedger,
  { bed, curve, composition }: Hydraulics,
  owner: OwnerBelief,
): WorkedStanding {
  const { vessel, rig } = input;
  const { charge, outputs, lines } = ledger;
  const { marks } = vessel;
  const used = loadUsed(lines);
  const loadSd = used.meq > 0 ? used.sd : FRESH_SD;
  const feed = feedToCome(input, books, ledger);
  const [limitEc25, hardEc25] = [limitOf(vessel), marks.hard / scaleFactor(marks.scale)];
  const scale = chargeScale(chargeMeq(charge), curve, limitEc25, feed.typical);
  const groups = groupsOf(outputs, charge.resinLitres);
  const belief = chargeBelief(owner, loadSd, groups, scale);
  const [toLimit, toHard] = [markOf(limitEc25, feed.typical, belief), markOf(hardEc25, feed.typical, belief)];
  const { use, sinceLog, firstDay } = workOf(input, books, charge);
  const question: LeftQuestion = {
    used: used.meq,
    feed: { median: feed.typical, sd: feed.sd },
    sinceLog: { median: sinceLog.litres, sd: sinceLog.sd },
  };
  const logged: LeftQuestion = { ...question, sinceLog: { median: 0, sd: 0 } };
  const countAlone = groups.length === 0 ? tight(belief) : chargeBelief(owner, loadSd, [], scale);
  const leak = leakOf(belief, question, composition);
  // An aquarium is harmed by the first leak, whatever a meter shows of it.
  const leakMark = leak && rig.use === "aquarium" ? markAtThroughput(leak.throughput, belief) : undefined;
  const toEnd = leakMark ?? toLimit;
  const promised = Math.exp(scale.logPromised + xQuantile(owner.capacity, 0.5));
  const promisedShare = used.meq / (promised * (leakMark && leak ? Math.min(1, leak.share) : 1));
  const pace = paceOf(
    groups.map((group) => group.litres),
    use.dayWithWater,
    rig.litresPerJob,
  );
  const feedMeetsLimit = limitEc25 >= feed.typical;
  const leftAt = (of: ChargeBelief, asked: LeftQuestion, share: number) =>
    feedMeetsLimit ? Infinity : leftQuantile(of, toEnd, asked, share);
  const rise = slowRise(groups, hardEc25);
  const limitReached = shareReachedBy(belief, toLimit, used.meq);
  const asks = verdict({
    marks,
    outputs: groups.map((group) => group.ec25),
    isRising: rise !== undefined,
    limitReached,
    hardReached: shareReachedBy(belief, toHard, used.meq),
    capacityShare: promisedShare,
    left: { low: leftAt(belief, question, 0.1), lowWhenLogged: leftAt(belief, logged, 0.1) },
    leftAlmostSurely: leftAt(groups.length === 0 ? tight(belief) : belief, question, ALMOST_SURELY),
    pace,
  });
  const leftTo = asks.state === "change" ? "none" : asks.state === "finish" ? "hard" : "limit";
  // Three readings in a row may say what the belief does not: then it has no litres to offer.
  const isBelieved = leftTo === "limit" || (leftTo === "hard" && limitReached >= BELIEVED);
  const mark = !isBelieved || feedMeetsLimit ? undefined : leftTo === "hard" ? toHard : toLimit;
  const gradeCapacity = gradeCapacityOf(charge);
  const limitThroughput = Math.exp(scale.logPromised) / scale.meq;
  const capacity = rangeOf(capacityWeights(belief), gradeCapacity);
  const throughputAt = (eqPerLitre: number) => (used.meq * gradeCapacity) / (scale.meq * eqPerLitre);
  const throughput = {
    low: throughputAt(capacity.high),
    typical: throughputAt(capacity.median),
    high: throughputAt(capacity.low),
  };
  const shape = shapeOf(belief);
  const where: Standing = {
    charge,
    ledger,
    used,
    bed,
    condition: chargeCondition(charge),
    gradeCapacity,
    limitThroughput,
    markThroughput: limitThroughput * (mark ? laterThanLimit(belief, mark) : 1),
    ownCapacity: rangeOf(owner.capacity, gradeCapacity),
    taught: owner.taught,
    capacityByCount: rangeOf(chargePrior(owner.capacity, loadSd), gradeCapacity),
    capacity,
    feed,
    passage: passage(rig),
    throughput,
    promisedShare,
    leftTo,
    ...(mark ? { left: leftUntil(belief, mark, question) } : {}),
    leftByCount: leftUntil(countAlone, toLimit, question),
    ...(leak && asks.state !== "change" ? { leak } : {}),
    sinceLog,
    use,
    shape: { width: shape.width, bypass: shape.tight < 0.5 ? shape.bypass : 0 },
    verdict: asks,
    pace,
    front: {
      low: frontDepth(throughput.low, bed.transferUnits),
      typical: frontDepth(throughput.typical, bed.transferUnits),
      high: frontDepth(throughput.high, bed.transferUnits),
    },
    outputs,
    groups,
    ...optional("rise", rise),
    feedMeetsLimit,
    heldBack: heldBackOf(input, books, ledger),
  };
  const dated = leftTo === "limit" && mark ? toEnd : mark;
  return { standing: where, belief, ...(dated ? { mark: dated } : {}), toHard, question, firstDay };
}

/** What waits to be confirmed since this charge was filled. */
function heldBackOf({ visits, feedTests = [] }: StandingInput, books: RigLedger, { charge }: ChargeLedger): HeldBack {
  const filled = time(charge.filledAt);
  const recent = new Set([...visits, ...feedTests].filter(({ at }) => time(at) >= filled).map(({ id }) => id));
  return {
    feeds: books.doubtfulFeeds.filter(({ recordId }) => recent.has(recordId)),
    totals: [...books.doubtfulTotals].filter((id) => recent.has(id)),
  };
}

/** Share of the belief that "almost surely" leaves out: a planning assumption. */
const ALMOST_SURELY = 0.03;
/** From this share on the belief goes along with readings above the limit. */
const BELIEVED = 0.5;

const optional = <K extends string, T>(key: K, value: T | undefined) =>
  (value === undefined ? {} : { [key]: value }) as { readonly [key in K]?: T };

/** A first leak this close before the limit shows on the meter. */
const SEEN_FROM = 0.95;

function leakOf(
  belief: ChargeBelief,
  question: LeftQuestion,
  composition: KnownComposition | undefined,
): Leak | undefined {
  const { curve } = belief.scale;
  if (!composition || !curve.leak) return undefined;
  const { throughput, species } = curve.leak;
  const share = throughput / (Math.exp(belief.scale.logPromised) / belief.scale.meq);
  const left = leftUntil(belief, markAtThroughput(throughput, belief), question);
  return { ...left, species, isUnseen: share < SEEN_FROM, share, throughput };
}

/** Seeded, so that the same facts give the same dates. */
const SEED = 20;
/** Planning assumptions: how far a future's pace is off in the first week, and a day's use. */
const PACE_SD = 0.3;
const DAY_SHARE = 0.5;

/** Days from the first day to come on which the mark falls, one a simulated future, ascending. */
export function standingDays(
  { standing: where, belief, mark, question, firstDay }: WorkedStanding,
  bookings: readonly Booking[] = [],
): Result<Int32Array> {
  if (!mark) return fail("no-mark", "There is no mark to come, so there is no date.");
  const { use } = where;
  const uses = (mean: number) => ({ mean, sd: DAY_SHARE * mean });
  const booked = new Map(bookings.map(({ on, litres }) => [daysBetween(firstDay, on), uses(litres)]));
  const work = new WorkToCome(use.weekdays.map(uses), weekdayOf(firstDay), booked);
  if (!work.isAny) return NO_USE;
  const { uniform, normal } = chance(SEED);
  const paceSd = PACE_SD / Math.sqrt(1 + use.weeksLogged);
  const days = new Int32Array(DEFAULT_PATHS);
  for (let path = 0; path < DEFAULT_PATHS; path += 1) {
    // One draw a slice of the belief: all of it is drawn, none of it twice.
    const load = loadAtMark(belief, mark, chargeAt(belief, (path + uniform()) / DEFAULT_PATHS));
    const feed = question.feed.median * Math.exp(question.feed.sd * normal());
    const gone = Math.max(0, question.sinceLog.median + question.sinceLog.sd * normal());
    const left = Math.max(0, ((load - question.used) * 100) / feed - gone);
    days[path] = left > 0 ? work.dayOfEnd(left, Math.exp(paceSd * normal()), normal) : 0;
  }
  return succeed(days.sort());
}

/** Early, likely and late day on which the mark falls (Metropolis and Ulam 1949, the Monte Carlo method). */
export function standingDates(worked: WorkedStanding, bookings?: readonly Booking[]): Result<DepletionAnswer> {
  const days = standingDays(worked, bookings);
  return days.ok ? datesOf(days.value, worked.firstDay) : days;
}

/** Output to expect at one point of a charge, µS/cm: early, likely and late front. */
export interface ExpectedOutput {
  readonly litres: number;
  readonly early: number;
  readonly likely: number;
  readonly late: number;
}

const BAND_POINTS = 60;
const BAND_DRAWS = 400;
/** Drawn a little beyond the late hard mark. */
const BAND_MARGIN = 1.04;

/** Output over litres as the belief has it: the middle and the 10 and 90 % points of many drawn charges. */
export function expectedOutputs(
  { standing: where, belief, toHard, question }: WorkedStanding,
  until?: number,
): readonly ExpectedOutput[] {
  const { used, feed } = where;
  const untilLitres = until ?? BAND_MARGIN * Math.max(used.litres + leftQuantile(belief, toHard, question, 0.9), 1);
  const loadSoFar = used.litres > 0 ? used.meq / used.litres : feed.typical / 100;
  const draws = Array.from({ length: BAND_DRAWS }, (_, i) => chargeAt(belief, (i + 0.5) / BAND_DRAWS));
  return Array.from({ length: BAND_POINTS + 1 }, (_, i) => {
    const litres = (untilLitres * i) / BAND_POINTS;
    const isPast = litres <= used.litres;
    const meq = isPast ? litres * loadSoFar : used.meq + ((litres - used.litres) * feed.typical) / 100;
    const fed = isPast ? 100 * loadSoFar : feed.typical;
    const outputs = Float64Array.from(draws, (drawn) => fed * outputShare(belief, drawn, Math.max(meq, 1e-9))).sort();
    const at = (share: number) => outputs[Math.floor(share * BAND_DRAWS)]!;
    return { litres, early: at(0.9), likely: at(0.5), late: at(0.1) };
  });
}
