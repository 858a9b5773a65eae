import type { Booking } from "@winter-bead/core";

/** A booking that is nothing but a number of jobs. */
export const isPlain = ({ booked, name, note, fromCalendar }: Booking): boolean =>
  name === undefined &&
  note === undefined &&
  fromCalendar === undefined &&
  (booked.by === "off" || (booked.by === "jobs" && booked.jobName === undefined && booked.litresEach === undefined));
