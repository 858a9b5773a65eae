import {
  expectedOutputs,
  learn,
  lessonsOf,
  standingDates,
  workStanding,
  type Charge,
  type DatedLesson,
  type DepletionAnswer,
  type ExpectedOutput,
  type FeedTest,
  type Id,
  type KnownWork,
  type Meter,
  type OwnerBelief,
  type Rig,
  type Standing,
  type StandingInput,
  type Tap,
  type Verdict,
  type Vessel,
  type Visit,
  type WaterReport,
  type WorkedStanding,
} from "@winter-bead/core";
import { localDate } from "../../ui/format";

/** Everything known about one rig, in a shape that a worker can be sent. */
export interface RigFacts {
  readonly rig: Rig;
  readonly vessel: Vessel;
  readonly taps: readonly Tap[];
  readonly meters: readonly Meter[];
  /** Oldest first. */
  readonly visits: readonly Visit[];
  readonly charges: readonly Charge[];
  readonly feedTests: readonly FeedTest[];
  readonly reports: readonly WaterReport[];
  /** Known work of the days to come. */
  readonly bookings?: readonly KnownWork[];
  /** Milliseconds since 1970. */
  readonly now: number;
}

/** How one rig stands, or why that can't be said. */
export interface Assessment {
  readonly standing?: Standing;
  readonly verdict?: Verdict;
  /** What the crew's ended charges taught of this rig. */
  readonly owner?: OwnerBelief;
  readonly dates?: DepletionAnswer;
  /** Output to expect over the whole charge. */
  readonly front?: readonly ExpectedOutput[];
  /** Why there is no date, or no standing. */
  readonly because?: string;
}

const byId = <T extends { readonly id: Id }>(records: readonly T[]): ReadonlyMap<Id, T> =>
  new Map(records.map((record) => [record.id, record]));

/** Facts as the core's books take them. */
export const inBooks = (facts: RigFacts): StandingInput => ({
  ...facts,
  taps: byId(facts.taps),
  meters: byId(facts.meters),
  today: localDate(facts.now),
  dateOf: localDate,
});

const quickly = ({ standing }: WorkedStanding): Assessment => ({ standing, verdict: standing.verdict });

/** Standing and verdict without the dates: quick enough for every digit that is typed. */
export function assessQuickly(facts: RigFacts, owner?: OwnerBelief): Assessment {
  const worked = workStanding(inBooks(facts), owner);
  return worked.ok ? quickly(worked.value) : { because: worked.fault.message };
}

/** Facts with a visit that is being typed, as if it were kept. */
export const withTyped = (facts: RigFacts, visit: Visit): RigFacts => ({
  ...facts,
  now: Math.max(facts.now, Date.parse(visit.at)),
  visits: [...facts.visits, visit],
});

/** The dates alone; none where there is nothing to date. */
export function datesOf(facts: RigFacts, owner?: OwnerBelief): DepletionAnswer | undefined {
  const worked = workStanding(inBooks(facts), owner);
  const dates = worked.ok ? standingDates(worked.value, facts.bookings) : undefined;
  return dates?.ok ? dates.value : undefined;
}

/** The whole assessment of one rig, simulation of the dates included: for a worker. */
export function assess(facts: RigFacts, owner?: OwnerBelief): Assessment {
  const believed = owner ?? learn(lessonsOf(inBooks(facts)), facts.vessel.id);
  const worked = workStanding(inBooks(facts), believed);
  if (!worked.ok) return { because: worked.fault.message };
  const dates = standingDates(worked.value, facts.bookings);
  return {
    ...quickly(worked.value),
    owner: believed,
    front: expectedOutputs(worked.value),
    ...(dates.ok ? { dates: dates.value } : { because: dates.fault.message }),
  };
}

/** Every rig of a crew at once: each one's ended charges teach all. */
export function assessAll(all: readonly RigFacts[]): readonly Assessment[] {
  const lessons = all.flatMap((facts): readonly DatedLesson[] => lessonsOf(inBooks(facts)));
  return all.map((facts) => assess(facts, learn(lessons, facts.vessel.id)));
}
