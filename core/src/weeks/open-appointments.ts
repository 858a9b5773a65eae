import type { Id } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import type { Service } from "../upkeep/service.record";
import type { Meter } from "../water/meter.record";
import type { Appointment, Task } from "./appointment.record";

/** What was done, by which a task is done. */
export interface DoneFacts {
  readonly charges: readonly Charge[];
  readonly services: readonly Service[];
  readonly meters: readonly Meter[];
}

const key = (task: Task, id: Id | undefined) => `${task} ${id ?? ""}`;

/** When each task was last done, milliseconds since 1970. */
function lastDone({ charges, services, meters }: DoneFacts): ReadonlyMap<string, number> {
  const done = new Map<string, number>();
  const note = (task: Task, id: Id, at: number) => done.set(key(task, id), Math.max(at, done.get(key(task, id)) ?? 0));
  for (const { rigId, filledAt } of charges) note("refill", rigId, Date.parse(filledAt));
  for (const { rigId, part, at } of services) note(part, rigId, Date.parse(at));
  // A check has a day alone: it counts from its end.
  for (const { id, checkedOn } of meters) if (checkedOn) note("meter", id, Date.parse(`${checkedOn}T23:59:59.999Z`));
  return done;
}

/** Appointments as they stand: without what was done since it was set, on its day or earlier. */
export function openAppointments(appointments: readonly Appointment[], facts: DoneFacts): readonly Appointment[] {
  const done = lastDone(facts);
  return appointments.filter(
    ({ answer, task, rigId, meterId, answeredAt }) =>
      answer !== "accepted" || (done.get(key(task, rigId ?? meterId)) ?? 0) <= Date.parse(answeredAt),
  );
}

/** Tasks that were set for a day gone by and are still not done; an order is known by nothing that is kept. */
export const missedAppointments = (open: readonly Appointment[], today: string): readonly Appointment[] =>
  open.filter(({ answer, on, task }) => answer === "accepted" && on < today && task !== "order");
