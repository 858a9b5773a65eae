import { wrap, type Remote } from "comlink";
import { assess, type Assessment, type RigFacts } from "./assess";
import type { AssessWorker } from "./assess.worker";

/** A worker that says nothing for so long is taken for dead. */
const PATIENCE = 10_000;

let running: { readonly worker: Worker; readonly remote: Remote<AssessWorker> } | undefined;

function start() {
  const worker = new Worker(new URL("./assess.worker", window.location.href));
  return { worker, remote: wrap<AssessWorker>(worker) };
}

function end(): void {
  running?.worker.terminate();
  running = undefined;
}

/** The whole assessment of a rig, off the thread that draws; should the worker fail, it is worked out here. */
export async function assessInWorker(facts: RigFacts): Promise<Assessment> {
  let giveUp: ReturnType<typeof setTimeout> | undefined;
  try {
    const { worker, remote } = (running ??= start());
    const silence = new Promise<never>((_resolve, reject) => {
      giveUp = setTimeout(() => reject(new Error("no answer")), PATIENCE);
      worker.addEventListener("error", () => reject(new Error("the worker failed")), { once: true });
    });
    return await Promise.race([remote.assess(facts), silence]);
  } catch {
    end();
    return assess(facts);
  } finally {
    clearTimeout(giveUp);
  }
}
