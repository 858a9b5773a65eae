import type { CrewRecords, WeeksAhead, WhatIf } from "@winter-bead/core";
import { useEffect, useMemo, useRef, useState } from "react";
import { useRecords } from "../../data/store";
import { WorkerLine } from "../../data/worker-line";
import { useNow, useWorkBook } from "../rack/useRigs";
import type { WeeksWorker } from "./weeks.worker";

const line = new WorkerLine<WeeksWorker>(() => new Worker(new URL("./weeks.worker", window.location.href)));

/** Everything that the weeks hang on, as this device has it. */
export function useCrewRecords(): CrewRecords {
  const book = useWorkBook();
  const { records: rigs } = useRecords("rigs");
  const { records: vessels } = useRecords("vessels");
  const { records: taps } = useRecords("taps");
  const { records: meters } = useRecords("meters");
  const { records: charges } = useRecords("charges");
  const { records: visits } = useRecords("visits");
  const { records: feedTests } = useRecords("feed-tests");
  const { records: reports } = useRecords("water-reports");
  const { records: membraneChecks } = useRecords("membrane-checks");
  const { records: bags } = useRecords("bags");
  const { records: disposals } = useRecords("disposals");
  const { records: services } = useRecords("services");
  const { records: appointments } = useRecords("appointments");
  const { records: priceLists } = useRecords("price-lists");
  return useMemo(
    () => ({
      ...book,
      ...{ rigs, vessels, taps, meters, charges, visits, feedTests, reports, membraneChecks },
      ...{ bags, disposals, services, appointments, priceLists },
    }),
    // prettier-ignore
    [book, rigs, vessels, taps, meters, charges, visits, feedTests, reports, membraneChecks, bags, disposals, services,
      appointments, priceLists],
  );
}

/** The last answer, from whichever place of the weeks asked for it. */
let last: WeeksAhead | undefined;

export interface Weeks {
  readonly records: CrewRecords;
  /** Absent until the first answer. */
  readonly ahead: WeeksAhead | undefined;
  /** A newer answer is being worked out, or could not be. */
  readonly state: "here" | "working" | "failed";
}

export const AS_IT_IS: WhatIf = {};

/**
 * The weeks to come, worked out off the thread that draws; while it works only the newest question waits.
 * @param wanted not asked at all where it is false
 */
export function useWeeks(whatIf: WhatIf = AS_IT_IS, wanted = true): Weeks {
  const records = useCrewRecords();
  const now = useNow();
  const isPlain = whatIf === AS_IT_IS;
  const [answer, setAnswer] = useState<WeeksAhead | undefined>(last);
  const [state, setState] = useState<Weeks["state"]>("working");
  const newest = useRef(0);
  useEffect(() => {
    const mine = (newest.current += 1);
    if (!wanted) return;
    setState("working");
    const isNewest = () => mine === newest.current;
    line
      .run((remote) => (isNewest() ? remote.ahead(records, now, whatIf) : Promise.resolve(undefined)))
      .then(
        (ahead) => {
          if (!ahead || !isNewest()) return;
          if (isPlain) last = ahead as WeeksAhead;
          setAnswer(ahead as WeeksAhead);
          setState("here");
        },
        () => isNewest() && setState("failed"),
      );
  }, [records, now, whatIf, isPlain, wanted]);
  return { records, ahead: answer, state };
}
