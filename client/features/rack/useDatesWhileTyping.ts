import { useEffect, useRef, useState } from "react";
import type { DepletionAnswer, OwnerBelief } from "@winter-bead/core";
import { assessInWorker } from "./assess-service";
import type { RigFacts } from "./assess";

const REST = 150;

/** Dates for what is being typed, from the worker, once the hand rests; none while there are no facts to go by. */
export function useDatesWhileTyping(
  facts: RigFacts | undefined,
  owner: OwnerBelief | undefined,
): DepletionAnswer | undefined {
  const [dates, setDates] = useState<DepletionAnswer>();
  const newest = useRef(0);
  useEffect(() => {
    const ticket = (newest.current += 1);
    if (!facts) return;
    const timer = setTimeout(() => {
      void assessInWorker(facts, owner).then(
        (answer) => {
          if (ticket === newest.current) setDates(answer.dates);
        },
        () => undefined,
      );
    }, REST);
    return () => clearTimeout(timer);
  }, [facts, owner]);
  return dates;
}
