import { clockNowIso } from "../../data/clock";
import type { Appointment, Booked, Id, Part, PlannedTask, Rig } from "@winter-bead/core";
import { bodyOf, changed, kept, takenBack, type Step } from "../../data/acts";
import type { Kept } from "../../data/api";
import { act, newId, type Done } from "../../data/store";
import { showToast } from "../../ui/toast";
import { dayName, fullDay } from "./words";

/** Says what was done, with the way back. */
async function said(words: string, done: Promise<Done>): Promise<void> {
  const { undo } = await done;
  showToast({ words, undo });
}

const now = () => clockNowIso();

function answered(
  task: PlannedTask,
  on: string,
  answer: Appointment["answer"],
  known: readonly Kept<"appointments">[],
): Step {
  const before = task.accepted && known.find(({ id }) => id === task.accepted!.id);
  const { rigId, meterId, minutes } = task;
  const body = {
    ...(before
      ? bodyOf(before)
      : { task: task.task, ...(rigId ? { rigId } : {}), ...(meterId ? { meterId } : {}), minutes }),
    ...{ on, answer, answeredAt: now() },
  };
  return before ? changed("appointments", before, body) : kept("appointments", body, newId());
}

/** Sets tasks for a day, in one act. */
export const setFor = (
  on: string,
  tasks: readonly PlannedTask[],
  known: readonly Kept<"appointments">[],
): Promise<void> =>
  said(
    `Set for ${fullDay(on)}.`,
    act(
      `Set for ${fullDay(on)}`,
      tasks.map((task) => answered(task, on, "accepted", known)),
    ),
  );

/** Not on this day: another one is proposed, and a weekday that is declined often is left alone. */
export const decline = (
  on: string,
  tasks: readonly PlannedTask[],
  known: readonly Kept<"appointments">[],
): Promise<void> =>
  said(
    `Not on ${fullDay(on)}: another day is looked for.`,
    act(
      `Declined for ${fullDay(on)}`,
      tasks.map((task) => answered(task, on, "declined", known)),
    ),
  );

/** What was set for a day is open again. */
export const giveUp = (appointments: readonly Kept<"appointments">[]): Promise<void> =>
  said(
    "No longer set: it is proposed anew.",
    act(
      "An appointment given up",
      appointments.map((each) => takenBack("appointments", each)),
    ),
  );

/** Books so many jobs on a day, in place of what was booked plainly; the same again takes it back. */
export async function book(rig: Rig, on: string, booked: Booked, plain: Kept<"bookings"> | undefined): Promise<void> {
  const isSame = plain !== undefined && JSON.stringify(plain.booked) === JSON.stringify(booked);
  const words =
    booked.by === "off"
      ? `${rig.name} is off on ${fullDay(on)}.`
      : `${fullDay(on)}: ${booked.by === "jobs" ? booked.jobs : ""} ${rig.jobName}s for ${rig.name}.`;
  if (isSame)
    return said(
      `Nothing booked for ${rig.name} on ${fullDay(on)}.`,
      act("Booking taken back", [takenBack("bookings", plain)]),
    );
  const step = plain
    ? changed("bookings", plain, { ...bodyOf(plain), booked })
    : kept("bookings", { rigId: rig.id, on, booked }, newId());
  return said(words, act(words, [step]));
}

/** Moves a booking to another day. */
export const moveBooking = (booking: Kept<"bookings">, on: string): Promise<void> =>
  said(
    `Moved to ${fullDay(on)}.`,
    act(`Booking moved to ${dayName(on)}`, [changed("bookings", booking, { ...bodyOf(booking), on })]),
  );

/** A part was serviced just now; what was set for it is thereby done. */
export const serviced = (rigId: Id, part: Part, words: string): Promise<void> =>
  said(`Noted: ${words}`, act(words, [kept("services", { rigId, part, at: now() }, newId())]));
