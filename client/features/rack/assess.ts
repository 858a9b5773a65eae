import {
  beforeResin,
  expectedOutputs,
  lastBed,
  leadOf,
  lessonsOf,
  DEFAULT_PRICES,
  spentLead,
  stagesAtTap,
  standingDates,
  trainWorth,
  withBefore,
  workTrain,
  type ActWorth,
  type BeforeFacts,
  type BeforeResin,
  type Charge,
  type DatedLesson,
  type DepletionAnswer,
  type ExpectedOutput,
  type FeedTest,
  type Id,
  type KnownWork,
  type Meter,
  type OwnerBelief,
  type Place,
  type Prices,
  type Rig,
  type SpentLead,
  type StageAtTap,
  type Standing,
  type StandingInput,
  type Tap,
  type TrainRecords,
  type Verdict,
  type Vessel,
  type Visit,
  type WaterReport,
  type WorkedBed,
  type WorkedTrain,
} from "@winter-bead/core";
import { localDate } from "../../ui/format";

/** Everything known about one rig, in a shape that a worker can be sent. */
export interface RigFacts {
  readonly rig: Rig;
  /** The one whose product is what the tool gets. */
  readonly vessel: Vessel;
  /** Who stood where, in this rig and in those that share a vessel with it. */
  readonly train: TrainRecords;
  readonly taps: readonly Tap[];
  readonly meters: readonly Meter[];
  /** Oldest first; so are the charges, those of its vessels among them that were filled elsewhere. */
  readonly visits: readonly Visit[];
  /** Dated so far ahead that a clock was wrong: shown, and left out of everything else. */
  readonly ahead?: readonly Visit[];
  readonly charges: readonly Charge[];
  readonly feedTests: readonly FeedTest[];
  readonly reports: readonly WaterReport[];
  /** Of rigs that share a vessel with it: what its vessels took there. */
  readonly elsewhere: { readonly visits: readonly Visit[]; readonly charges: readonly Charge[] };
  /** What was seen and done before its resin. */
  readonly upkeep?: Pick<BeforeFacts, "membraneChecks" | "pressureChecks" | "services">;
  /** What a litre of resin and an hour cost; the usual figures where the crew keeps no list. */
  readonly prices?: Prices | undefined;
  /** Known work of the days to come. */
  readonly bookings?: readonly KnownWork[];
  /** Milliseconds since 1970. */
  readonly now: number;
  /** By what a meter sees alone, for a first answer at once. */
  readonly isPlain?: boolean;
}

/** Where one charge of a train stands. */
export interface BedAssessment {
  readonly vesselId: Id;
  readonly stageId: Id | undefined;
  readonly isLast: boolean;
  readonly verdict: Verdict;
  readonly standing: Standing;
  readonly dates?: DepletionAnswer;
  /** Output to expect over the whole charge. */
  readonly front?: readonly ExpectedOutput[];
}

/** How one rig stands, or why that can't be said. */
export interface Assessment {
  /** Of the last bed, with the verdict of the whole train. */
  readonly standing?: Standing;
  readonly verdict?: Verdict;
  /** Every charge in use in the order of the flow, and every place, empty ones among them. */
  readonly beds?: readonly BedAssessment[];
  readonly places?: readonly Place[];
  /** What each thing that can be done with the lead would give. */
  readonly worth?: readonly ActWorth[];
  /** The bed before the last that is spent, or reads above its mark. */
  readonly lead?: SpentLead;
  /** What stands before the resin and asks for a hand. */
  readonly before?: BeforeResin;
  /** What the crew's ended charges taught, by vessel. */
  readonly owners?: ReadonlyMap<Id, OwnerBelief>;
  readonly dates?: DepletionAnswer;
  /** Output to expect over the whole charge. */
  readonly front?: readonly ExpectedOutput[];
  /** Why there is no date, or no standing. */
  readonly because?: string;
}

const byId = <T extends { readonly id: Id }>(records: readonly T[]): ReadonlyMap<Id, T> =>
  new Map(records.map((record) => [record.id, record]));

/** Two lists, each oldest first, as one. */
function merged<T>(own: readonly T[], others: readonly T[], at: (each: T) => string): readonly T[] {
  if (others.length === 0) return own;
  return [...own, ...others].sort((a, b) => Date.parse(at(a)) - Date.parse(at(b)));
}

/** Facts as the core's books take them: those of linked rigs among them. */
export const inBooks = ({ elsewhere, ahead: _ahead, upkeep: _upkeep, ...facts }: RigFacts): StandingInput => ({
  ...facts,
  visits: merged(facts.visits, elsewhere.visits, ({ at }) => at),
  charges: merged(facts.charges, elsewhere.charges, ({ filledAt }) => filledAt),
  taps: byId(facts.taps),
  meters: byId(facts.meters),
  today: localDate(facts.now),
  dateOf: localDate,
});

type Owners = ReadonlyMap<Id, OwnerBelief>;

const withOwners = (facts: RigFacts, owners: Owners | undefined): StandingInput => ({
  ...inBooks(facts),
  ...(owners ? { owners } : {}),
});

const bedOf = ({ vessel, stageId, isLast, verdict, worked }: WorkedBed): BedAssessment => ({
  ...{ vesselId: vessel.id, stageId, isLast, verdict },
  standing: worked.standing,
});

const NOTHING_SEEN = { membraneChecks: [], pressureChecks: [], services: [] };

/** What stands before a rig's resin and asks for a hand. */
const beforeOf = ({ rig, visits, meters, upkeep = NOTHING_SEEN }: RigFacts): BeforeResin =>
  beforeResin({ rig, visits, meters: byId(meters), ...upkeep });

/** What is said of a train at once; a train without a charge has no standing, but its places. */
function quickly(facts: RigFacts, train: WorkedTrain): Assessment {
  const { places, beds } = train;
  const before = beforeOf(facts);
  const verdict = withBefore(train.verdict, before);
  const last = lastBed(train);
  if (!last.ok) return { verdict, places, because: last.fault.message };
  const lead = spentLead(train);
  return {
    standing: { ...last.value.worked.standing, verdict },
    ...{ verdict, places, beds: beds.map(bedOf) },
    ...(lead ? { lead } : {}),
    before,
  };
}

/** Standing and verdict without the dates: quick enough for every digit that is typed. */
export function assessQuickly(facts: RigFacts, owners?: Owners): Assessment {
  const train = workTrain(withOwners(facts, owners));
  return train.ok ? quickly(facts, train.value) : { because: train.fault.message };
}

/** A visit that is being typed, with what the meter is said to have shown at the filling of the newest charge. */
export type TypedVisit = Visit & { readonly atFilling?: number | undefined };

/** Facts with a visit that is being typed, as if it were kept: it is dated by the clock. */
export const withTyped = (facts: RigFacts, { atFilling, ...visit }: TypedVisit): RigFacts => ({
  ...facts,
  now: Math.max(facts.now, Date.parse(visit.at)),
  visits: [...facts.visits, visit],
  ...(atFilling === undefined ? {} : { charges: startedAt(facts.charges, atFilling) }),
});

const startedAt = (charges: readonly Charge[], startTotal: number): readonly Charge[] =>
  charges.map((charge, i) => (i === charges.length - 1 ? { ...charge, startTotal } : charge));

/** The dates alone; none where there is nothing to date. */
export function datesOf(facts: RigFacts, owners?: Owners): DepletionAnswer | undefined {
  const train = workTrain(withOwners(facts, owners));
  const last = train.ok ? lastBed(train.value) : train;
  const dates = last.ok ? standingDates(last.value.worked, facts.bookings) : last;
  return dates.ok ? dates.value : undefined;
}

const worthOf = ({ rig, prices = DEFAULT_PRICES }: RigFacts, train: WorkedTrain) =>
  trainWorth(train, rig, prices, prices.minutesPerRefill);

/** The whole assessment of one rig, simulation of the dates included: for a worker. */
export function assess(facts: RigFacts, lessons?: readonly DatedLesson[]): Assessment {
  const train = workTrain(inBooks(facts), lessons);
  if (!train.ok) return { because: train.fault.message };
  const { beds } = train.value;
  const datesOfBeds = beds.map((bed) => standingDates(bed.worked, facts.bookings));
  const whole = beds.map((bed, i): BedAssessment => {
    const dates = datesOfBeds[i]!;
    return { ...bedOf(bed), front: expectedOutputs(bed.worked), ...(dates.ok ? { dates: dates.value } : {}) };
  });
  const last = lastBed(train.value);
  const at = last.ok ? beds.indexOf(last.value) : -1;
  const of = whole[at];
  const dates = last.ok ? datesOfBeds[at]! : last;
  return {
    ...quickly(facts, train.value),
    beds: whole,
    owners: train.value.owners,
    ...(leadOf(beds) ? { worth: worthOf(facts, train.value) } : {}),
    ...(of?.front ? { front: of.front } : {}),
    ...(dates.ok ? { dates: dates.value } : { because: dates.fault.message }),
  };
}

/** What each stage before the resin does at this tap; nothing while no charge stands there. */
export function stagesOf(facts: RigFacts, owners?: Owners): readonly StageAtTap[] {
  const input = withOwners(facts, owners);
  const train = workTrain(input);
  const [lead] = train.ok ? train.value.beds : [];
  return lead ? stagesAtTap(input, lead, facts.prices ?? DEFAULT_PRICES) : [];
}

/** Every rig of a crew at once: each one's ended charges teach all. */
export function assessAll(all: readonly RigFacts[]): readonly Assessment[] {
  const lessons = all.flatMap((facts): readonly DatedLesson[] => lessonsOf(inBooks(facts)));
  return all.map((facts) => assess(facts, lessons));
}
