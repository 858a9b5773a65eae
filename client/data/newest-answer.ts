import { useEffect, useRef, useState } from "react";

export interface NewestAnswer<Q, A> {
  /** The newest answer there is, be it of what was asked before. */
  readonly answer: A | undefined;
  /** The question that this is the answer to: what is kept or explained of it must come from here. */
  readonly answered: Q | undefined;
  /** The answer to the question as it stands is still to come. */
  readonly working: boolean;
}

/**
 * Asks a worker as a question changes: while it is busy only the newest question waits, and an older answer is shown until
 * the newer one is here.
 *
 * @param ask resolves with undefined when there is no answer; the same function for as long as it asks the same worker
 * @param sameBy what makes two questions the same: their figures, or of large ones that are kept between, themselves
 */
export function useNewestAnswer<Q extends object, A>(
  question: Q | undefined,
  ask: (question: Q) => Promise<A | undefined>,
  sameBy: (question: Q) => unknown = JSON.stringify,
): NewestAnswer<Q, A> {
  const key = question && sameBy(question);
  const [known, setKnown] = useState<{ readonly key: unknown; readonly question: Q; readonly answer: A | undefined }>();
  const next = useRef<{ readonly key: unknown; readonly question: Q } | undefined>(undefined);
  const busy = useRef(false);
  useEffect(() => {
    next.current = question && key ? { key, question } : undefined;
    const work = async () => {
      busy.current = true;
      for (let job = next.current; job; job = next.current) {
        next.current = undefined;
        const answer = await ask(job.question).catch(() => undefined);
        setKnown({ ...job, answer });
      }
      busy.current = false;
    };
    if (!busy.current) void work();
    // The key stands for the question.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return key
    ? { answer: known?.answer, answered: known?.question, working: known?.key !== key }
    : { answer: undefined, answered: undefined, working: false };
}
