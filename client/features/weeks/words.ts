import {
  addDays,
  TASK,
  type Bag,
  type Due,
  type Id,
  type Meter,
  type PlannedDay,
  type PlannedTask,
  type PressureCheck,
  type Rig,
  type Task,
  type WeeksAhead,
} from "@winter-bead/core";
import { earlyAgainstLate, lateness, type DayCost } from "@winter-bead/core/src/weeks";
import { dayMonth, dayMonthYear, noonOf, weekdayDay, weekdayLong, weekdayShort } from "../../ui/dates";
import { dateInWords, shown, type Units } from "../../ui/format";
import { money } from "../size/money";

/** @example dayName("2026-11-29") // "Sunday" */
export const dayName = (on: string) => weekdayLong(noonOf(on));
export const shortDay = (on: string) => weekdayShort(noonOf(on));
/** `26`, and with its month where that begins: `1 Dec`. */
export const dayNumber = (on: string, isFirst: boolean) =>
  isFirst || on.endsWith("-01") ? dayMonth(noonOf(on)) : String(Number(on.slice(8)));
/** @example fullDay("2026-11-29") // "Sun 29 Nov" */
export const fullDay = (on: string) => weekdayDay(noonOf(on));
/** Of a day that may lie long back. @example pastDay("2026-11-29") // "29 Nov 2026" */
export const pastDay = (on: string) => dayMonthYear(noonOf(on));

export const WEEKDAY_NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;
/** @example listed(["Fridays", "Sundays"]) // "Fridays and Sundays" */
export const listed = (words: readonly string[]) => new Intl.ListFormat("en-GB").format(words);

/** What is emptied at a rotation, and who leads then. */
interface Rotation {
  readonly lead: string;
  readonly next: string;
}

interface Names {
  /** Of rigs with a train. */
  readonly rotations?: ReadonlyMap<Id, Rotation>;
  readonly rigs: readonly Rig[];
  readonly meters: readonly Meter[];
}

const TASK_WORDS: Readonly<Record<Task, (name: string) => string>> = {
  refill: (name) => `Refill ${name}`,
  sediment: (name) => `Change the sediment cartridge of ${name}`,
  carbon: (name) => `Change the carbon cartridge of ${name}`,
  membrane: (name) => `Change the membrane of ${name}`,
  seals: (name) => `Renew the O-rings and seals of ${name}`,
  strainer: (name) => `Clean the inlet strainer of ${name}`,
  meter: (name) => `Check ${name} against a standard`,
  order: () => TASK.of.order,
};

const nameOf = (
  { rigId, meterId }: { readonly rigId?: Id | undefined; readonly meterId?: Id | undefined },
  names: Names,
) => names.rigs.find(({ id }) => id === rigId)?.name ?? names.meters.find(({ id }) => id === meterId)?.name ?? "";

/** @example taskWords({ task: "refill", rigId }, names) // "Refill Bay 2" */
export const taskWords = (
  task: { readonly task: Task; readonly rigId?: Id | undefined; readonly meterId?: Id | undefined },
  names: Names,
): string => {
  const rotation = task.task === "refill" && task.rigId ? names.rotations?.get(task.rigId) : undefined;
  const name = nameOf(task, names);
  return rotation ? `Rotate ${name}: refill ${rotation.lead}, ${rotation.next} leads` : TASK_WORDS[task.task](name);
};

const PART_WORDS: Readonly<Record<Task, string>> = {
  refill: "refill",
  sediment: "change its sediment",
  carbon: "change its carbon",
  membrane: "change its membrane",
  seals: "renew its seals",
  strainer: "clean its strainer",
  meter: "check it",
  order: "order resin",
};

/** A day's tasks in one line; what follows of the same rig says `its`. @example "Refill Bay 2 · change its sediment" */
export function tasksWords(tasks: readonly PlannedTask[], names: Names): string {
  const byRig = [...tasks].sort((a, b) =>
    nameOf(a, names) < nameOf(b, names) ? -1 : nameOf(a, names) > nameOf(b, names) ? 1 : 0,
  );
  return byRig
    .map((task, i) => {
      const before = byRig[i - 1];
      const isSame = before !== undefined && task.rigId !== undefined && before.rigId === task.rigId;
      return isSame ? PART_WORDS[task.task] : taskWords(task, names);
    })
    .join(" · ");
}

/** What a day has to do, in one line. @example "two tasks, 55 min" */
export function dayLoad({ tasks, minutes }: Pick<PlannedDay, "tasks" | "minutes">): string {
  const count =
    ["no task", "one task", "two tasks", "three tasks", "four tasks"][tasks.length] ?? `${tasks.length} tasks`;
  return `${count}, ${Math.round(minutes)} min`;
}

/** Money below this is not worth a word. */
const NOTHING = 0.5;
const LITTLE = 1;
const about = (value: number, currency: string) =>
  value < LITTLE
    ? `under ${money(LITTLE, currency)}`
    : `about ${money(value < 10 ? Number(value.toPrecision(1)) : Number(value.toPrecision(2)), currency)}`;

/** Early against late, in a sentence or two. */
export function whyThisDay(task: PlannedTask, currency: string): string {
  const weighed = earlyAgainstLate(task);
  if (!weighed) return "";
  const { here, next } = weighed;
  const isRefill = task.task === "refill";
  const early =
    here.early < NOTHING
      ? isRefill
        ? "Throws away next to nothing."
        : ""
      : `Throws away ${about(here.early, currency)} ${isRefill ? "of resin" : "of its life"}.`;
  const risk = here.late < NOTHING ? "" : `Until then ${about(here.late, currency)} of booked work is at risk.`;
  const later =
    next && next.late - here.late >= NOTHING
      ? `${fullDay(next.on)} would risk ${about(next.late, currency)}${isRefill ? " of work done again" : ""}.`
      : "";
  return [early, risk, later].filter((each) => each !== "").join(" ");
}

/** Whether the resin of a refill is on the shelf, and when it would come; nothing where it is. */
export function resinWords({ task, rigId, on }: PlannedTask, { orders, prices, today }: WeeksAhead): string {
  const isOrdered = orders.some(({ lines }) =>
    lines.some((line) => line.for.some((each) => each.rigId === rigId && each.on === on)),
  );
  if (task !== "refill" || !isOrdered) return "";
  const comes = addDays(today, lateness(prices).deliveryDays);
  const late = comes > on ? ": too late for this day" : "";
  return `Its resin is not all in stock; ordered today it comes about ${fullDay(comes)}${late}.`;
}

/** A day to move to, with what it costs beside the best. */
export const dayCostWords = ({ on, early, late, time }: DayCost, best: DayCost, currency: string): string => {
  const more = early + late + time - (best.early + best.late + best.time);
  return `${fullDay(on)}: ${more < NOTHING ? "as good" : `${about(more, currency)} more`}`;
};

const MONTHS = new Intl.NumberFormat("en-US", { maximumFractionDigits: 0 });
export const months = (count: number) => (count === 1 ? "a month" : `${MONTHS.format(count)} months`);

/** Why something is due. */
export function dueWords(
  { because, months: after, last, on, usedShare, drop }: Due,
  today: string,
  units: Units,
): string {
  if (because === "unknown") return "Nobody noted when it was last done: note it once, and its next day follows.";
  const since = last ? `last done ${pastDay(last)}` : "nobody noted when it was last done";
  const when = on! < today ? `was due ${fullDay(on!)}` : on === today ? "due today" : `due ${dateInWords(on!, today)}`;
  switch (because) {
    case "months":
      return `${when}: every ${months(after)}, ${since}.`;
    case "chlorine":
      return `${when}: ${Math.round(100 * (usedShare ?? 0))} % of the chlorine it takes is used, at the water that went through; ${since}.`;
    case "passed":
      return `${when}: chlorine was found behind it, or it was seen to be old; ${since}.`;
    case "pressure":
      if (drop) return `${when}: ${dropWords(drop.kPa, units)} across it on ${fullDay(drop.on)}; ${since}.`;
      return `${when}: the pressure was seen to fall while it ran; ${since}.`;
    case "rejection":
      return `${when}: its flow or its rejection has left the clean baseline; ${since}.`;
  }
}

/** Pressure lost across a cartridge. */
export function dropWords(kPa: number, units: Units): string {
  const { text, unit } = shown("pressure", kPa, units);
  return `${text} ${unit}`;
}

/** What was read at a check of the cartridges: whatever of it there is. */
export function cartridgeWords(
  { before, behind, standing, chlorine }: Omit<PressureCheck, "id" | "rigId" | "at">,
  units: Units,
): string {
  const drop =
    before !== undefined && behind !== undefined
      ? [`${dropWords(before - behind, units)} across the sediment cartridge`]
      : [
          ...(before === undefined ? [] : [`${dropWords(before, units)} before it, running`]),
          ...(behind === undefined ? [] : [`${dropWords(behind, units)} behind it, running`]),
        ];
  return [
    ...drop,
    ...(standing === undefined ? [] : [`${dropWords(standing, units)} standing`]),
    ...(chlorine === undefined ? [] : [`${chlorine} mg/L of chlorine behind the carbon`]),
  ].join("; ");
}

/** A bag by its name and what is in it. */
export const bagName = ({ name, lot }: Pick<Bag, "name" | "lot">) => (lot ? `${name}, lot ${lot}` : name);
