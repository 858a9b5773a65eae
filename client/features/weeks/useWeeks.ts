import type { CrewRecords, WeeksAhead, WhatIf } from "@winter-bead/core";
import { useMemo } from "react";
import { useNewestAnswer } from "../../data/newest-answer";
import { useRecords } from "../../data/store";
import { WorkerLine } from "../../data/worker-line";
import { useNow } from "../../data/present";
import { useWorkBook } from "../rack/useRigs";
import type { WeeksWorker } from "./weeks.worker";

const line = new WorkerLine<WeeksWorker>(() => new Worker(new URL("./weeks.worker", window.location.href)));

/** Everything that the weeks hang on, as this device has it. */
export function useCrewRecords(): CrewRecords {
  const book = useWorkBook();
  const { records: rigs } = useRecords("rigs");
  const { records: vessels } = useRecords("vessels");
  const { records: arrangements } = useRecords("arrangements");
  const { records: taps } = useRecords("taps");
  const { records: meters } = useRecords("meters");
  const { records: charges } = useRecords("charges");
  const { records: visits } = useRecords("visits");
  const { records: feedTests } = useRecords("feed-tests");
  const { records: reports } = useRecords("water-reports");
  const { records: membraneChecks } = useRecords("membrane-checks");
  const { records: bags } = useRecords("bags");
  const { records: disposals } = useRecords("disposals");
  const { records: pressureChecks } = useRecords("pressure-checks");
  const { records: services } = useRecords("services");
  const { records: appointments } = useRecords("appointments");
  const { records: priceLists } = useRecords("price-lists");
  return useMemo(
    () => ({
      ...book,
      ...{ rigs, arrangements, vessels, taps, meters, charges, visits, feedTests, reports, membraneChecks },
      ...{ bags, disposals, services, pressureChecks, appointments, priceLists },
    }),
    // prettier-ignore
    [book, rigs, arrangements, vessels, taps, meters, charges, visits, feedTests, reports, membraneChecks, bags, disposals, services,
      pressureChecks, appointments, priceLists],
  );
}

/** The last answer to how it is, from whichever place of the weeks asked for it. */
let last: WeeksAhead | undefined;

export interface Weeks {
  readonly records: CrewRecords;
  /** Absent until the first answer. */
  readonly ahead: WeeksAhead | undefined;
  /** A newer answer is being worked out, or could not be. */
  readonly state: "here" | "working" | "failed";
}

export const AS_IT_IS: WhatIf = {};

interface Question {
  readonly records: CrewRecords;
  readonly now: number;
  readonly whatIf: WhatIf;
}

async function ask({ records, now, whatIf }: Question): Promise<WeeksAhead> {
  const ahead = (await line.run((remote) => remote.ahead(records, now, whatIf))) as WeeksAhead;
  if (whatIf === AS_IT_IS) last = ahead;
  return ahead;
}

const itself = (question: Question) => question;

/**
 * The weeks to come, worked out off the thread that draws; while it works only the newest question waits.
 * @param wanted not asked at all where it is false
 */
export function useWeeks(whatIf: WhatIf = AS_IT_IS, wanted = true): Weeks {
  const records = useCrewRecords();
  const now = useNow();
  const question = useMemo(() => (wanted ? { records, now, whatIf } : undefined), [records, now, whatIf, wanted]);
  const { answer, working } = useNewestAnswer(question, ask, itself);
  return { records, ahead: answer ?? last, state: working ? "working" : answer ? "here" : "failed" };
}
