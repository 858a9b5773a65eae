import { addDays } from "../dates/calendar";
import type { KnownWork } from "../dates/expected-use";
import { workBetween, type WorkBook } from "../work/booked-work";
import type { StandingInput } from "./standing";
import { vesselLedger } from "./lessons";

/** Days ahead over which dates are drawn one by one, and back over which booked days are held against the log. */
const AHEAD = 97;
const BACK = 90;
/** Booked days that "jobs take what they are said to take" counts like: a planning assumption. */
const PRIOR_DAYS = 3;

/** What booked days really took beside what was booked for them, by the log of one rig. */
export function bookedPace(
  drawn: readonly { readonly date: string; readonly litres: number }[],
  booked: readonly KnownWork[],
): number {
  const byDate = new Map<string, number>();
  for (const { date, litres } of drawn) byDate.set(date, (byDate.get(date) ?? 0) + litres);
  const both = booked.filter(({ on, litres }) => litres > 0 && (byDate.get(on) ?? 0) > 0);
  if (both.length === 0) return 1;
  const sum = both.reduce((all, { litres }) => all + litres, 0);
  const took = both.reduce((all, { on }) => all + byDate.get(on)!, 0);
  const prior = (PRIOR_DAYS * sum) / both.length;
  return (took + prior) / (sum + prior);
}

type Facts = Omit<StandingInput, "bookings">;

/**
 * Known work of a rig, of the days just gone and to come: what is booked, at the water that booked days have really taken.
 * @example knownWork(facts, { bookings: [], usualWeeks: [winter], daysOff: [] })[0] // { on: "2027-03-04", litres: 232, jobs: 4, … }
 */
export function knownWork(facts: Facts, book: WorkBook) {
  const { rig, today, dateOf } = facts;
  const booked = workBetween(addDays(today, -BACK), addDays(today, AHEAD), rig, book);
  if (booked.length === 0) return booked;
  const drawn = vesselLedger(facts).water.map(({ at, litres }) => ({ date: dateOf(at), litres }));
  const pace = bookedPace(drawn, booked);
  return pace === 1 ? booked : booked.map((day) => ({ ...day, litres: pace * day.litres }));
}
