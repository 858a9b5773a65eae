import { expose } from "comlink";
import { readCalendar, type CalendarRead } from "./calendar-read";

const worker = {
  /**
   * @param skip events that took too long before
   * @param longest ms
   */
  read(
    text: string,
    from: string,
    until: string,
    skip: readonly number[],
    longest: number,
    begin: (event: number, of: number) => void,
  ): CalendarRead {
    const end = performance.now() + longest;
    const over = () => performance.now() > end;
    return readCalendar(text, from, until, { skip: new Set(skip), begin, over });
  },
};
export type CalendarWorker = typeof worker;

expose(worker);
