import {
  depletion,
  depletionQuestion,
  lessons,
  standing,
  verdict,
  type Charge,
  type DepletionAnswer,
  type Id,
  type Lessons,
  type Meter,
  type Rig,
  type Standing,
  type Tap,
  type Verdict,
  type Vessel,
  type Visit,
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
  /** Milliseconds since 1970. */
  readonly now: number;
}

/** How one rig stands, or why that can't be said. */
export interface Assessment {
  readonly standing?: Standing;
  readonly lessons?: Lessons;
  readonly verdict?: Verdict;
  readonly dates?: DepletionAnswer;
  /** Why there is no date, or no standing. */
  readonly because?: string;
}

const byId = <T extends { readonly id: Id }>(records: readonly T[]): ReadonlyMap<Id, T> =>
  new Map(records.map((record) => [record.id, record]));

const inputOf = (facts: RigFacts) => ({
  ...facts,
  taps: byId(facts.taps),
  meters: byId(facts.meters),
  today: localDate(facts.now),
  dateOf: localDate,
});

export function verdictOf({ rig, vessel }: RigFacts, where: Standing): Verdict {
  return verdict({
    use: rig.use,
    marks: vessel.marks,
    outputs: where.outputs.map((reading) => reading.ec25),
    left: where.left,
    spentShare: where.spentShare,
    capacityShare: where.promisedShare,
    litresPerJob: rig.litresPerJob,
  });
}

/** Standing and verdict without the dates: quick enough while a digit is typed, once the lessons are known. */
export function assessQuickly(facts: RigFacts, learnt?: Lessons): Assessment {
  const where = standing(inputOf(facts), learnt);
  if (!where.ok) return { because: where.fault.message };
  return { standing: where.value, verdict: verdictOf(facts, where.value) };
}

/** The whole assessment, simulation of the dates included: for a worker. */
export function assess(facts: RigFacts): Assessment {
  const learnt = lessons(inputOf(facts));
  if (!learnt.ok) return { because: learnt.fault.message };
  const quick = assessQuickly(facts, learnt.value);
  if (!quick.standing) return quick;
  const dates = depletion(depletionQuestion(quick.standing, localDate(facts.now)));
  return { ...quick, lessons: learnt.value, ...(dates.ok ? { dates: dates.value } : { because: dates.fault.message }) };
}
