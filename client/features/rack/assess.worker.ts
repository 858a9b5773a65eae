import type { DatedLesson, Id, OwnerBelief } from "@winter-bead/core";
import { expose } from "comlink";
import { answerStart, answerStartFirst } from "../start/answer";
import { keepLessons, recallLessons } from "./kept-lessons";
import {
  assess,
  assessAll,
  assessQuickly,
  datesOf,
  stagesOf,
  withTyped,
  type Assessment,
  type RigFacts,
  type TypedVisit,
} from "./assess";

/** What is typed on a log is held against these: sent once, not with every key. */
let held: { readonly facts: RigFacts; readonly owners: ReadonlyMap<Id, OwnerBelief> | undefined } | undefined;

const nothingHeld: Assessment = { because: "No rig is held." };

const { href } = self.location;
/** ms that a slow store may take: learning again takes no longer. */
const PATIENCE = 2_000;
const recalled = Promise.race([recallLessons(href), new Promise((done) => setTimeout(done, PATIENCE))]);

/** Learns of ended charges only what is not known from before. */
async function learning<A>(work: () => A): Promise<A> {
  await recalled;
  const answer = work();
  void keepLessons(href);
  return answer;
}

const worker = {
  assess: (facts: RigFacts, lessons?: readonly DatedLesson[]) => learning(() => assess(facts, lessons)),
  stages: (facts: RigFacts, owners?: ReadonlyMap<Id, OwnerBelief>) => learning(() => stagesOf(facts, owners)),
  assessAll: (all: readonly RigFacts[]) => learning(() => assessAll(all)),
  answerStart,
  answerStartFirst,
  hold(facts: RigFacts, owners: ReadonlyMap<Id, OwnerBelief> | undefined): void {
    held = { facts, owners };
    // What the earlier readings say is weighed now, so that the first digit finds it done.
    assessQuickly(facts, owners);
  },
  /** How the held rig stands with a visit that is being typed. */
  typed: (visit: TypedVisit): Assessment =>
    held ? assessQuickly(withTyped(held.facts, visit), held.owners) : nothingHeld,
  /** The same with its dates alone. */
  typedDates: (visit: TypedVisit) => (held ? datesOf(withTyped(held.facts, visit), held.owners) : undefined),
};
export type AssessWorker = typeof worker;

expose(worker);
