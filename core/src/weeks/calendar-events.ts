import { addDays } from "../dates/calendar";
import type { Id } from "../descriptor/identity";
import type { Rig } from "../rig/rig.record";
import type { Booking } from "../work/booking.record";
import type { DayOff } from "../work/day-off.record";
import type { Meter } from "../water/meter.record";
import { TASK, type Appointment } from "./appointment.record";

/** A kept record with its version; one that was taken back is a cancelled event. */
type Versioned<T> = T & { readonly version?: number | undefined; readonly voided?: boolean | undefined };

export interface CalendarRecords {
  readonly rigs: readonly Rig[];
  readonly meters: readonly Meter[];
  readonly bookings: readonly Versioned<Booking>[];
  readonly daysOff: readonly Versioned<DayOff>[];
  readonly appointments: readonly Versioned<Appointment>[];
}

/** A day of work, of rest, or of a task, as a calendar has it. */
export interface CalendarEvent {
  /** Stays the same whatever becomes of it. */
  readonly uid: string;
  /** ISO dates: the first day, and the day after the last. */
  readonly from: string;
  readonly until: string;
  readonly title: string;
  readonly words: string;
  /** Grows with each change. */
  readonly sequence: number;
  readonly cancelled: boolean;
  /** It takes the day: a booking does, a day off does not. */
  readonly busy: boolean;
  readonly kind: EventKind;
}

/** What an event is of, as its category says. */
export type EventKind = "Work" | "Day off" | "Task";

const DOMAIN = "winter-bead";
const uid = (id: Id) => `${id}@${DOMAIN}`;
/** The id of the record that an event was written from; nothing where somebody else wrote it. */
export const ownEventId = (name: string): Id | undefined =>
  name.endsWith(`@${DOMAIN}`) ? name.slice(0, -DOMAIN.length - 1) : undefined;

const named = <T extends { readonly id: Id; readonly name: string }>(records: readonly T[], id: Id | undefined) =>
  records.find((each) => each.id === id)?.name ?? "";

const state = ({ version = 1, voided = false }: Versioned<unknown>) => ({ sequence: version - 1, cancelled: voided });

function bookingEvent(booking: Versioned<Booking>, rigs: readonly Rig[]): CalendarEvent {
  const { id, rigId, on, booked, name, note } = booking;
  const rig = rigs.find((each) => each.id === rigId);
  const what =
    booked.by === "jobs"
      ? `${booked.jobs} ${booked.jobName ?? rig?.jobName ?? "job"}${booked.jobs === 1 ? "" : "s"}`
      : booked.by === "litres"
        ? `${booked.litres} L`
        : "off";
  return {
    uid: uid(id),
    from: on,
    until: addDays(on, 1),
    title: [rig?.name ?? "", name ?? what].filter((each) => each !== "").join(": "),
    words: [name === undefined ? "" : what, note ?? ""].filter((each) => each !== "").join("\n"),
    ...state(booking),
    busy: booked.by !== "off",
    kind: booked.by === "off" ? "Day off" : "Work",
  };
}

function dayOffEvent(off: Versioned<DayOff>, rigs: readonly Rig[]): CalendarEvent {
  const of = off.rigId === undefined ? "" : `${named(rigs, off.rigId)}: `;
  return {
    uid: uid(off.id),
    from: off.from,
    until: addDays(off.until, 1),
    title: `${of}${off.name ?? "day off"}`,
    words: "No work.",
    ...state(off),
    busy: false,
    kind: "Day off",
  };
}

function appointmentEvent(appointment: Versioned<Appointment>, { rigs, meters }: CalendarRecords): CalendarEvent {
  const { id, task, rigId, meterId, on, minutes, note, answer } = appointment;
  const { sequence, cancelled } = state(appointment);
  const of = named(rigs, rigId) || named(meters, meterId);
  return {
    uid: uid(id),
    from: on,
    until: addDays(on, 1),
    title: of === "" ? TASK.of[task] : `${TASK.of[task]}: ${of}`,
    words: [minutes === undefined ? "" : `About ${Math.round(minutes)} min.`, note ?? ""]
      .filter((each) => each !== "")
      .join("\n"),
    sequence,
    cancelled: cancelled || answer === "declined",
    busy: true,
    kind: "Task",
  };
}

/**
 * Bookings, days off and what is set for a day, as events with ids that stay: what was moved comes with a higher sequence, what
 * was taken back as cancelled (RFC 5545, Internet Calendaring and Scheduling Core Object Specification).
 */
export const calendarEvents = (records: CalendarRecords): readonly CalendarEvent[] => [
  ...records.bookings.map((each) => bookingEvent(each, records.rigs)),
  ...records.daysOff.map((each) => dayOffEvent(each, records.rigs)),
  ...records.appointments
    // A day that was declined from the first was never an event.
    .filter((each) => each.answer === "accepted" || (each.version ?? 1) > 1)
    .map((each) => appointmentEvent(each, records)),
];
