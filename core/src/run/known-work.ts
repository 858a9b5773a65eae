import { addDays, daysBetween, weekdayOf } from "../dates/calendar";
import { expectedUse, type DrawnWater, type KnownWork } from "../dates/expected-use";
import { workBetween, type BookedDay, type WorkBook } from "../work/booked-work";
import type { StandingInput } from "./standing";
import { rigLedger } from "./charge-ledger";

/** Days ahead over which dates are drawn one by one, and back over which booked days are held against the log. */
const AHEAD = 97;
const BACK = 90;
/** Booked days that "jobs take what they are said to take" counts like: a planning assumption. */
const PRIOR_DAYS = 3;

/** What booked days really took beside what was booked for them, by the log of one rig. */
export function bookedPace(drawn: readonly DrawnWater[], booked: readonly KnownWork[]): number {
  const byDate = new Map<string, number>();
  for (const { date, litres } of drawn) byDate.set(date, (byDate.get(date) ?? 0) + litres);
  const both = booked.filter(({ on, litres }) => litres > 0 && (byDate.get(on) ?? 0) > 0);
  if (both.length === 0) return 1;
  const sum = both.reduce((all, { litres }) => all + litres, 0);
  const took = both.reduce((all, { on }) => all + byDate.get(on)!, 0);
  const prior = (PRIOR_DAYS * sum) / both.length;
  return (took + prior) / (sum + prior);
}

/** Days without a booking that "as any day of its kind" counts like: a planning assumption. */
const PRIOR_FREE_DAYS = 5;

/**
 * Water of days that nobody had booked, beside what their weekdays usually take: near 0 where a crew books all it does, near
 * 1 where bookings are the exception.
 *
 * @param weekdays L to expect by weekday, Monday first
 * @param free days gone by without a booking, among booked ones
 */
export function unbookedShare(
  drawn: readonly DrawnWater[],
  free: readonly string[],
  weekdays: readonly number[],
): number {
  if (free.length === 0) return 1;
  const days = new Set(free);
  const took = drawn.reduce((sum, { date, litres }) => sum + (days.has(date) ? litres : 0), 0);
  const usual = free.reduce((sum, date) => sum + weekdays[weekdayOf(date)]!, 0);
  const prior = (PRIOR_FREE_DAYS * usual) / free.length;
  return usual > 0 ? (took + prior) / (usual + prior) : 1;
}

const between = (from: string, until: string) =>
  Array.from({ length: Math.max(0, daysBetween(from, until) + 1) }, (_, i) => addDays(from, i));

/** Days between booked ones on which nothing is booked: what they may take all the same, as the log has it. */
function unbooked(
  booked: readonly BookedDay[],
  drawn: readonly DrawnWater[],
  { rig, today }: Pick<StandingInput, "rig" | "today">,
): readonly BookedDay[] {
  const dates = booked.filter(({ from }) => from === "bookings").map(({ on }) => on);
  const [first, last] = [dates[0], dates[dates.length - 1]];
  if (first === undefined || last === undefined) return [];
  const known = new Set(booked.map(({ on }) => on));
  const isFree = (on: string) => !known.has(on);
  const { weekdays } = expectedUse(drawn, {
    litresPerJob: rig.litresPerJob,
    ...(rig.jobsPerWeek === undefined ? {} : { jobsPerWeek: rig.jobsPerWeek }),
  });
  const share = unbookedShare(drawn, between(first, addDays(today, -1)).filter(isFree), weekdays);
  return between(today, last)
    .filter(isFree)
    .map((on) => {
      const litres = share * weekdays[weekdayOf(on)]!;
      return { on, litres, jobs: litres / rig.litresPerJob, from: "log", bookings: [] };
    });
}

type Facts = Omit<StandingInput, "bookings">;

/**
 * Known work of a rig, of the days just gone and to come: what is booked, at the water that booked days have really taken,
 * and on free days among them what such days took before.
 *
 * @example knownWork(facts, { bookings: [], usualWeeks: [winter], daysOff: [] })[0] // { on: "2027-03-04", litres: 232, jobs: 4, … }
 */
export function knownWork(facts: Facts, book: WorkBook): readonly BookedDay[] {
  const { rig, today, dateOf } = facts;
  const booked = workBetween(addDays(today, -BACK), addDays(today, AHEAD), rig, book);
  if (booked.length === 0) return booked;
  const drawn = rigLedger(facts).water.map(({ at, litres }) => ({ date: dateOf(at), litres }));
  const pace = bookedPace(drawn, booked);
  const paced = pace === 1 ? booked : booked.map((day) => ({ ...day, litres: pace * day.litres }));
  return [...paced, ...unbooked(booked, drawn, facts)];
}
