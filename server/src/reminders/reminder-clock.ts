import { datesIn, type CrewRecords, type Order, type RecordKind, type Reminder } from "@winter-bead/core";
import { openAppointments } from "@winter-bead/core/src/weeks";
import type { DataSource } from "typeorm";
import { SENT } from "../store/beside";
import { inCrew } from "../store/crew-scope";
import { Records } from "../store/records";
import { STORED } from "../store/tables";
import { dueMail, isQuiet, type DueMail } from "./due-mails";

const PAGE = 1000;

/** What a crew has to order until when; worked out where it holds nobody up. */
export type OrdersOf = (records: CrewRecords, now: number, timeZone: string) => Promise<readonly Order[]>;

/** Takes a mail away. @throws when it was not taken */
export type Send = (to: string, mail: Pick<DueMail, "subject" | "text">) => Promise<void>;

/** Every record in use of a kind. */
async function all<T>(records: Records, kind: string): Promise<readonly T[]> {
  const found: unknown[] = [];
  let after: string | undefined;
  do {
    const page = await records.list(kind, PAGE, after);
    found.push(...page.items);
    after = page.next;
  } while (after !== undefined);
  return found as T[];
}

/** What each part of a crew's records is called where it is kept. */
const KEPT_AS: Readonly<Record<keyof CrewRecords, RecordKind>> = {
  ...{
    rigs: "rigs",
    arrangements: "arrangements",
    vessels: "vessels",
    taps: "taps",
    meters: "meters",
    charges: "charges",
    visits: "visits",
  },
  ...{ feedTests: "feed-tests", reports: "water-reports", membraneChecks: "membrane-checks", bookings: "bookings" },
  ...{ usualWeeks: "usual-weeks", daysOff: "days-off", bags: "bags", disposals: "disposals", services: "services" },
  ...{ pressureChecks: "pressure-checks", appointments: "appointments", priceLists: "price-lists" },
};

async function crewRecords(records: Records): Promise<CrewRecords> {
  const parts: [string, readonly unknown[]][] = [];
  for (const [part, kind] of Object.entries(KEPT_AS)) parts.push([part, await all(records, kind)]);
  return Object.fromEntries(parts) as unknown as CrewRecords;
}

const hourIn = (timeZone: string, now: number) =>
  Number(new Intl.DateTimeFormat("en-GB", { timeZone, hour: "2-digit", hourCycle: "h23" }).format(now));

/**
 * Mails one crew what is due now. What a mail is about is written down before it goes, so that it is never sent twice; where
 * the mail server would not take it, that is struck out again and it is tried later.
 *
 * @returns whether a mail went out
 */
export async function remindCrew(
  source: DataSource,
  crewId: string,
  now: number,
  { send, ordersOf }: { readonly send: Send; readonly ordersOf: OrdersOf },
): Promise<boolean> {
  const session = { crewId };
  const asked = await inCrew(source, session, async (manager) => {
    const records = new Records(manager, crewId, STORED);
    const reminders = await all<Reminder>(records, "reminders");
    const reminder = [...reminders].sort((a, b) => (a.id < b.id ? 1 : -1))[0];
    const dates = reminder && datesIn(reminder.timeZone);
    // In the quiet hours nothing is worked out that nobody is told.
    if (!reminder?.on || !dates?.ok || isQuiet(hourIn(reminder.timeZone, now), reminder)) return undefined;
    return { reminder, dateOf: dates.value, records: await crewRecords(records) };
  });
  if (!asked) return false;
  const { reminder, dateOf, records } = asked;
  const orders = await ordersOf(records, now, reminder.timeZone);
  const appointments = openAppointments(records.appointments, records);
  const facts = {
    ...records,
    appointments,
    orders,
    reminder,
    today: dateOf(now),
    hour: hourIn(reminder.timeZone, now),
  };
  const mail = await inCrew(source, session, async (manager) => {
    const sent = new Set((await manager.findBy(SENT, { crewId })).map(({ about }) => about));
    const due = dueMail(facts, sent);
    if (due)
      await manager.insert(
        SENT,
        due.about.map((about) => ({ crewId, about, sentAt: new Date(now) })),
      );
    return due;
  });
  if (!mail) return false;
  try {
    await send(reminder.to, mail);
    return true;
  } catch (error) {
    await inCrew(source, session, (manager) =>
      Promise.all(mail.about.map((about) => manager.delete(SENT, { crewId, about }))),
    );
    throw error;
  }
}

const EVERY = 10 * 60_000;
const SOON = 20_000;

/** Looks every ten minutes whether a crew is to be reminded. */
export class ReminderClock {
  private readonly timers: NodeJS.Timeout[];
  private running: Promise<void> = Promise.resolve();

  constructor(
    private readonly remind: (now: number) => Promise<unknown>,
    private readonly log: (error: unknown) => void,
  ) {
    this.timers = [setTimeout(() => this.look(), SOON), setInterval(() => this.look(), EVERY)];
  }

  private look(): void {
    this.running = this.running.then(() => this.remind(Date.now())).then(() => undefined, this.log);
  }

  async close(): Promise<void> {
    for (const timer of this.timers) clearTimeout(timer);
    await this.running;
  }
}
