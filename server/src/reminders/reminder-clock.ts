import { datesIn, type CrewRecords, type RecordKind, type Reminder } from "@winter-bead/core";
import { openAppointments } from "@winter-bead/core/src/weeks";
import type { DataSource } from "typeorm";
import { SENT } from "../store/beside";
import { inCrew } from "../store/crew-scope";
import { Records } from "../store/records";
import { STORED } from "../store/tables";
import { dueMail, isQuiet, type DueMail, type ReminderFacts } from "./due-mails";
import type { OrderForecast } from "./order-forecast";

const PAGE = 1000;

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

/** How a crew is reminded. */
export interface Reminding {
  readonly send: Send;
  readonly forecast: OrderForecast;
}

interface Asked {
  readonly reminder: Reminder;
  readonly dateOf: (milliseconds: number) => string;
  readonly records: CrewRecords;
  readonly seq: string;
}

/** What a crew is to be reminded of, if anything now. */
const askedOf = (source: DataSource, crewId: string, now: number): Promise<Asked | undefined> =>
  inCrew(source, { crewId }, async (manager) => {
    const records = new Records(manager, crewId, STORED);
    const reminders = await all<Reminder>(records, "reminders");
    const reminder = [...reminders].sort((a, b) => (a.id < b.id ? 1 : -1))[0];
    const dates = reminder && datesIn(reminder.timeZone);
    // In the quiet hours nothing is worked out that nobody is told.
    if (!reminder?.on || !dates?.ok || isQuiet(hourIn(reminder.timeZone, now), reminder)) return undefined;
    const [counter]: readonly { readonly last: string }[] = await manager.query(
      "SELECT last FROM crew_counter WHERE crew_id = $1",
      [crewId],
    );
    return { reminder, dateOf: dates.value, records: await crewRecords(records), seq: counter?.last ?? "0" };
  });

/**
 * Mails what is due of these facts. What a mail is about is written down before it goes, so that it is never sent twice;
 * where the mail server would not take it, that is struck out again and it is tried later.
 *
 * @returns whether a mail went out
 */
async function mailDue(
  source: DataSource,
  crewId: string,
  now: number,
  facts: ReminderFacts,
  send: Send,
): Promise<boolean> {
  const session = { crewId };
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
    await send(facts.reminder.to, mail);
    return true;
  } catch (error) {
    await inCrew(source, session, (manager) =>
      Promise.all(mail.about.map((about) => manager.delete(SENT, { crewId, about }))),
    );
    throw error;
  }
}

export interface Reminded {
  /** Mails that went out. */
  readonly mails: number;
  readonly trouble?: string;
}

/** Mails one crew what is due now: what is set for a day first, which nothing has to be worked out for; then what to order. */
export async function remindCrew(
  source: DataSource,
  crewId: string,
  now: number,
  { send, forecast }: Reminding,
): Promise<Reminded> {
  const asked = await askedOf(source, crewId, now);
  if (!asked) return { mails: 0 };
  const { reminder, dateOf, records, seq } = asked;
  const appointments = openAppointments(records.appointments, records);
  const today = dateOf(now);
  const facts = { ...records, appointments, reminder, today, hour: hourIn(reminder.timeZone, now) };
  const first = await mailDue(source, crewId, now, { ...facts, orders: [] }, send);
  const { orders, trouble } = await forecast.of(crewId, { seq, today }, records, now, reminder.timeZone);
  const second = await mailDue(source, crewId, now, { ...facts, orders, appointments: [] }, send);
  return { mails: Number(first) + Number(second), ...(trouble === undefined ? {} : { trouble }) };
}

const EVERY = 10 * 60_000;
const SOON = 20_000;

/** What went wrong with the reminders when they were last looked at. */
export interface ReminderTrouble {
  /** Milliseconds since 1970. */
  readonly at: number;
  readonly words: string;
}

/** Looks every ten minutes whether a crew is to be reminded. */
export class ReminderClock {
  private readonly timers: NodeJS.Timeout[];
  private running: Promise<void> = Promise.resolve();
  private last: ReminderTrouble | undefined;

  constructor(
    private readonly remind: (now: number) => Promise<Reminded>,
    private readonly log: (error: unknown) => void,
  ) {
    this.timers = [setTimeout(() => this.look(), SOON), setInterval(() => this.look(), EVERY)];
  }

  /** For whoever asks in the app; undefined where the last look went well. */
  readonly trouble = (): ReminderTrouble | undefined => this.last;

  private look(): void {
    this.running = this.running.then(() => this.lookNow());
  }

  private async lookNow(): Promise<void> {
    const at = Date.now();
    try {
      const { trouble } = await this.remind(at);
      this.last = trouble === undefined ? undefined : { at, words: trouble };
      if (trouble !== undefined) this.log(new Error(trouble));
    } catch (error) {
      this.log(error);
      this.last = { at, words: `A mail could not be sent (${(error as Error).message}). It is tried again.` };
    }
  }

  async close(): Promise<void> {
    for (const timer of this.timers) clearTimeout(timer);
    await this.running;
  }
}
