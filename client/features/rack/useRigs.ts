import { useEffect, useMemo, useSyncExternalStore } from "react";
import { newestUntil, type Id, type WorkBook } from "@winter-bead/core";
import { clockNow } from "../../data/clock";
import { useNow } from "../../data/present";
import { useRecords } from "../../data/store";
import type { Assessment, RigFacts } from "./assess";
import { assessAllInWorker } from "./assess-service";
import { gather, type FactLists } from "./gather";
import { keepAssessment, lastAssessment } from "./kept-assessments";

export interface RigView {
  readonly facts: RigFacts;
  readonly assessment: Assessment | undefined;
  /** When the assessment was worked out, where it may not know of everything yet. */
  readonly asOf?: number | undefined;
  /** Set until the worker has answered for the first time: what the crew's ended charges taught is not known yet. */
  readonly awaited?: true;
}

interface Answer {
  readonly assessment: Assessment;
  /** Set where the newest facts could not be worked out: the answer is one from before. */
  readonly asOf?: number;
}

const COULD_NOT = "This could not be worked out on this device just now. Everything logged is kept.";

/** The worker's answers, or the last ones there were where it gave none. */
async function answersTo(all: readonly RigFacts[]): Promise<ReadonlyMap<Id, Answer>> {
  try {
    const assessments = await assessAllInWorker(all);
    return new Map(
      all.map(({ rig }, i) => [rig.id, { assessment: keepAssessment(rig.id, assessments[i]!).assessment }]),
    );
  } catch {
    return new Map(
      all.map(({ rig }) => {
        const last = lastAssessment(rig.id);
        return [rig.id, last ? { assessment: last.assessment, asOf: last.at } : { assessment: { because: COULD_NOT } }];
      }),
    );
  }
}

export interface Rigs {
  readonly rigs: readonly RigView[];
  readonly pending: boolean;
}

const NO_FACTS: readonly RigFacts[] = [];
/** What is booked, and the usual weeks; where they are not on this device yet, the log alone tells. */
export function useWorkBook(): WorkBook {
  const { records: bookings } = useRecords("bookings");
  const { records: usualWeeks } = useRecords("usual-weeks");
  const { records: daysOff } = useRecords("days-off");
  return useMemo(() => ({ bookings, usualWeeks, daysOff }), [bookings, usualWeeks, daysOff]);
}

/** The present, or the moment of what was kept since it was last looked at. */
function presentOf([, , , , charges, visits, feedTests, , arrangements]: FactLists, now: number): number {
  return Math.max(now, newestUntil(clockNow(), [visits, feedTests, arrangements], charges));
}

let gathered: { readonly of: readonly unknown[]; readonly facts: readonly RigFacts[] } | undefined;

/** The same facts for every place, as long as nothing in them changes: going from one to the next works nothing out again. */
function gatherOnce(lists: FactLists, book: WorkBook, now: number): readonly RigFacts[] {
  const of = [...lists, book.bookings, book.usualWeeks, book.daysOff, now];
  if (!gathered || gathered.of.some((each, i) => each !== of[i]))
    gathered = { of, facts: gather(lists, book, presentOf(lists, now)) };
  return gathered.facts;
}

/** The facts of every rig, once all of them are here: half the facts would give a wrong number. */
export function useRigFacts(): { readonly facts: readonly RigFacts[]; readonly pending: boolean } {
  const all = [
    useRecords("rigs"),
    useRecords("vessels"),
    useRecords("taps"),
    useRecords("meters"),
    useRecords("charges"),
    useRecords("visits"),
    useRecords("feed-tests"),
    useRecords("water-reports"),
    useRecords("arrangements"),
    useRecords("price-lists"),
    useRecords("membrane-checks"),
    useRecords("pressure-checks"),
    useRecords("services"),
  ] as const;
  const book = useWorkBook();
  const now = useNow();
  const pending = all.some((each) => each.pending);
  const lists = all.map(({ records }) => records) as unknown as FactLists;
  return {
    facts: pending ? NO_FACTS : gatherOnce(lists, book, now),
    pending,
  };
}

/** The worker's answers about all rigs, for every place that shows one. */
class Answers {
  private given: ReadonlyMap<Id, Answer> = new Map();
  private asked: readonly RigFacts[] = NO_FACTS;
  private wanted: readonly RigFacts[] | undefined;
  private working = false;
  private readonly listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  readonly snapshot = () => this.given;

  /** Asks about facts that were not asked about yet; while the worker works only the newest wait. */
  ask(facts: readonly RigFacts[]): void {
    if (facts === this.asked || facts.length === 0) return;
    this.asked = this.wanted = facts;
    if (!this.working) void this.work();
  }

  private async work(): Promise<void> {
    this.working = true;
    for (let next = this.wanted; next; next = this.wanted) {
      this.wanted = undefined;
      this.given = await answersTo(next);
      for (const listener of this.listeners) listener();
    }
    this.working = false;
  }
}

const answersHere = new Answers();

/** Every rig with its newest answer; the worker is asked whenever the facts change. */
export function useRigs(): Rigs {
  const { facts, pending } = useRigFacts();
  const answers = useSyncExternalStore(answersHere.subscribe, answersHere.snapshot, answersHere.snapshot);
  useEffect(() => answersHere.ask(facts), [facts]);
  const rigs = useMemo(
    () =>
      facts.map((each): RigView => {
        const answer = answers.get(each.rig.id);
        if (answer) return { facts: each, assessment: answer.assessment, asOf: answer.asOf };
        const last = lastAssessment(each.rig.id);
        return { facts: each, assessment: last?.assessment, asOf: last?.at, awaited: true };
      }),
    [facts, answers],
  );
  return { rigs, pending };
}

const URGENCY = { change: 0, finish: 1, watch: 2, fine: 3 } as const;

/** Neediest first. */
export const byNeed = (a: RigView, b: RigView) => need(a) - need(b);

const need = ({ assessment }: RigView) =>
  (assessment?.verdict ? URGENCY[assessment.verdict.state] : 4) +
  Math.min(0.99, (assessment?.standing?.left?.low ?? 1e6) / 1e6);
