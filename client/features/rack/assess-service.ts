import type { OwnerBelief } from "@winter-bead/core";
import { WorkerLine } from "../../data/worker-line";
import type { Assessment, RigFacts } from "./assess";
import type { AssessWorker } from "./assess.worker";

const line = new WorkerLine<AssessWorker>(() => new Worker(new URL("./assess.worker", window.location.href)));

/**
 * The whole assessment of a rig, off the thread that draws.
 * @throws WorkerSilent when it could not be worked out
 */
export const assessInWorker = (facts: RigFacts, owner?: OwnerBelief): Promise<Assessment> =>
  line.run((remote) => remote.assess(facts, owner));

/**
 * Every rig at once, off the thread that draws.
 * @throws WorkerSilent when it could not be worked out
 */
export const assessAllInWorker = (all: readonly RigFacts[]): Promise<readonly Assessment[]> =>
  line.run((remote) => remote.assessAll(all));
