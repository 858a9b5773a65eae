import type { CrewRecords, WeeksAhead, WhatIf } from "@winter-bead/core";
import { weeksAhead } from "@winter-bead/core/src/weeks";
import { expose } from "comlink";
import { localDate } from "../../ui/format";

const worker = {
  ahead: (records: CrewRecords, now: number, whatIf: WhatIf): WeeksAhead =>
    weeksAhead(records, { now, dateOf: localDate, whatIf }),
};
export type WeeksWorker = typeof worker;

expose(worker);
