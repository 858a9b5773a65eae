import { proxy, wrap, type Remote } from "comlink";
import type { LabOutcome, LabWorker } from "./lab.worker";
import type { LabQuestion } from "./variants";

let running: { readonly worker: Worker; readonly remote: Remote<LabWorker> } | undefined;

function lab() {
  if (running) return running;
  const worker = new Worker(new URL("./lab.worker", window.location.href));
  running = { worker, remote: wrap<LabWorker>(worker) };
  return running;
}

/** Runs the variants off the thread that draws; a newer request ends this one, which then answers undefined. */
export async function runLab(
  questions: readonly LabQuestion[],
  onProgress: (share: number) => void,
): Promise<LabOutcome> {
  const { worker, remote } = lab();
  const died = new Promise<never>((_resolve, reject) => {
    worker.addEventListener("error", () => reject(new Error("the worker failed")), { once: true });
  });
  try {
    return await Promise.race([remote.run(questions, proxy(onProgress)), died]);
  } catch (error) {
    worker.terminate();
    running = undefined;
    throw error;
  }
}

/** Ends the work itself, not only its answer. */
export const stopLab = (): Promise<void> => (running ? running.remote.stop() : Promise.resolve());
