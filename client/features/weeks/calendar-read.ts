import { addDays } from "@winter-bead/core";
import { ownEventId } from "@winter-bead/core/src/weeks/calendar-events";
import ICAL from "ical.js";

/** A day of an event, as it would be booked. */
export interface CalendarItem {
  /** The event and its day as the calendar names them: the same file brings it once. */
  readonly key: string;
  /** ISO date. */
  readonly on: string;
  readonly title: string;
  /** As the title says it, else one. */
  readonly jobs: number;
  /** It is called off: what it brought before goes again. */
  readonly cancelled: boolean;
  /** The booking that it was written from, by this program. */
  readonly own?: string;
}

export interface CalendarRead {
  readonly items: readonly CalendarItem[];
  /** What was left out, in sentences. */
  readonly faults: readonly string[];
}

/** Events, and days of one that comes again and again, that are looked at. */
const MOST_ITEMS = 400;
const MOST_STEPS = 20_000;

const isoOf = (time: ICAL.Time) => {
  const { year, month, day } = time.isDate ? time : ICAL.Time.fromJSDate(time.toJSDate());
  return `${year}-${String(month).padStart(2, "0")}-${String(day).padStart(2, "0")}`;
};

/** @example jobsIn("Harbour Row, 4 houses") // 4 */
export function jobsIn(title: string): number {
  const number = /(\d{1,3})\s*(?:x\s*)?(?:jobs?|houses?|cars?|cleans?|windows?|changes?|water changes?)\b/i.exec(
    title,
  )?.[1];
  return number === undefined ? 1 : Math.max(1, Number(number));
}

const isWork = ({ component }: ICAL.Event) =>
  component.getAllProperties("categories").some((each) => each.getValues().includes("Work"));

/** Every day that an event takes. */
function daysOf(start: ICAL.Time, end: ICAL.Time | null): readonly string[] {
  const from = isoOf(start);
  if (!end || !start.isDate) return [from];
  const days: string[] = [];
  for (let on = from; on < isoOf(end) && days.length < 60; on = addDays(on, 1)) days.push(on);
  return days.length === 0 ? [from] : days;
}

/**
 * The days of work in a calendar file (RFC 5545), from one day to another: events that come again and again are told one by
 * one, with their exceptions. Of what this program wrote itself only work is taken, not its tasks.
 */
export function readCalendar(text: string, from: string, until: string): CalendarRead {
  let root: ICAL.Component;
  try {
    root = new ICAL.Component(ICAL.parse(text) as never);
  } catch {
    return {
      items: [],
      faults: ["This is no calendar file: it begins with BEGIN:VCALENDAR and ends with END:VCALENDAR."],
    };
  }
  for (const zone of root.getAllSubcomponents("vtimezone")) ICAL.TimezoneService.register(zone);
  const items: CalendarItem[] = [];
  const faults: string[] = [];
  const all = root.getAllSubcomponents("vevent").map((part) => new ICAL.Event(part));
  const masters = all.filter((event) => !event.isRecurrenceException());
  for (const exception of all.filter((event) => event.isRecurrenceException()))
    masters.find(({ uid }) => uid === exception.uid)?.relateException(exception);
  const alone = all.filter((event) => event.isRecurrenceException() && !masters.some(({ uid }) => uid === event.uid));
  const add = (event: ICAL.Event, key: string, start: ICAL.Time, end: ICAL.Time | null) => {
    const own = ownEventId(event.uid ?? "");
    const cancelled = String(event.component.getFirstPropertyValue("status") ?? "").toUpperCase() === "CANCELLED";
    for (const [nth, on] of daysOf(start, end).entries())
      if (on >= from && on <= until && items.length < MOST_ITEMS)
        items.push({
          key: (nth === 0 ? key : `${key}+${nth}`).slice(0, 400),
          on,
          title: String(event.summary ?? "").slice(0, 120),
          jobs: jobsIn(String(event.summary ?? "")),
          cancelled,
          ...(own === undefined ? {} : { own }),
        });
  };
  for (const event of [...masters, ...alone]) {
    if (ownEventId(event.uid ?? "") !== undefined && !isWork(event)) continue;
    try {
      if (!event.isRecurring() || alone.includes(event)) {
        add(event, event.uid, event.startDate, event.endDate);
        continue;
      }
      const next = event.iterator();
      for (let step = 0, time = next.next(); time && step < MOST_STEPS; step += 1, time = next.next()) {
        if (isoOf(time) > until) break;
        const { item, startDate, endDate } = event.getOccurrenceDetails(time);
        add(item, `${event.uid}/${isoOf(time)}`, startDate, endDate);
      }
    } catch {
      faults.push(`“${String(event.summary ?? event.uid).slice(0, 60)}” could not be read; the others are taken.`);
    }
  }
  if (items.length >= MOST_ITEMS) faults.push(`Only the first ${MOST_ITEMS.toLocaleString("en")} days are taken.`);
  return { items: items.sort((a, b) => (a.on < b.on ? -1 : 1)), faults };
}
