import { calendarFile } from "@winter-bead/contract/src/calendar-file";
import { act, renderHook } from "@testing-library/react";
import jsQR from "jsqr";
import type { Booking, Rig } from "@winter-bead/core";
import { cutAt, jobsIn, readCalendar } from "../features/weeks/calendar-read";
import { calendarSteps } from "../features/weeks/calendar-steps";
import { beadsOf } from "../features/weeks/Beads";
import { useOpened } from "../features/weeks/opened";
import { isPlain } from "../features/weeks/plain-booking";
import { DEFAULT_PRICES } from "@winter-bead/core";
import { cartridgeWords, dayLoad, dueWords, resinWords, tasksWords } from "../features/weeks/words";
import { create } from "../ui/qr";
import { bagComplaints, openedSteps, portionsIn, sealedSteps, withBags } from "../features/setup/from-bags";
import type { BagInStock } from "@winter-bead/core";

const FROM = "2027-03-01";
const UNTIL = "2028-03-01";
const calendar = (...lines: readonly string[]) =>
  ["BEGIN:VCALENDAR", "VERSION:2.0", ...lines, "END:VCALENDAR", ""].join("\r\n");
const event = (uid: string, on: string, title: string, ...more: readonly string[]) => [
  ...["BEGIN:VEVENT", `UID:${uid}`, `DTSTART;VALUE=DATE:${on}`, `SUMMARY:${title}`, ...more, "END:VEVENT"],
];
const items = (text: string) => readCalendar(text, FROM, UNTIL).items;

describe("a calendar that somebody else keeps", () => {
  test("gives its days of work, in their order, with the jobs that a title says", () => {
    const read = items(
      calendar(...event("b", "20270310", "Harbour Row\\, 4 houses"), ...event("a", "20270304", "School")),
    );
    expect(read.map(({ on, title, jobs }) => [on, title, jobs])).toEqual([
      ["2027-03-04", "School", 1],
      ["2027-03-10", "Harbour Row, 4 houses", 4],
    ]);
    expect([jobsIn("3 x cars"), jobsIn("No 12 Quay Street"), jobsIn("2 water changes")]).toEqual([3, 1, 2]);
  });
  test("what comes again is told day by day, without the days that are left out and with those that were moved", () => {
    const weekly = event("w", "20270305", "Quay", "RRULE:FREQ=WEEKLY;COUNT=4", "EXDATE;VALUE=DATE:20270312");
    const moved = event("w", "20270320", "Quay", "RECURRENCE-ID;VALUE=DATE:20270319");
    expect(items(calendar(...weekly, ...moved)).map(({ on }) => on)).toEqual([
      "2027-03-05",
      "2027-03-20",
      "2027-03-26",
    ]);
  });
  test("is bounded: what never ends stops at the end of the year that is looked at", () => {
    const daily = items(calendar(...event("d", "20270301", "Daily", "RRULE:FREQ=DAILY")));
    expect(daily).toHaveLength(367);
    expect(items(calendar(...event("d", "19000101", "Old", "RRULE:FREQ=SECONDLY")))).toEqual([]);
  });
  test("an event with a time, or of several days, takes its days", () => {
    const timed = [
      "BEGIN:VEVENT",
      "UID:t",
      "DTSTART:20270304T090000",
      "DTEND:20270304T110000",
      "SUMMARY:Two hours",
      "END:VEVENT",
    ];
    const days = event("s", "20270308", "Fair", "DTEND;VALUE=DATE:20270311");
    expect(items(calendar(...timed, ...days)).map(({ on }) => on)).toEqual([
      "2027-03-04",
      "2027-03-08",
      "2027-03-09",
      "2027-03-10",
    ]);
  });
  test("what is no calendar says so, and one event that cannot be read does not keep the others away", () => {
    expect(readCalendar("hello", FROM, UNTIL).faults[0]).toMatch(/no calendar file/);
    const read = readCalendar(calendar(...event("x", "soon", "Odd"), ...event("a", "20270304", "Good")), FROM, UNTIL);
    expect(read.items.map(({ title }) => title)).toContain("Good");
  });
});

describe("an odd calendar", () => {
  const weekly = (uid: string, hour: string, title: string) => [
    "BEGIN:VEVENT",
    `UID:${uid}`,
    `DTSTART:20270301T${hour}0000`,
    "RRULE:FREQ=WEEKLY;COUNT=4",
    `SUMMARY:${title}`,
    "END:VEVENT",
  ];
  const moved = (uid: string, from: string, to: string, title: string) => [
    "BEGIN:VEVENT",
    `UID:${uid}`,
    `RECURRENCE-ID:${from}`,
    `DTSTART:${to}`,
    `SUMMARY:${title}`,
    "END:VEVENT",
  ];
  const rule = (rrule: string, title: string, start = "20270301") => [
    ...["BEGIN:VEVENT", `UID:${title}`, `DTSTART;VALUE=DATE:${start}`, `RRULE:${rrule}`],
    ...[`SUMMARY:${title}`, "END:VEVENT"],
  ];
  const summaries = (text: string) => items(text).map(({ on, title }) => `${on.slice(5)} ${title}`);

  test("two series of one weekday keep their own exceptions", () => {
    const text = calendar(
      ...weekly("a", "08", "Row"),
      ...weekly("b", "08", "Terrace"),
      ...moved("a", "20270308T080000", "20270310T080000", "Row, moved"),
      ...moved("b", "20270315T080000", "20270318T080000", "Terrace, moved"),
    );
    expect(summaries(text)).toEqual([
      ...["03-01 Row", "03-01 Terrace", "03-08 Terrace", "03-10 Row, moved"],
      ...["03-15 Row", "03-18 Terrace, moved", "03-22 Row", "03-22 Terrace"],
    ]);
  });

  test("two times of one day are two bookings, the first under the key it always had", () => {
    const twice = calendar(
      ...["BEGIN:VEVENT", "UID:t", "DTSTART:20270301T080000", "RRULE:FREQ=DAILY;BYHOUR=8,16;COUNT=4"],
      ...["SUMMARY:Bay", "END:VEVENT"],
    );
    const read = readCalendar(twice, FROM, UNTIL);
    expect(read.items.map(({ key }) => key)).toEqual([
      ...["t/2027-03-01", "t/2027-03-01T1600", "t/2027-03-02", "t/2027-03-02T1600"],
    ]);
    expect(new Set(calendarSteps(read, "rig", []).map((step) => "id" in step && step.id)).size).toBe(4);
  });

  test("a series that began in 1960 still gives this month", () => {
    const read = items(calendar(...rule("FREQ=DAILY", "Old round", "19600101")));
    expect([read[0]!.on, read.length]).toEqual([FROM, 367]);
  });

  test("two calendars in one file are both read", () => {
    const both = calendar(...event("a", "20270304", "Row")) + calendar(...event("b", "20270305", "School"));
    expect(summaries(both)).toEqual(["03-04 Row", "03-05 School"]);
  });

  test("rules that nobody keeps are named and left out; the others are taken", () => {
    const text = calendar(
      ...rule("FREQ=SECONDLY", "Every second"),
      ...rule("FREQ=DAILY;INTERVAL=1000000000000", "Hardly ever"),
      ...event("a", "20270304", "Row"),
    );
    const { items: taken, faults } = readCalendar(text, FROM, UNTIL);
    expect(taken.map(({ title }) => title)).toEqual(["Row"]);
    expect(faults).toEqual([
      "“Every second” comes more often than once a day; the others are taken.",
      "“Hardly ever” comes at an interval that nobody keeps; the others are taken.",
    ]);
  });

  test("a title is cut between two characters and stands on one line", () => {
    const family = "👩‍👩‍👧‍👦";
    const [read] = items(calendar(...event("a", "20270304", `${"x".repeat(115)}${family}${family}`)));
    expect(read!.title).toBe("x".repeat(115));
    expect(cutAt(`${family}${family}`, 2 * family.length)).toBe(`${family}${family}`);
    expect(cutAt(`e\u0301e\u0301`, 3)).toBe("e\u0301");
    const [lines] = items(calendar(...event("b", "20270304", "Row\\nGate \u202e4 houses")));
    expect([lines!.title, lines!.jobs]).toEqual(["Row Gate  4 houses", 4]);
  });

  test("long names of events stay apart", () => {
    const long = "u".repeat(500);
    const read = items(calendar(...event(`${long}1`, "20270304", "A"), ...event(`${long}2`, "20270304", "B")));
    expect(new Set(read.map(({ key }) => key)).size).toBe(2);
    expect(Math.max(...read.map(({ key }) => key.length))).toBeLessThanOrEqual(400);
  });

  test("whoever watches hears of each event, and ends it when the time is over", () => {
    const text = calendar(...Array.from({ length: 200 }, (_, i) => rule("FREQ=DAILY;COUNT=1", `Row ${i}`)).flat());
    const begun: number[] = [];
    const { items: taken, faults } = readCalendar(text, FROM, UNTIL, {
      skip: new Set([1]),
      begin: (i) => begun.push(i),
      over: () => begun.length > 100,
    });
    expect(begun.slice(0, 2)).toEqual([0, 2]);
    expect(taken.length).toBe(127);
    expect(faults).toEqual([
      "“Row 1” keeps its reader for ever; the others are taken.",
      "It took too long: only the first 128 of 200 entries were read.",
    ]);
  });
});

const rig = { id: "rig", name: "Van", jobName: "house", litresPerJob: 50 } as Rig;
const kept = (body: Omit<Booking, "id">, id = "1") => ({ ...body, id, version: 1, voided: false });

describe("taking a calendar in", () => {
  const read = (...lines: readonly string[]) => readCalendar(calendar(...lines), FROM, UNTIL);
  const once = read(...event("a", "20270304", "Row"));
  const booked = kept({
    rigId: "rig",
    on: "2027-03-04",
    booked: { by: "jobs", jobs: 2 },
    name: "Row",
    fromCalendar: "a",
  });

  test("books each day once, under an id that follows from the event: two phones make the same", () => {
    const [first, second] = [calendarSteps(once, "rig", []), calendarSteps(once, "rig", [])];
    expect(first).toEqual(second);
    expect(first).toMatchObject([{ does: "keep", kind: "bookings", body: { on: "2027-03-04", fromCalendar: "a" } }]);
    expect(calendarSteps(once, "rig", [booked])).toEqual([]);
    expect(calendarSteps(once, "other", [booked])).toHaveLength(1);
    expect(calendarSteps(once, "rig", [], "off")).toMatchObject([{ body: { booked: { by: "off" }, name: "Row" } }]);
  });
  test("a moved event moves its booking and leaves the jobs that were corrected here; one called off goes again", () => {
    const moved = calendarSteps(read(...event("a", "20270306", "Row")), "rig", [booked]);
    expect(moved).toMatchObject([{ does: "change", body: { on: "2027-03-06", booked: { jobs: 2 } } }]);
    const off = calendarSteps(read(...event("a", "20270304", "Row", "STATUS:CANCELLED")), "rig", [booked]);
    expect(off).toMatchObject([{ does: "take-back" }]);
  });
  test("the crew's own file brings nothing twice, and its work to a crew that lacks it", () => {
    const bookings = [kept({ rigId: "rig", on: "2027-03-04", booked: { by: "jobs", jobs: 3 }, name: "Row" }, "b")];
    const appointments = [
      {
        id: "t",
        task: "refill",
        rigId: "rig",
        on: "2027-03-05",
        answer: "accepted",
        answeredAt: "2027-03-01T08:00:00Z",
      } as const,
    ];
    const daysOff = [{ id: "o", from: "2027-03-08", until: "2027-03-09" }];
    const file = calendarFile({ rigs: [rig], meters: [], bookings, daysOff, appointments }, 0);
    const back = readCalendar(file, FROM, UNTIL);
    expect(back.items.map(({ on, title }) => [on, title])).toEqual([["2027-03-04", "Van: Row"]]);
    expect(calendarSteps(back, "rig", bookings)).toEqual([]);
    expect(calendarSteps(back, "rig", [])).toHaveLength(1);
  });
});

test("ten beads: what is surely left is hollow, what may be is pale", () => {
  expect(beadsOf({ low: 0.2, typical: 0.3, high: 0.45 })).toEqual({ free: 2, unsure: 3 });
  expect(beadsOf({ low: 0, typical: 0, high: 0 })).toEqual({ free: 0, unsure: 0 });
  expect(beadsOf({ low: 1, typical: 1, high: 1 })).toEqual({ free: 10, unsure: 0 });
});

test("a booking is plain while it says nothing but a number", () => {
  const plain = kept({ rigId: "rig", on: FROM, booked: { by: "jobs", jobs: 3 } });
  expect(isPlain(plain)).toBe(true);
  expect([{ name: "Row" }, { note: "x" }, { fromCalendar: "a" }].map((more) => isPlain({ ...plain, ...more }))).toEqual(
    [false, false, false],
  );
  expect(isPlain({ ...plain, booked: { by: "jobs", jobs: 1, litresEach: 90 } })).toBe(false);
});

describe("what is said of a day", () => {
  const names = { rigs: [rig, { ...rig, id: "bay", name: "Bay" }], meters: [] };
  const task = (kind: "refill" | "sediment", rigId: string) => ({
    task: kind,
    rigId,
    on: FROM,
    minutes: 10,
    costs: [],
  });
  test("tasks of one rig stand together", () => {
    expect(tasksWords([task("refill", "bay"), task("sediment", "bay")], names)).toBe(
      "Refill Bay · change its sediment",
    );
    expect(tasksWords([task("refill", "bay"), task("refill", "rig")], names)).toBe("Refill Bay · Refill Van");
    expect(dayLoad({ tasks: [task("refill", "bay")], minutes: 25 })).toBe("one task, 25 min");
  });
  test("resin that is not on the shelf is said, with the day it would come", () => {
    const order = {
      by: "2027-03-01",
      lines: [
        { grade: "virgin", litres: 9, by: "2027-03-01", for: [{ rigId: "bay", grade: "virgin", litres: 9, on: FROM }] },
      ],
    };
    const ahead = { orders: [order], prices: DEFAULT_PRICES, today: "2027-02-27" } as never;
    expect(resinWords(task("refill", "bay"), ahead)).toMatch(/comes about Wed 3 Mar: too late for this day/);
    expect(resinWords({ ...task("refill", "bay"), on: "2027-03-20" }, ahead)).toBe("");
    expect(resinWords(task("refill", "rig"), ahead)).toBe("");
  });
  test("something due says why", () => {
    const due = {
      task: "sediment" as const,
      because: "months" as const,
      months: 6,
      on: "2027-03-05",
      last: "2026-09-03",
    };
    expect(dueWords(due, FROM, "metric")).toMatch(/^due Fri 5 Mar: every 6 months, last done 3 Sept? 2026\.$/);
    expect(dueWords({ ...due, on: "2027-02-20" }, FROM, "metric")).toMatch(/^was due Sat 20 Feb/);
    expect(dueWords({ ...due, because: "unknown" }, FROM, "metric")).toMatch(/Nobody noted/);
    expect(dueWords({ ...due, because: "passed" }, FROM, "metric")).toMatch(/chlorine was found behind it/);
  });
  test("a check of the cartridges says whatever was read, standing and running apart", () => {
    expect(cartridgeWords({ before: 340, behind: 295 }, "metric")).toBe("45 kPa across the sediment cartridge");
    expect(cartridgeWords({ before: 340, standing: 410 }, "metric")).toBe(
      "340 kPa before it, running; 410 kPa standing",
    );
    expect(cartridgeWords({ behind: 200, chlorine: 0.1 }, "us")).toMatch(
      /psi behind it, running; 0\.1 mg\/L of chlorine/,
    );
  });
});

describe("resin out of bags", () => {
  const bag = (id: string, left: number, share: number): BagInStock =>
    ({
      bag: { id, name: id, form: "loose", grade: "virgin", litres: 25, boughtOn: FROM, packing: "foil", warm: false },
      ...{ left, taken: [] },
      worth: {
        share: { low: share, typical: share, high: share },
        sealedAs: "sealed-foil",
        closedAs: "rolled-or-zip",
        openMonths: 0,
      },
    }) as never;
  const stock = [bag("a", 8, 0.9), bag("b", 25, 1)];
  const FILL = { grade: "virgin", resinLitres: 11.5 } as const;
  const portions = portionsIn({ fromBags: "typed", bag_a: "8", bag_b: "3.5" }, stock, FILL, "metric");
  test("is as proposed for whatever goes in, or nothing at all", () => {
    const ask = (fromBags: string, resinLitres: number) =>
      portionsIn({ fromBags }, stock, { ...FILL, resinLitres }, "metric");
    expect(ask("proposed", 6)).toEqual([{ bagId: "a", litres: 6 }]);
    expect(ask("proposed", 10)).toEqual([
      { bagId: "a", litres: 8 },
      { bagId: "b", litres: 2 },
    ]);
    expect(ask("none", 6)).toEqual([]);
  });
  test("is what stands in the boxes, and the charge says whose it is and how old", () => {
    expect(portions).toEqual([
      { bagId: "a", litres: 8 },
      { bagId: "b", litres: 3.5 },
    ]);
    expect(withBags({ resinLitres: 11.5 }, portions, stock)).toMatchObject({ from: portions, stored: { warm: false } });
    expect(
      withBags({ resinLitres: 11.5, stored: { container: "left-open", months: 1, warm: false } }, [], stock).from,
    ).toBeUndefined();
  });
  test("a sealed bag is open from its first refill on, and sealed again where that refill never was", () => {
    const sealed = { ...stock[1]!.bag, version: 1, voided: false } as never;
    const opened = openedSteps([{ bagId: "b", litres: 3 }], [sealed], "2027-03-04");
    expect(opened).toMatchObject([
      { does: "change", kind: "bags", body: { openedOn: "2027-03-04", closed: "rolled-or-zip" } },
    ]);
    const open = {
      ...stock[1]!.bag,
      openedOn: "2027-03-04",
      closed: "rolled-or-zip",
      version: 2,
      voided: false,
    } as never;
    expect(openedSteps([{ bagId: "b", litres: 3 }], [open], "2027-03-09")).toEqual([]);
    const charge = { id: "c", from: [{ bagId: "b", litres: 3 }] } as never;
    const [back] = sealedSteps(charge, [charge], [open], "2027-03-04");
    expect((back as { body: object }).body).not.toHaveProperty("openedOn");
    const other = { id: "d", from: [{ bagId: "b", litres: 1 }] } as never;
    expect(sealedSteps(charge, [charge, other], [open], "2027-03-04")).toEqual([]);
  });
  test("more than a bag holds is asked about, more than goes in is refused", () => {
    const ask = (a: string, resinLitres: number, right = "") =>
      bagComplaints(
        portionsIn({ fromBags: "typed", bag_a: a }, stock, FILL, "metric"),
        stock,
        { resinLitres },
        right,
        "metric",
      ).map(({ message }) => message);
    expect(ask("8", 11.5)).toEqual([]);
    expect(ask("10", 11.5)[0]).toMatch(/By the count a holds 8 L/);
    expect(ask("10", 11.5, JSON.stringify([{ bagId: "a", litres: 10 }]))).toEqual([]);
    expect(ask("12", 8)[0]).toMatch(/The bags give 12 L, and 8 L go in/);
  });
});

test("a camera reads a label's code, at the size that a small label has", () => {
  const address = "https://bead.example/weeks/bag?id=0194b000-0000-7000-8000-000000000001";
  const { size, data } = create(address, { errorCorrectionLevel: "M" }).modules;
  const [quiet, scale] = [4, 3];
  const side = (size + 2 * quiet) * scale;
  const pixels = new Uint8ClampedArray(4 * side * side).fill(255);
  for (let y = 0; y < side; y += 1)
    for (let x = 0; x < side; x += 1) {
      const [column, row] = [Math.floor(x / scale) - quiet, Math.floor(y / scale) - quiet];
      const isDark = column >= 0 && row >= 0 && column < size && row < size && data[row * size + column];
      if (isDark) pixels.set([0x10, 0x24, 0x30], 4 * (y * side + x));
    }
  expect(jsQR(pixels, side, side)?.data).toBe(address);
});

test("what was opened of a day is open still when a newer answer took it off the screen and brought it back", () => {
  const shown = (key: string) => renderHook(() => useOpened(key));
  const first = shown("2027-03-04 proposed");
  act(() => first.result.current[1]("days"));
  first.unmount();
  const again = shown("2027-03-04 proposed");
  expect([again.result.current[0], shown("2027-03-04 set").result.current[0]]).toEqual(["days", undefined]);
  act(() => again.result.current[1](undefined));
  again.unmount();
  expect(shown("2027-03-04 proposed").result.current[0]).toBeUndefined();
});
