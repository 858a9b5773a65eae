import { calendarEvents, type CalendarRecords } from "@winter-bead/core/src/weeks/calendar-events";
import ical, { ICalCalendarMethod, ICalEventStatus, ICalEventTransparency } from "ical-generator";

/** Midnight as a day that has no zone. */
const dayOf = (iso: string) => new Date(`${iso}T00:00:00.000Z`);

/**
 * The crew's work and tasks as a calendar (RFC 5545): whole days, ids that stay, a sequence that grows, cancellations as such.
 * @param now milliseconds since 1970: when it was written
 */
export function calendarFile(records: CalendarRecords, now: number): string {
  const calendar = ical({
    name: "Winter Bead",
    prodId: "//Winter Bead//Weeks//EN",
    method: ICalCalendarMethod.PUBLISH,
  });
  for (const { uid, from, until, title, words, sequence, cancelled, busy, kind } of calendarEvents(records))
    calendar.createEvent({
      id: uid,
      start: dayOf(from),
      end: dayOf(until),
      allDay: true,
      stamp: new Date(now),
      summary: title,
      ...(words === "" ? {} : { description: words }),
      sequence,
      categories: [{ name: kind }],
      status: cancelled ? ICalEventStatus.CANCELLED : ICalEventStatus.CONFIRMED,
      transparency: busy && !cancelled ? ICalEventTransparency.OPAQUE : ICalEventTransparency.TRANSPARENT,
    });
  return calendar.toString();
}
