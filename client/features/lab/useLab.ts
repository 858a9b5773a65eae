import { useCallback, useEffect, useRef, useState } from "react";
import { runLab, stopLab } from "./lab-service";
import type { LabRun } from "./lab-run";
import type { LabQuestion, LabSetup } from "./variants";

export interface LabState {
  readonly runs: readonly LabRun[];
  /** The setup the runs were made from. */
  readonly setup: LabSetup | undefined;
  /** 0 to 1 while work is under way. */
  readonly progress: number | undefined;
  readonly trouble: string | undefined;
}

const NOTHING: LabState = { runs: [], setup: undefined, progress: undefined, trouble: undefined };

/** Runs the Lab in its worker; the newest request wins, and leaving the place ends the work. */
export function useLab() {
  const [state, setState] = useState<LabState>(NOTHING);
  const request = useRef(0);
  const run = useCallback(async (setup: LabSetup, questions: readonly LabQuestion[]) => {
    const mine = (request.current += 1);
    let done = false;
    const ifNewest = (change: (before: LabState) => LabState) => {
      if (mine === request.current) setState(change);
    };
    setState((before) => ({ ...before, progress: 0, trouble: undefined }));
    try {
      const outcome = await runLab(questions, (progress) => {
        if (!done) ifNewest((before) => ({ ...before, progress }));
      });
      done = true;
      ifNewest((before) =>
        outcome
          ? {
              runs: outcome.runs,
              setup,
              progress: undefined,
              trouble: outcome.faults.map((fault) => fault.message).join(" ") || undefined,
            }
          : { ...before, progress: undefined },
      );
    } catch {
      done = true;
      ifNewest((before) => ({ ...before, progress: undefined, trouble: "The run broke off; press Run again." }));
    }
  }, []);
  const stop = useCallback(() => {
    request.current += 1;
    setState((before) => ({ ...before, progress: undefined }));
    stopLab();
  }, []);
  useEffect(() => () => stopLab(), []);
  return { ...state, run, stop };
}
