import { proxy } from "comlink";
import { WorkerLine } from "../../data/worker-line";
import type { LabOutcome, LabWorker } from "./lab.worker";
import type { LabQuestion } from "./variants";

const line = new WorkerLine<LabWorker>(() => new Worker(new URL("./lab.worker", window.location.href)));

/** Ends the work itself, not only its answer. */
export const stopLab = (): void => line.now((remote) => void remote.stop());

/** Runs the variants off the thread that draws; a newer request ends this one, which then answers undefined. */
export function runLab(questions: readonly LabQuestion[], onProgress: (share: number) => void): Promise<LabOutcome> {
  stopLab();
  return line.run((remote, alive) =>
    remote.run(
      questions,
      proxy((share: number) => {
        alive();
        onProgress(share);
      }),
    ),
  );
}
