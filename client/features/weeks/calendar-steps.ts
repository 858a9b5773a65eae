import type { Booking } from "@winter-bead/core";
import { v5 as uuidv5 } from "uuid";
import { bodyOf, changed, kept, takenBack, type Step } from "../../data/acts";
import type { Kept } from "../../data/api";
import type { CalendarRead } from "./calendar-read";

/** The namespace of bookings that came from calendars: two phones that read the same file make the same ids. */
const NAMESPACE = "6f0f6a3e-7c55-5d18-9a54-0b8f6cf7a3b1";

/**
 * What a calendar brings, changes and takes back, given what it brought before.
 * @param as its days are work, or days without any: a calendar of holidays
 */
export function calendarSteps(
  { items }: CalendarRead,
  rigId: string,
  bookings: readonly Kept<"bookings">[],
  as: "work" | "off" = "work",
): readonly Step[] {
  const known = new Map(
    bookings.filter((each) => each.rigId === rigId && each.fromCalendar).map((each) => [each.fromCalendar!, each]),
  );
  const here = new Set(bookings.map(({ id }) => id));
  return items.flatMap(({ key, on, title, jobs, cancelled, own }): Step[] => {
    // Written here and still here: it is booked already.
    if (own !== undefined && here.has(own)) return [];
    const before = known.get(key);
    if (cancelled) return before ? [takenBack("bookings", before)] : [];
    const name = title === "" ? {} : { name: title };
    if (!before) {
      const body: Omit<Booking, "id"> = {
        rigId,
        on,
        booked: as === "off" ? { by: "off" } : { by: "jobs", jobs },
        ...name,
        fromCalendar: key,
      };
      return [kept("bookings", body, uuidv5(`${rigId} ${key}`, NAMESPACE))];
    }
    // Jobs that were corrected here stay as they are here.
    if (before.on === on && (before.name ?? "") === title) return [];
    return [changed("bookings", before, { ...bodyOf(before), on, ...name })];
  });
}
