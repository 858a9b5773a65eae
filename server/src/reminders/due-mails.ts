import { addDays, daysBetween, TASK, type Appointment, type Meter, type Reminder, type Rig } from "@winter-bead/core";
import { cartridgesOf, type Order, type OrderLine } from "@winter-bead/core/src/weeks";

/** A mail that is due. */
export interface DueMail {
  /** What it is about, in one word for each thing and day: nothing is mailed twice about the same. */
  readonly about: readonly string[];
  readonly subject: string;
  readonly text: string;
}

export interface ReminderFacts {
  readonly reminder: Reminder;
  readonly rigs: readonly Rig[];
  readonly meters: readonly Meter[];
  readonly appointments: readonly Appointment[];
  readonly orders: readonly Order[];
  /** ISO date and hour of the crew's own clock. */
  readonly today: string;
  readonly hour: number;
}

/** Whether mail keeps silent at an hour. @example isQuiet(23, { quietFrom: 20, quietUntil: 7 }) // true */
export function isQuiet(hour: number, { quietFrom, quietUntil }: Pick<Reminder, "quietFrom" | "quietUntil">): boolean {
  if (quietFrom === quietUntil) return false;
  return quietFrom < quietUntil ? hour >= quietFrom && hour < quietUntil : hour >= quietFrom || hour < quietUntil;
}

const inWords = (days: number) => (days <= 0 ? "today" : days === 1 ? "tomorrow" : `in ${days} days`);
const whole = (litres: number) => String(Number(litres.toPrecision(3)));

interface Line {
  readonly about: string;
  readonly on: string;
  readonly words: string;
}

const orderedWords = (line: OrderLine): string =>
  line.form === "loose"
    ? `${whole(line.litres)} L of ${line.grade} resin`
    : `${cartridgesOf(line)} of ${line.grade} resin, ${whole(line.litres)} L`;

function linesOf({ reminder, rigs, meters, appointments, orders, today }: ReminderFacts): readonly Line[] {
  const until = addDays(today, reminder.daysBefore);
  const nameOf = ({ rigId, meterId }: Appointment) =>
    [...rigs, ...meters].find(({ id }) => id === (rigId ?? meterId))?.name;
  return [
    ...appointments
      .filter(({ answer, on }) => answer === "accepted" && on >= today && on <= until)
      .map((each): Line => {
        const name = nameOf(each);
        const minutes = each.minutes === undefined ? "" : `, about ${Math.round(each.minutes)} min`;
        return {
          about: `${each.id} ${each.on}`,
          on: each.on,
          words: `${TASK.of[each.task]}${name ? `: ${name}` : ""}${minutes}`,
        };
      }),
    ...orders
      .filter(({ by }) => by <= until)
      .flatMap(({ by, lines }) =>
        lines.map((line): Line => ({
          // One order is one reminder, however its last day moves: it is known by the first refill it is for.
          about: `order ${line.grade} ${line.for[0]?.rigId ?? ""} ${line.for[0]?.on.slice(0, 7) ?? ""}`,
          on: by,
          words: `Order ${orderedWords(line)}${by < today ? ": it may come too late" : ""}`,
        })),
      ),
  ];
}

/**
 * The mail that is due now: everything about the days to come that was not mailed yet, in one mail.
 * @param sent what mails were about so far
 */
export function dueMail(facts: ReminderFacts, sent: ReadonlySet<string>): DueMail | undefined {
  const { reminder, today, hour } = facts;
  if (!reminder.on || isQuiet(hour, reminder)) return undefined;
  const lines = linesOf(facts).filter(({ about }) => !sent.has(about));
  if (lines.length === 0) return undefined;
  const sorted = [...lines].sort((a, b) => (a.on < b.on ? -1 : 1));
  const first = sorted[0]!;
  const when = inWords(daysBetween(today, first.on));
  return {
    about: lines.map(({ about }) => about),
    subject: sorted.length === 1 ? `${first.words}, ${when}` : `${sorted.length} things to do, the first ${when}`,
    text: `${sorted.map(({ on, words }) => `${on} (${inWords(daysBetween(today, on))}): ${words}.`).join("\n")}\n\nWhat is set can be moved in Winter Bead, under Weeks.\n`,
  };
}
