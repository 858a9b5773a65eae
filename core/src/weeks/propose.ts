import { addDays, DAYS_IN_MONTH, daysBetween, weekdayOf } from "../dates/calendar";
import type { Id } from "../descriptor/identity";
import { lateness, type Prices } from "../plan/prices";
import type { Part } from "../upkeep/service.record";
import type { Due } from "../upkeep/due";
import type { Appointment, Task } from "./appointment.record";
import type { Filling } from "../run/fresh-charge";
import { forecast, type DayAhead, type Forecast, type ForecastInput, type RefillOn } from "./forecast";
import { declinedWeekdays, type RefillMinutes } from "./habits-of-answering";

/** Minutes that going to the vessels takes, however much is done there: a planning assumption. */
export const SETTING_OUT = 15;
/** What a minute counts on a day full of work, beside a quiet one: a planning assumption. */
export const BUSY = 2;
/** Minutes of the other tasks: planning assumptions. */
const TASK_MINUTES: Readonly<Record<Part | "meter", number>> = {
  sediment: 10,
  carbon: 15,
  membrane: 40,
  seals: 10,
  strainer: 5,
  meter: 10,
};
/** Money for a new cartridge or a set of rings: planning assumptions; a membrane's is in the price list. */
const PART_PRICES: Readonly<Record<Part | "meter", number>> = {
  sediment: 10,
  carbon: 18,
  membrane: 0,
  seals: 6,
  strainer: 0,
  meter: 2,
};
/** What waiting beyond its day costs of a part, a day, as a share of its price: a planning assumption. */
const LATE_A_DAY = 0.03;
/** Futures that run out before a refill is proposed within the days looked at. */
const PROPOSED_FROM = 0.02;
/** A risk before an accepted refill from which another is proposed: a planning assumption. */
const RISKED = 0.25;
/** A day on which a refill waits no longer, whatever it costs. */
const SURELY_OUT = 0.5;
const MOST_REFILLS = 8;

export interface VesselWork extends Omit<ForecastInput, "refills" | "today" | "days"> {
  readonly minutes: RefillMinutes;
  readonly appointments: readonly Appointment[];
}

export interface ProposeInput {
  readonly today: string;
  readonly days: number;
  readonly vessels: readonly VesselWork[];
  readonly dues: readonly Due[];
  readonly appointments: readonly Appointment[];
  readonly prices: Prices;
}

/** What a day costs for a task, in money. */
export interface DayCost {
  readonly on: string;
  /** Resin, or the rest of a part, that is thrown away. */
  readonly early: number;
  /** Booked work that may be spoilt before that day, at the price of doing it again. */
  readonly late: number;
  /** Time, dearer on a full day. */
  readonly time: number;
  /** Chance that it has run out before that day. */
  readonly outBefore: number;
  /** What these rest on: L still in it that morning and L short until then, or days before and after the day it is due. */
  readonly unused: number;
  readonly overdue: number;
  /** How full the day is, 0 to 1. */
  readonly full: number;
}

/** What a task's days are weighed with: money, minutes, and what a whole one lasts. */
export interface TaskWorth {
  /** L of a fresh charge, or days of a part. */
  readonly lasts: number;
  /** Money of the resin or the part. */
  readonly price: number;
  readonly minutes: number;
  /** Money an hour. */
  readonly wage: number;
  /** Money of a litre, or of a day, that comes too late. */
  readonly late: number;
}

/** A task with its day. */
export interface PlannedTask {
  readonly task: Task;
  readonly rigId?: Id;
  readonly meterId?: Id;
  readonly on: string;
  readonly minutes: number;
  /** It was accepted for this day. */
  readonly accepted?: Appointment;
  /** What each day that was looked at would cost; empty of what was accepted. */
  readonly costs: readonly DayCost[];
  readonly worth?: TaskWorth;
  readonly due?: Due;
  /** Filling of a refill. */
  readonly filling?: Filling;
}

export interface PlannedDay {
  readonly on: string;
  readonly tasks: readonly PlannedTask[];
  readonly minutes: number;
  /** Every task is accepted. */
  readonly accepted: boolean;
}

export interface WeeksPlan {
  readonly days: readonly PlannedDay[];
  /** Of each rig as it comes without any refill, and as the plan has it. */
  readonly without: ReadonlyMap<Id, Forecast>;
  readonly with: ReadonlyMap<Id, Forecast>;
  readonly declined: ReadonlySet<number>;
}

const total = ({ early, late, time }: DayCost) => early + late + time;

/** How full a day is beside the fullest of its week: 0 for a quiet one, 1 for a full one. */
export function fullness(forecasts: readonly Forecast[], days: number): readonly number[] {
  const litres = Array.from({ length: days }, (_, d) =>
    forecasts.reduce((sum, each) => {
      const most = Math.max(...each.days.map((day) => day.litres), 1e-9);
      return sum + (each.days[d]?.litres ?? 0) / most;
    }, 0),
  );
  return litres.map((each) => each / Math.max(1, forecasts.length));
}

/** What a day costs: the unused share of the price and of the work, what comes too late, and time that is dearer when full. */
function dayCost(worth: TaskWorth, day: Pick<DayCost, "on" | "outBefore" | "unused" | "overdue" | "full">): DayCost {
  const { lasts, price, minutes, wage, late } = worth;
  return {
    ...day,
    early: Math.min(1, day.unused / lasts) * (price + (minutes * wage) / 60),
    late: day.overdue * late,
    time: ((minutes + SETTING_OUT) * wage * (1 + (BUSY - 1) * day.full)) / 60,
  };
}

/** What a litre counts that goes on unguarded, beside one for which there is no water: a planning assumption. */
const UNGUARDED = 0.1;

const refillWorth = ({ rig, lead, filling, minutes }: VesselWork, fresh: number, prices: Prices): TaskWorth => ({
  lasts: fresh,
  price: filling.resinLitres * prices.resin[filling.grade],
  minutes: minutes.minutes,
  wage: prices.wage,
  late: ((lead ? UNGUARDED : 1) * lateness(prices).spoiltJob) / rig.litresPerJob,
});

/** Costs of a refill on each day from one on, until it would surely have run out. */
function refillCosts(
  days: readonly DayAhead[],
  from: number,
  worth: TaskWorth,
  full: readonly number[],
): readonly DayCost[] {
  const costs: DayCost[] = [];
  let overdue = 0;
  for (let d = from; d < days.length; d += 1) {
    const { on, outBefore, morning, short, outBy } = days[d]!;
    costs.push(dayCost(worth, { on, outBefore, unused: morning, overdue, full: full[d]! }));
    overdue += short;
    if (d > from && days[d - 1]!.outBy >= SURELY_OUT && outBy >= SURELY_OUT) break;
  }
  return costs;
}

const cheapest = (costs: readonly DayCost[], isFree: (on: string) => boolean): DayCost | undefined =>
  costs
    .filter(({ on }) => isFree(on))
    .reduce<DayCost | undefined>((best, each) => (best && total(best) <= total(each) ? best : each), undefined);

interface Drafted extends Omit<PlannedTask, "on"> {
  on: string;
}

/** Tasks that were accepted for a day to come. */
const acceptedToCome = (appointments: readonly Appointment[], today: string) =>
  appointments.filter(({ answer, on }) => answer === "accepted" && on >= today);

interface Gap {
  /** Day from which a refill may be set, and the day of it on which it runs out. */
  readonly from: number;
  readonly gap: number;
  /** The refill that comes next. */
  readonly until?: string;
}

/**
 * The first time that a vessel may run out with nothing set against it: after the last refill, or long before one that was
 * accepted. What runs out a little before a refill was weighed when that day was chosen.
 */
function firstGap(
  days: readonly DayAhead[],
  refills: readonly RefillOn[],
  accepted: readonly Appointment[],
  today: string,
): Gap | undefined {
  const starts = [0, ...refills.map(({ on }) => daysBetween(today, on))];
  for (const [i, from] of starts.entries()) {
    const next = refills[i];
    if (next && !accepted.some(({ on }) => on === next.on)) continue;
    const until = next ? daysBetween(today, next.on) : days.length;
    const gap = days
      .slice(from, until)
      .findIndex((day) => day.litres > 0 && day.outBy >= (next ? RISKED : PROPOSED_FROM));
    if (gap >= 0) return { from: i === 0 ? 0 : from + 1, gap, ...(next ? { until: next.on } : {}) };
  }
  return undefined;
}

function planRefills(
  input: ProposeInput,
  work: VesselWork,
  without: Forecast,
  full: readonly number[],
  isFree: (task: Task, rigId: Id | undefined, on: string) => boolean,
): readonly Drafted[] {
  const { today, days, prices } = input;
  const { rig, filling } = work;
  const accepted = acceptedToCome(work.appointments, today)
    .filter(({ task, rigId }) => task === "refill" && rigId === rig.id)
    .sort((a, b) => (a.on < b.on ? -1 : 1));
  const drafted: Drafted[] = accepted.map((each) => ({
    ...{ task: "refill" as const, rigId: rig.id, on: each.on, costs: [], accepted: each, filling },
    minutes: each.minutes ?? work.minutes.minutes,
  }));
  const refills: RefillOn[] = accepted.map(({ on }) => ({ on, filling }));
  const worth = refillWorth(work, without.fresh.typical, prices);
  for (let i = 0; i < MOST_REFILLS; i += 1) {
    // Of a train what asks for work is its lead: those behind it guard meanwhile.
    const seen = work.lead
      ? forecast({ ...work, today, days, refills }, "lead")
      : refills.length === 0
        ? without
        : forecast({ ...work, today, days, refills });
    const open = firstGap(seen.days, refills, accepted, today);
    if (!open) break;
    const costs = refillCosts(seen.days, open.from, worth, full).filter(({ on }) => !open.until || on < open.until);
    const best = cheapest(costs, (on) => isFree("refill", rig.id, on));
    // Cheapest on the last day seen: the best day lies beyond it.
    if (!best || (best.on === addDays(today, days - 1) && open.gap > 0)) break;
    drafted.push({ task: "refill", rigId: rig.id, on: best.on, costs, worth, minutes: work.minutes.minutes, filling });
    refills.push({ on: best.on, filling });
    refills.sort((a, b) => (a.on < b.on ? -1 : 1));
  }
  return drafted;
}

const partPrice = (task: Part | "meter", prices: Prices) => (task === "membrane" ? prices.membrane : PART_PRICES[task]);

function partWorth({ task, months }: Due, prices: Prices): TaskWorth {
  const [price, minutes] = [partPrice(task, prices), TASK_MINUTES[task]];
  const whole = price + (minutes * prices.wage) / 60;
  return { lasts: months * DAYS_IN_MONTH, price, minutes, wage: prices.wage, late: LATE_A_DAY * whole };
}

const dueCosts = (on: string, worth: TaskWorth, today: string, full: readonly number[]): readonly DayCost[] =>
  full.map((each, d) => {
    const day = addDays(today, d);
    const [unused, overdue] = [Math.max(0, daysBetween(day, on)), Math.max(0, daysBetween(on, day))];
    return dayCost(worth, { on: day, outBefore: 0, unused, overdue, full: each });
  });

function planUpkeep(
  input: ProposeInput,
  full: readonly number[],
  isFree: (task: Task, rigId: Id | undefined, on: string) => boolean,
): readonly Drafted[] {
  const { today, days, dues, appointments } = input;
  const accepted = acceptedToCome(appointments, today);
  return dues.flatMap((due): Drafted[] => {
    const { task, rigId, meterId } = due;
    const head = { task, ...(rigId ? { rigId } : {}), ...(meterId ? { meterId } : {}), due };
    const set = accepted.find((each) => each.task === task && each.rigId === rigId && each.meterId === meterId);
    if (set) return [{ ...head, on: set.on, accepted: set, costs: [], minutes: set.minutes ?? TASK_MINUTES[task] }];
    if (due.on === undefined || daysBetween(today, due.on) >= days) return [];
    const worth = partWorth(due, input.prices);
    const costs = dueCosts(due.on, worth, today, full);
    const best = cheapest(costs, (on) => isFree(task, rigId, on));
    return best ? [{ ...head, on: best.on, costs, worth, minutes: TASK_MINUTES[task] }] : [];
  });
}

/** Rounds in which tasks are moved to each other's days. */
const ROUNDS = 4;

/** What tasks cost together on their days: those of one day share the way. */
function together(drafted: readonly Drafted[], wage: number): number {
  const open = drafted.filter(({ costs }) => costs.length > 0);
  const cost = open.reduce((sum, { costs, on }) => sum + total(costs.find((each) => each.on === on)!), 0);
  const ways = drafted.length - new Set(drafted.map(({ on }) => on)).size;
  return cost - ways * SETTING_OUT * wage;
}

const isSame = (a: Drafted, b: Drafted) => a.task === b.task && a.rigId === b.rigId && a.meterId === b.meterId;

/** Tasks come together where the way that is saved outweighs the other day: alone, and all of a day at once. */
function grouped(drafted: readonly Drafted[], wage: number, isFree: (each: Drafted, on: string) => boolean): void {
  const movable = drafted.filter(({ costs }) => costs.length > 0);
  const tryMove = (tasks: readonly Drafted[], on: string) => {
    // The same thing twice on one day is no plan.
    const isTwice = (each: Drafted) =>
      drafted.some((other) => other !== each && !tasks.includes(other) && other.on === on && isSame(each, other));
    const fits = tasks.every((each) => isFree(each, on) && !isTwice(each) && each.costs.some((day) => day.on === on));
    if (!fits) return;
    const [before, days] = [together(drafted, wage), tasks.map((each) => each.on)];
    for (const each of tasks) each.on = on;
    if (together(drafted, wage) < before - 1e-9) return;
    tasks.forEach((each, i) => (each.on = days[i]!));
  };
  for (let round = 0; round < ROUNDS; round += 1)
    for (const each of movable)
      for (const { on } of each.costs) {
        tryMove([each], on);
        tryMove(
          movable.filter((other) => other.on === each.on),
          on,
        );
      }
}

/**
 * A plan for the weeks: each refill and each upkeep on the day where what is thrown away, what may be spoilt and the time it
 * takes cost least together, and on days that others have taken already where that saves the way.
 */
export function proposeWeeks(input: ProposeInput): WeeksPlan {
  const { today, days, vessels, appointments, prices } = input;
  const declined = declinedWeekdays(appointments);
  const saidNo = new Set(
    appointments
      .filter(({ answer }) => answer === "declined")
      .map(({ task, rigId, meterId, on }) => `${task} ${rigId ?? meterId ?? ""} ${on}`),
  );
  const isFree = (task: Task, id: Id | undefined, on: string) =>
    !declined.has(weekdayOf(on)) && !saidNo.has(`${task} ${id ?? ""} ${on}`);
  const without = new Map(vessels.map((work) => [work.rig.id, forecast({ ...work, today, days })]));
  const full = fullness([...without.values()], days);
  const drafted = [
    ...vessels.flatMap((work) => planRefills(input, work, without.get(work.rig.id)!, full, isFree)),
    ...planUpkeep(input, full, isFree),
  ];
  grouped(drafted, prices.wage / 60, ({ task, rigId, meterId }, on) => isFree(task, rigId ?? meterId, on));
  const refillsOf = (rigId: Id): RefillOn[] =>
    drafted
      .filter((each) => each.task === "refill" && each.rigId === rigId)
      .map(({ on, filling }) => ({ on, filling: filling! }))
      .sort((a, b) => (a.on < b.on ? -1 : 1));
  const withPlan = new Map(
    vessels.map((work) => [work.rig.id, forecast({ ...work, today, days, refills: refillsOf(work.rig.id) })]),
  );
  return { days: byDay(drafted), without, with: withPlan, declined };
}

function byDay(drafted: readonly Drafted[]): readonly PlannedDay[] {
  const dates = [...new Set(drafted.map(({ on }) => on))].sort();
  return dates.map((on) => {
    const tasks = drafted.filter((each) => each.on === on);
    return {
      on,
      tasks,
      minutes: tasks.reduce((sum, { minutes }) => sum + minutes, 0),
      accepted: tasks.every(({ accepted }) => accepted !== undefined),
    };
  });
}

/** What a task costs on its own day, and what waiting a day longer risks; nothing of what was accepted. */
export function earlyAgainstLate({
  costs,
  on,
}: PlannedTask): { readonly here: DayCost; readonly next?: DayCost } | undefined {
  const i = costs.findIndex((each) => each.on === on);
  if (i < 0) return undefined;
  // The next day that differs: a day of rest risks nothing more.
  const next = costs.slice(i + 1).find(({ late }) => late > costs[i]!.late);
  return { here: costs[i]!, ...(next ? { next } : {}) };
}
