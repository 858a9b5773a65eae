import { weekdayOf } from "../dates/calendar";
import { median } from "../numerics/quantile";
import type { Charge } from "../resin/charge.record";
import type { Appointment } from "./appointment.record";

/** As many of the last refills, and answers, tell what is usual. */
const LAST = 10;

/** Minutes of a refill, and where they come from. */
export interface RefillMinutes {
  readonly minutes: number;
  /** Refills whose median it is; 0 for the price list's figure. */
  readonly of: number;
}

/** How long a refill takes this crew: the median of the last ten that say it, else the usual figure. */
export function refillMinutes(charges: readonly Charge[], usual: number): RefillMinutes {
  const told = charges
    .filter(({ minutes }) => minutes !== undefined)
    .sort((a, b) => Date.parse(b.filledAt) - Date.parse(a.filledAt))
    .slice(0, LAST)
    .map(({ minutes }) => minutes!);
  return told.length === 0 ? { minutes: usual, of: 0 } : { minutes: median(told), of: told.length };
}

/** Times that a weekday must have been declined before it is no longer proposed. */
const DECLINED_OFTEN = 2;

/** Weekdays that were declined more often than taken among the last ten answers, 0 for Monday. */
export function declinedWeekdays(appointments: readonly Appointment[]): ReadonlySet<number> {
  const last = [...appointments].sort((a, b) => Date.parse(b.answeredAt) - Date.parse(a.answeredAt)).slice(0, LAST);
  const count = (answer: Appointment["answer"], weekday: number) =>
    last.filter((each) => each.answer === answer && weekdayOf(each.on) === weekday).length;
  return new Set(
    [0, 1, 2, 3, 4, 5, 6].filter((weekday) => {
      const declined = count("declined", weekday);
      return declined >= DECLINED_OFTEN && declined > count("accepted", weekday);
    }),
  );
}
