import { asOfNow, chargesAsOfNow, countedOf } from "./as-of-now";
import type { KnownWork } from "../dates/expected-use";
import type { DepletionAnswer } from "../dates/futures";
import type { CapacityRange } from "../ledger/own-capacity";
import type { ThreeOf } from "../life/life-range";
import { roundedOutward } from "../numerics/outward";
import type { Id } from "../descriptor/identity";
import type { FeedTest } from "../feed/feed-test.record";
import type { Tap } from "../feed/tap.record";
import type { Charge } from "../resin/charge.record";
import type { Arrangement } from "../rig/arrangement.record";
import type { Rig } from "../rig/rig.record";
import type { Visit } from "../rig/visit.record";
import type { Vessel } from "../vessel/vessel.record";
import type { Meter } from "../water/meter.record";
import type { WaterReport } from "../water/water-report.record";
import { fail, finite, succeed, within, type Result } from "../result";
import type { Reason, State, Verdict } from "../verdict/verdict";
import { reasonWords, type Wording } from "./verdict-words";
import type { Scale } from "../water/meter";
import { time } from "./readings";
import { DEFAULT_PRICES, type Prices } from "../plan/prices";
import type { StandingInput } from "./standing";
import { standingDates } from "./standing-dates";
import { trainWorth, type ActWorth } from "./train-worth";
import { HANG_ONE_IN, lastBed, spentLead, workTrain, type WorkedBed, type WorkedTrain } from "./train";

/** A kept record, as the records API gives it. */
export type Kept<T> = T & { readonly version?: number | undefined; readonly voided?: boolean | undefined };

/** Everything about one rig: what a standing is asked with. */
export interface RigStandingInput {
  /** ISO 8601. */
  readonly now: string;
  /** IANA name of the crew's time zone; it says which day an instant is of. */
  readonly timeZone: string;
  readonly rig: Kept<Rig>;
  /** Who stood where when; without any every resin stage is empty. */
  readonly arrangements?: readonly Kept<Arrangement>[] | undefined;
  /** Other rigs in which its vessels stood. */
  readonly rigs?: readonly Kept<Rig>[] | undefined;
  readonly vessels: readonly Kept<Vessel>[];
  readonly taps: readonly Kept<Tap>[];
  readonly meters: readonly Kept<Meter>[];
  readonly charges: readonly Kept<Charge>[];
  readonly visits: readonly Kept<Visit>[];
  readonly feedTests?: readonly Kept<FeedTest>[] | undefined;
  readonly reports?: readonly Kept<WaterReport>[] | undefined;
  readonly jobsPerWeek?: number | undefined;
  readonly bookings?: readonly KnownWork[] | undefined;
}

export interface VesselStanding {
  readonly vesselId: Id;
  readonly chargeId: Id;
  /** L. */
  readonly treated: number;
  readonly capacity: CapacityRange;
  readonly left?: ThreeOf<number>;
  readonly leftTo: "limit" | "hard" | "none";
  readonly leak?: ThreeOf<number>;
  readonly dates?: DepletionAnswer;
  readonly sinceLog: { readonly days: number; readonly litres: number };
  readonly verdict: VerdictAnswer;
}

export interface VerdictAnswer {
  readonly state: State;
  readonly reasons: readonly { readonly code: Reason; readonly words: string }[];
}

export interface RigStandingAnswer {
  readonly vessels: readonly VesselStanding[];
  readonly train: VerdictAnswer;
}

/** The date of an instant in a time zone. @returns a fault for a zone that nobody knows */
export function datesIn(timeZone: string): Result<(milliseconds: number) => string> {
  try {
    const format = new Intl.DateTimeFormat("en-CA", { timeZone, year: "numeric", month: "2-digit", day: "2-digit" });
    return succeed((milliseconds) => format.format(milliseconds));
  } catch {
    return fail("time-zone", "Name a time zone such as Europe/Berlin or UTC.", "timeZone");
  }
}

const whole = new Intl.NumberFormat("en", { maximumFractionDigits: 1 });
const UNITS: Readonly<Record<string, string>> = { nacl: "ppm NaCl", "442": "ppm 442", kcl: "ppm KCl", ec: "µS/cm" };
const inLitres: Wording = {
  day: (milliseconds) => new Date(milliseconds).toISOString().slice(0, 10),
  litres: (litres) => `${whole.format(Number(litres.toPrecision(3)))} L`,
  litresRange: (low, high) => {
    const range = roundedOutward(low, high);
    return range.low === range.high
      ? `${whole.format(low)} L`
      : `${whole.format(range.low)} to ${whole.format(range.high)} L`;
  },
  scaleUnit: (scale: Scale) => UNITS[scale] ?? `ppm ×${scale}`,
};

const byId = <T extends { readonly id: Id }>(records: readonly T[]): ReadonlyMap<Id, T> =>
  new Map(records.map((record) => [record.id, record]));
const standing = <T>(records: readonly Kept<T>[] | undefined) =>
  (records ?? []).filter((record) => record.voided !== true);

/** Whether every record that is named is there. */
function checkReferences(input: RigStandingInput): Result<true> {
  const { rig } = input;
  const has = { vessels: byId(input.vessels), taps: byId(input.taps), meters: byId(input.meters) };
  const missing = (what: string, path: string) => fail("missing", `The request holds no ${what} of this id.`, path);
  if (!has.taps.has(rig.tapId)) return missing("tap", "rig.tapId");
  for (const [i, { places }] of (input.arrangements ?? []).entries())
    for (const [k, { vesselId }] of places.entries())
      if (vesselId !== undefined && !has.vessels.has(vesselId))
        return missing("vessel", `arrangements.${i}.places.${k}.vesselId`);
  for (const [i, charge] of input.charges.entries())
    if (!has.vessels.has(charge.vesselId)) return missing("vessel", `charges.${i}.vesselId`);
  for (const [i, visit] of input.visits.entries()) {
    if (!has.taps.has(visit.tapId)) return missing("tap", `visits.${i}.tapId`);
    for (const [k, reading] of visit.readings.entries())
      if (reading.meterId !== undefined && !has.meters.has(reading.meterId))
        return missing("meter", `visits.${i}.readings.${k}.meterId`);
  }
  for (const [i, test] of (input.feedTests ?? []).entries()) {
    if (!has.taps.has(test.tapId)) return missing("tap", `feedTests.${i}.tapId`);
    if (test.meterId !== undefined && !has.meters.has(test.meterId)) return missing("meter", `feedTests.${i}.meterId`);
  }
  return succeed(true);
}

const spoken = (verdict: Verdict, words: (code: Reason) => string): VerdictAnswer => ({
  state: verdict.state,
  reasons: verdict.reasons.map((code) => ({ code, words: words(code) })),
});

function vesselStanding({ vessel, worked, verdict }: WorkedBed, asked: StandingInput): VesselStanding {
  const { standing: where } = worked;
  const dates = standingDates(worked, asked.bookings);
  return {
    vesselId: vessel.id,
    chargeId: where.charge.id,
    treated: where.used.litres,
    capacity: where.capacity,
    ...(where.left ? { left: where.left } : {}),
    leftTo: where.leftTo,
    ...(where.leak ? { leak: { low: where.leak.low, typical: where.leak.typical, high: where.leak.high } } : {}),
    ...(dates.ok ? { dates: dates.value } : {}),
    sinceLog: { days: where.sinceLog.days, litres: where.sinceLog.litres },
    verdict: spoken(verdict, (code) => reasonWords(code, where, { ...asked, vessel }, inLitres)),
  };
}

const empty = (words: string): VerdictAnswer => ({ state: "change", reasons: [{ code: "no-charge", words }] });

/** The train's verdict in words: those of its last bed, and what a spent lead asks for. */
function trainAnswer(train: WorkedTrain, asked: StandingInput): VerdictAnswer {
  const last = lastBed(train);
  if (!last.ok) return empty(last.fault.message);
  const { vessel, worked } = last.value;
  const facts = { ...asked, vessel, lead: spentLead(train) };
  return spoken(train.verdict, (code) => reasonWords(code, worked.standing, facts, inLitres));
}

/** A rig's train as worked from its records, with what it was asked with. */
interface Worked {
  readonly train: WorkedTrain;
  readonly asked: StandingInput;
}

/** @returns nothing where no vessel stands in the rig */
function workRig(input: RigStandingInput): Result<Worked | undefined> {
  const dates = datesIn(input.timeZone);
  if (!dates.ok) return dates;
  const complete = checkReferences(input);
  if (!complete.ok) return complete;
  const now = time(input.now);
  const rig = input.jobsPerWeek === undefined ? input.rig : { ...input.rig, jobsPerWeek: input.jobsPerWeek };
  const vessels = standing(input.vessels);
  const [first] = vessels;
  if (!first) return succeed(undefined);
  const rigs = [rig, ...standing(input.rigs).filter(({ id }) => id !== rig.id)];
  const isOfThese = new Set(rigs.map(({ id }) => id));
  const [arrangements, visits, feedTests] = [
    standing(input.arrangements),
    standing(input.visits),
    standing(input.feedTests),
  ];
  const charges = standing(input.charges);
  const counted = countedOf(now, [arrangements, visits, feedTests], charges);
  const asked: StandingInput = {
    rig,
    vessel: first,
    train: { rigs, vessels, arrangements: asOfNow(arrangements, now, counted) },
    taps: byId(standing(input.taps)),
    meters: byId(standing(input.meters)),
    visits: asOfNow(visits, now, counted)
      .filter((visit) => isOfThese.has(visit.rigId))
      .sort((a, b) => time(a.at) - time(b.at)),
    feedTests: asOfNow(feedTests, now, counted),
    reports: standing(input.reports),
    charges: chargesAsOfNow(charges, now, counted)
      .filter((charge) => isOfThese.has(charge.rigId))
      .sort((a, b) => time(a.filledAt) - time(b.filledAt)),
    now,
    today: dates.value(now),
    dateOf: dates.value,
    ...(input.bookings ? { bookings: input.bookings } : {}),
  };
  const train = within("vessels", workTrain(asked));
  return train.ok ? succeed({ train: train.value, asked }) : train;
}

/**
 * What the rack shows of one rig, from its records: litres left, dates, verdict; from the same functions.
 *
 * @returns a fault for a time zone that nobody knows or a record that names another which is not there
 */
export function rigStanding(input: RigStandingInput): Result<RigStandingAnswer> {
  const worked = workRig(input);
  if (!worked.ok) return worked;
  if (!worked.value) return succeed({ vessels: [], train: empty(HANG_ONE_IN) });
  const { train, asked } = worked.value;
  return succeed({
    vessels: train.beds.map((bed) => vesselStanding(bed, asked)),
    train: trainAnswer(train, asked),
  });
}

/** Records of a rig with the prices that its acts are told in. */
export interface TrainWorthInput extends RigStandingInput {
  readonly prices?: Prices | undefined;
}

/**
 * What each act on a train would give: rotate, run the lead to near exhaustion, use all up, refill all. None of a train of one.
 *
 * @returns the faults of `rigStanding`
 */
export function rigTrainWorth({
  prices = DEFAULT_PRICES,
  ...input
}: TrainWorthInput): Result<{ readonly acts: readonly ActWorth[] }> {
  const worked = workRig(input);
  if (!worked.ok) return worked;
  if (!worked.value) return succeed({ acts: [] });
  const { train, asked } = worked.value;
  return finite({ acts: trainWorth(train, asked.rig, prices, prices.minutesPerRefill) });
}
