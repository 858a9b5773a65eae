import { addDays } from "@winter-bead/core";
import { UNSEEN } from "@winter-bead/core/src/descriptor/one-line";
import { ownEventId } from "@winter-bead/core/src/weeks/calendar-events";
import ICAL from "ical.js";
import { v5 as uuidv5 } from "uuid";

/** A day of an event, as it would be booked. */
export interface CalendarItem {
  /** The event and its day as the calendar names them: the same file brings it once. */
  readonly key: string;
  /** ISO date. */
  readonly on: string;
  readonly title: string;
  /** As the title says it, else one. */
  readonly jobs: number;
  /** It is called off: what it brought before goes again. */
  readonly cancelled: boolean;
  /** The booking that it was written from, by this program. */
  readonly own?: string;
}

export interface CalendarRead {
  readonly items: readonly CalendarItem[];
  /** What was left out, in sentences. */
  readonly faults: readonly string[];
}

/** Who reads over the shoulder: an event may take for ever, and whoever waits has only so much time. */
export interface Watch {
  /** Events, by their place in the file, that took too long before. */
  readonly skip?: ReadonlySet<number>;
  /** Told before an event that may take long, and now and then between. */
  readonly begin?: (event: number, of: number) => void;
  /** Whether the time is over. */
  readonly over?: () => boolean;
}

/** Days that are taken at most. */
const MOST_ITEMS = 400;
/** Days of one event that is one long stay. */
const MOST_DAYS = 60;
/** Nobody keeps appointments at longer intervals: 100 years of days. */
const LONGEST_INTERVAL = 36_525;
/** Letters of a title and of a key, and of what of a longer key stays readable. */
const MOST_TITLE = 120;
const MOST_KEY = 400;
const READABLE_KEY = 300;
const LONGEST_FILE = 2_000_000;
/** How often the time is looked at. */
const LOOK_EVERY = 64;

/** The namespace of keys that are too long to be kept whole. */
const LONG_KEYS = "3d3f2b1e-6a55-5c0e-8e11-2f6a9f0c7d42";

const NO_CALENDAR = "This is no calendar file: it begins with BEGIN:VCALENDAR and ends with END:VCALENDAR.";

const isoOf = (time: ICAL.Time) => {
  const { year, month, day } = time.isDate ? time : ICAL.Time.fromJSDate(time.toJSDate());
  return `${year}-${String(month).padStart(2, "0")}-${String(day).padStart(2, "0")}`;
};

/** The hour of a day, as it tells two of the same day apart. @example "T1600" */
const hourOf = (time: ICAL.Time) =>
  `T${String(time.hour).padStart(2, "0")}${String(time.minute).padStart(2, "0")}${time.second ? String(time.second).padStart(2, "0") : ""}`;

/** @example jobsIn("Harbour Row, 4 houses") // 4 */
export function jobsIn(title: string): number {
  const number = /(\d{1,3})\s*(?:x\s*)?(?:jobs?|houses?|cars?|cleans?|windows?|changes?|water changes?)\b/i.exec(
    title,
  )?.[1];
  return number === undefined ? 1 : Math.max(1, Number(number));
}

/** What breaks a line or turns the direction of what follows has no place in a name. */
const onOneLine = (words: string) => words.replaceAll(new RegExp(UNSEEN, "gu"), " ").toWellFormed().trim();

const characters = new Intl.Segmenter(undefined, { granularity: "grapheme" });

/** As much of a text as fits, cut between two characters and never inside one. @example cutAt("👩‍🔧👩‍🔧", 7) // "👩‍🔧" */
export function cutAt(text: string, most: number): string {
  if (text.length <= most) return text;
  let end = 0;
  for (const { index, segment } of characters.segment(text.slice(0, most + 64))) {
    if (index + segment.length > most) break;
    end = index + segment.length;
  }
  return text.slice(0, end);
}

/** A key as it is kept: of a long one its beginning, and what tells it from every other. */
function keptKey(key: string): string {
  const plain = onOneLine(key);
  return plain.length <= MOST_KEY ? plain : `${cutAt(plain, READABLE_KEY)}…${uuidv5(key, LONG_KEYS)}`;
}

const isWork = ({ component }: ICAL.Event) =>
  component.getAllProperties("categories").some((each) => each.getValues().includes("Work"));

/** Every day that an event takes. */
function daysOf(start: ICAL.Time, end: ICAL.Time | null): readonly string[] {
  const from = isoOf(start);
  if (!end || !start.isDate) return [from];
  const until = isoOf(end);
  const days: string[] = [];
  for (let on = from; on < until && days.length < MOST_DAYS; on = addDays(on, 1)) days.push(on);
  return days.length === 0 ? [from] : days;
}

/** Every calendar of a file: some programs write several into one. */
function calendarsIn(text: string): readonly ICAL.Component[] {
  const parsed = ICAL.parse(text) as unknown as [unknown, ...unknown[]];
  const roots = (Array.isArray(parsed[0]) ? parsed : [parsed]) as never[];
  return roots.map((each) => new ICAL.Component(each)).filter(({ name }) => name === "vcalendar");
}

/** An event with what it is called, and the days of its series that were moved or called off. */
interface Series {
  readonly event: ICAL.Event;
  readonly isAlone: boolean;
}

/** Exceptions go to the series of their own name, and to no other of the same weekday. */
function seriesIn(calendar: ICAL.Component): readonly Series[] {
  const all = calendar
    .getAllSubcomponents("vevent")
    .map((part) => new ICAL.Event(part, { strictExceptions: true, exceptions: [] }));
  const masters = new Map<string, ICAL.Event>();
  for (const event of all) if (!event.isRecurrenceException()) masters.set(event.uid, event);
  return all.flatMap((event): Series[] => {
    if (!event.isRecurrenceException()) return [{ event, isAlone: false }];
    const master = masters.get(event.uid);
    if (!master?.isRecurring()) return [{ event, isAlone: true }];
    master.relateException(event);
    return [];
  });
}

/** Whether rules, its own or those of its zone, have to be followed to know its days. */
const mayLinger = (event: ICAL.Event) =>
  event.isRecurring() || event.component.getFirstProperty("dtstart")?.getParameter("tzid") !== undefined;

/** Why a series is left out before it is followed; undefined where it can be. */
function unfit({ component }: ICAL.Event): string | undefined {
  for (const property of component.getAllProperties("rrule")) {
    const { freq, interval } = property.getFirstValue() as unknown as { freq: string; interval: number };
    if (/^(SECONDLY|MINUTELY|HOURLY)$/.test(freq)) return "comes more often than once a day";
    if (!(interval >= 1 && interval <= LONGEST_INTERVAL)) return "comes at an interval that nobody keeps";
  }
  return undefined;
}

/**
 * The days of work in a calendar file (RFC 5545), from one day to another: events that come again and again are told one by
 * one, with their exceptions. Of what this program wrote itself only work is taken, not its tasks.
 *
 * An event may keep whoever reads it for ever: called where it can be ended, with a watch.
 */
export function readCalendar(text: string, from: string, until: string, watch: Watch = {}): CalendarRead {
  if (text.length > LONGEST_FILE) return { items: [], faults: ["This calendar is far too large to be taken."] };
  let calendars: readonly ICAL.Component[];
  try {
    calendars = calendarsIn(text);
  } catch {
    calendars = [];
  }
  if (calendars.length === 0) return { items: [], faults: [NO_CALENDAR] };
  for (const calendar of calendars)
    for (const zone of calendar.getAllSubcomponents("vtimezone")) ICAL.TimezoneService.register(zone);
  const series = calendars.flatMap(seriesIn);
  const taking = new Taking(from, until);
  const { skip = new Set(), begin = () => undefined, over = () => false } = watch;
  for (const [i, each] of series.entries()) {
    if (taking.isFull) break;
    if (i % LOOK_EVERY === 0 && over()) {
      taking.faults.push(`It took too long: only the first ${i} of ${series.length} entries were read.`);
      break;
    }
    if (skip.has(i)) taking.leaveOut(each.event, "keeps its reader for ever");
    else {
      if (mayLinger(each.event) || i % LOOK_EVERY === 0) begin(i, series.length);
      taking.take(each, over);
    }
  }
  return taking.outcome();
}

/** What is taken out of a file. */
class Taking {
  readonly faults: string[] = [];
  private readonly items: CalendarItem[] = [];
  private readonly keys = new Set<string>();

  constructor(
    private readonly from: string,
    private readonly until: string,
  ) {}

  get isFull(): boolean {
    return this.items.length >= MOST_ITEMS;
  }

  take({ event, isAlone }: Series, over: () => boolean): void {
    if (ownEventId(event.uid ?? "") !== undefined && !isWork(event)) return;
    try {
      if (!event.isRecurring() || isAlone) this.add(event, event.uid, event.startDate, event.endDate);
      else this.follow(event, over);
    } catch {
      this.leaveOut(event, "could not be read");
    }
  }

  leaveOut({ summary, uid }: ICAL.Event, why: string): void {
    this.faults.push(`“${cutAt(onOneLine(String(summary ?? uid)), 60)}” ${why}; the others are taken.`);
  }

  outcome(): CalendarRead {
    if (this.isFull) this.faults.push(`Only the first ${MOST_ITEMS.toLocaleString("en")} days are taken.`);
    return { items: this.items.sort((a, b) => (a.on < b.on ? -1 : 1)), faults: this.faults };
  }

  /** Each time that a series comes, from wherever it began. */
  private follow(event: ICAL.Event, over: () => boolean): void {
    const why = unfit(event);
    if (why !== undefined) return this.leaveOut(event, why);
    const next = event.iterator();
    // Far in the past nothing of it is looked at closely; an exception may have moved it by some weeks.
    const since = addDays(this.from, -MOST_DAYS);
    let step = 0;
    for (let time = next.next(); time && !this.isFull; time = next.next()) {
      step += 1;
      if (isoOf(time) > this.until) break;
      if (step % LOOK_EVERY === 0 && over()) return this.leaveOut(event, "took too long to follow");
      if (isoOf(time) < since) continue;
      const { item, startDate, endDate } = event.getOccurrenceDetails(time);
      const key = `${event.uid}/${isoOf(time)}`;
      this.add(item, this.keys.has(key) ? `${key}${hourOf(time)}` : key, startDate, endDate);
    }
  }

  private add(event: ICAL.Event, key: string, start: ICAL.Time, end: ICAL.Time | null): void {
    this.keys.add(key);
    const own = ownEventId(event.uid ?? "");
    const cancelled = String(event.component.getFirstPropertyValue("status") ?? "").toUpperCase() === "CANCELLED";
    const title = onOneLine(String(event.summary ?? ""));
    for (const [nth, on] of daysOf(start, end).entries())
      if (on >= this.from && on <= this.until && !this.isFull)
        this.items.push({
          key: keptKey(nth === 0 ? key : `${key}+${nth}`),
          on,
          title: cutAt(title, MOST_TITLE),
          jobs: jobsIn(title),
          cancelled,
          ...(own === undefined ? {} : { own }),
        });
  }
}
