import { addDays, daysBetween, weekdayOf } from "../dates/calendar";
import type { KnownWork } from "../dates/expected-use";
import type { Rig } from "../rig/rig.record";
import type { Booked, Booking } from "./booking.record";
import type { DayOff } from "./day-off.record";
import type { UsualWeek } from "./usual-week.record";

/** Everything that is known of the work to come, of all rigs. */
export interface WorkBook {
  readonly bookings: readonly Booking[];
  readonly usualWeeks: readonly UsualWeek[];
  readonly daysOff: readonly DayOff[];
}

/** Litres that a booking takes. @example bookedLitres({ by: "jobs", jobs: 3 }, { litresPerJob: 58 }) // 174 */
export function bookedLitres(booked: Booked, { litresPerJob }: Pick<Rig, "litresPerJob">): number {
  if (booked.by === "jobs") return booked.jobs * (booked.litresEach ?? litresPerJob);
  return booked.by === "litres" ? booked.litres : 0;
}

/** Jobs that a booking stands for; litres are counted in usual jobs. */
export function bookedJobs(booked: Booked, { litresPerJob }: Pick<Rig, "litresPerJob">): number {
  if (booked.by === "jobs") return booked.jobs;
  return booked.by === "litres" ? booked.litres / litresPerJob : 0;
}

const WEEKDAYS = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"] as const;

const covers = (from: string, until: string | undefined, on: string) =>
  from <= on && (until === undefined || on <= until);

/** What says how much work a day has. */
export type WorkFrom = "bookings" | "day-off" | "usual-week" | "log";

export interface BookedDay extends KnownWork {
  readonly jobs: number;
  readonly from: WorkFrom;
  /** The day's bookings, in the order they were made. */
  readonly bookings: readonly Booking[];
}

/** Of several usual weeks that cover a day the one that began last counts: a season stands in the year. */
function usualWeekOn(weeks: readonly UsualWeek[], on: string): UsualWeek | undefined {
  return weeks
    .filter((week) => covers(week.from, week.until, on))
    .reduce<UsualWeek | undefined>((latest, week) => (latest && latest.from > week.from ? latest : week), undefined);
}

/**
 * What is known of one day's work of a rig: its bookings, else a day off, else the usual week of the season; nothing where
 * only the log can tell.
 *
 * @example workOn("2027-03-04", van, { bookings: [], usualWeeks: [winter], daysOff: [] })?.litres // 4 × 58
 */
export function workOn(on: string, rig: Pick<Rig, "id" | "litresPerJob">, book: WorkBook): BookedDay | undefined {
  const bookings = book.bookings.filter((each) => each.rigId === rig.id && each.on === on);
  if (bookings.length > 0)
    return {
      on,
      litres: bookings.reduce((sum, { booked }) => sum + bookedLitres(booked, rig), 0),
      jobs: bookings.reduce((sum, { booked }) => sum + bookedJobs(booked, rig), 0),
      from: "bookings",
      bookings,
    };
  const isOff = book.daysOff.some(
    ({ rigId, from, until }) => (rigId === undefined || rigId === rig.id) && covers(from, until, on),
  );
  if (isOff) return { on, litres: 0, jobs: 0, from: "day-off", bookings };
  const week = usualWeekOn(
    book.usualWeeks.filter(({ rigId }) => rigId === rig.id),
    on,
  );
  if (!week) return undefined;
  const jobs = week.jobs[WEEKDAYS[weekdayOf(on)]!];
  return { on, litres: jobs * rig.litresPerJob, jobs, from: "usual-week", bookings };
}

/** Known work from one day to another, both included; days that only the log can tell are left out. */
export function workBetween(
  from: string,
  until: string,
  rig: Pick<Rig, "id" | "litresPerJob">,
  book: WorkBook,
): readonly BookedDay[] {
  const ofRig: WorkBook = {
    bookings: book.bookings.filter(({ rigId, on }) => rigId === rig.id && covers(from, until, on)),
    usualWeeks: book.usualWeeks.filter(({ rigId }) => rigId === rig.id),
    daysOff: book.daysOff,
  };
  return Array.from({ length: Math.max(0, daysBetween(from, until) + 1) }, (_, i) => addDays(from, i)).flatMap(
    (on) => workOn(on, rig, ofRig) ?? [],
  );
}
