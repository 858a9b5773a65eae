import type { DatedLesson, DepletionAnswer, Fault, Id, OwnerBelief, StageAtTap } from "@winter-bead/core";
import type { Remote } from "comlink";
import { WorkerLine } from "../../data/worker-line";
import type { StartAnswer, StartQuestion } from "../start/answer";
import type { Assessment, RigFacts, TypedVisit } from "./assess";
import type { AssessWorker } from "./assess.worker";

const start = () => new Worker(new URL("./assess.worker", window.location.href));
const line = new WorkerLine<AssessWorker>(start);
/** A line of its own for what is typed: it never waits behind the rack's simulations. */
const typing = new WorkerLine<AssessWorker>(start);
/** And one for first answers, which never wait behind whole ones; it begins when it is first asked. */
const first = new WorkerLine<AssessWorker>(start);

/**
 * The whole assessment of a rig, off the thread that draws.
 * @throws WorkerSilent when it could not be worked out
 */
export const assessInWorker = (facts: RigFacts, lessons?: readonly DatedLesson[]): Promise<Assessment> =>
  line.run((remote) => remote.assess(facts, lessons));

/**
 * Every rig at once, off the thread that draws.
 * @throws WorkerSilent when it could not be worked out
 */
export const assessAllInWorker = (all: readonly RigFacts[]): Promise<readonly Assessment[]> =>
  line.run((remote) => remote.assessAll(all));

/**
 * What each stage of a rig does at its tap, off the thread that draws.
 * @throws WorkerSilent when it could not be worked out
 */
export const stagesInWorker = (facts: RigFacts, owners: Typed["owners"]): Promise<readonly StageAtTap[]> =>
  line.run((remote) => remote.stages(facts, owners));

/** A visit that is being typed, and what it is held against. */
export interface Typed {
  readonly facts: RigFacts;
  readonly owners: ReadonlyMap<Id, OwnerBelief> | undefined;
  readonly visit: TypedVisit;
}

const heldBy = new WeakMap<Remote<AssessWorker>, Pick<Typed, "facts" | "owners">>();

/** Gives a worker the facts of years once, and then only what is typed. */
async function holdIn(remote: Remote<AssessWorker>, { facts, owners }: Pick<Typed, "facts" | "owners">): Promise<void> {
  const held = heldBy.get(remote);
  if (held?.facts === facts && held.owners === owners) return;
  await remote.hold(facts, owners);
  heldBy.set(remote, { facts, owners });
}

/** Sends the facts ahead, so that the first key finds them there. */
export const holdForTyping = (facts: RigFacts, owners: Typed["owners"]): Promise<void> =>
  typing.run((remote) => holdIn(remote, { facts, owners })).catch(() => undefined);

/**
 * How a rig stands with what is being typed.
 * @throws WorkerSilent when it could not be worked out
 */
export const assessTyped = (asked: Typed): Promise<Assessment> =>
  typing.run(async (remote) => {
    await holdIn(remote, asked);
    return remote.typed(asked.visit);
  });

/**
 * The dates of a rig with what is being typed; none where there is nothing to date.
 * @throws WorkerSilent when it could not be worked out
 */
export const datesTyped = (asked: Typed): Promise<DepletionAnswer | undefined> =>
  line.run(async (remote) => {
    await holdIn(remote, asked);
    return remote.typedDates(asked.visit);
  });

/**
 * What a first day's answers give by conductivity alone: it waits for no whole answer under way.
 * @throws WorkerSilent when it could not be worked out
 */
export const answerStartFirstInWorker = (question: StartQuestion): Promise<StartAnswer | undefined> =>
  first.run((remote) => remote.answerStartFirst(question));

/**
 * What a first day's answers give.
 * @throws WorkerSilent when it could not be worked out
 */
export const answerStartInWorker = (question: StartQuestion): Promise<StartAnswer | { readonly fault: Fault }> =>
  typing.run((remote) => remote.answerStart(question));
