import { expose } from "comlink";
import type { Fault } from "@winter-bead/core";
import { runVariant, type LabRun } from "./lab-run";
import type { LabQuestion } from "./variants";

export type LabOutcome = { readonly runs: readonly LabRun[]; readonly faults: readonly Fault[] } | undefined;

let newest = 0;
/** Telling more often than this would only keep the page busy, ms. */
const TELL_EVERY = 50;

/** Lets waiting messages in, so that a newer request or a stop is heard at once. */
function breathe(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(0);
  });
}

const worker = {
  /** Runs each question; undefined when a newer request or a stop came first. */
  async run(questions: readonly LabQuestion[], onProgress: (share: number) => void): Promise<LabOutcome> {
    newest += 1;
    const mine = newest;
    let told = 0;
    const runs: LabRun[] = [];
    const faults: Fault[] = [];
    for (const [i, question] of questions.entries()) {
      const outcome = await runVariant(question, async (progress) => {
        if (performance.now() - told >= TELL_EVERY) {
          told = performance.now();
          onProgress((i + progress) / questions.length);
        }
        await breathe();
        return mine === newest;
      });
      if (!outcome) return undefined;
      if ("run" in outcome) runs.push(outcome.run);
      else faults.push(outcome.fault);
    }
    return { runs, faults };
  },
  /** Ends the work under way. */
  stop(): void {
    newest += 1;
  },
};
export type LabWorker = typeof worker;

expose(worker);
