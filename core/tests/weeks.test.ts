import fc from "fast-check";
import {
  addDays,
  bookedPace,
  knownWork,
  unbookedShare,
  learn,
  lessonsOf,
  unwrap,
  weekdayOf,
  workStanding,
  type Appointment,
  type Booking,
  type Prices,
  type Rig,
} from "../src/index";
import {
  calendarEvents,
  declinedWeekdays,
  DEFAULT_PRICES,
  earlyAgainstLate,
  explainDay,
  explainOdds,
  firstShortDay,
  forecast,
  oddsWords,
  openAppointments,
  ownEventId,
  proposeWeeks,
  refillMinutes,
  weeksAhead,
  workBetween,
  workOn,
  type CrewRecords,
  type ForecastInput,
  type VesselWork,
} from "../src/weeks";
import { RANGE_10_90_IN_SD } from "../src/numerics/quantile";
import { expectTrue } from "./explained";
import { chargeOf, clean, factsOf, hungIn, type Told } from "./told";

/** What is worked out once, however often it is asked for. */
function once<A>(work: () => A): () => A {
  let known: { readonly answer: A } | undefined;
  return () => (known ??= { answer: work() }).answer;
}

const booking = (on: string, booked: Booking["booked"], more: Partial<Booking> = {}): Booking => ({
  ...{ id: `b${on}${JSON.stringify(booked)}`, rigId: "rig", on, booked },
  ...more,
});
const van: Rig = factsOf({ outputs: [] }).rig;
const WEEK = { monday: 4, tuesday: 4, wednesday: 3, thursday: 4, friday: 2, saturday: 0, sunday: 0 };
const winter = { id: "w", rigId: "rig", from: "2026-11-01", until: "2027-03-31", jobs: WEEK };

describe("what is known of a day's work", () => {
  const book = {
    bookings: [
      booking("2027-03-04", { by: "jobs", jobs: 2 }),
      booking("2027-03-04", { by: "jobs", jobs: 1, jobName: "first clean", litresEach: 95 }),
      booking("2027-03-05", { by: "litres", litres: 240 }),
      booking("2027-03-26", { by: "off" }),
    ],
    usualWeeks: [winter],
    daysOff: [{ id: "o", from: "2027-03-08", until: "2027-03-10", name: "Fair" }],
  };
  test("is its bookings, all of them; a job of its own kind takes its own water", () => {
    expect(workOn("2027-03-04", van, book)).toMatchObject({ litres: 2 * 40 + 95, jobs: 3, from: "bookings" });
    expect(workOn("2027-03-05", van, book)).toMatchObject({ litres: 240, jobs: 6 });
    expect(workOn("2027-03-26", van, book)).toMatchObject({ litres: 0, from: "bookings" });
  });
  test("else a day off, else the season's usual week, else nothing", () => {
    expect(workOn("2027-03-09", van, book)).toMatchObject({ litres: 0, from: "day-off" });
    expect(workOn("2027-03-12", van, book)).toMatchObject({ litres: 80, from: "usual-week" });
    expect(workOn("2027-04-01", van, book)).toBeUndefined();
    expect(workOn("2027-03-12", { ...van, id: "other" }, book)).toBeUndefined();
  });
  test("of two seasons that cover a day the one that began last counts", () => {
    const fair = { ...winter, id: "f", from: "2027-03-01", until: "2027-03-14", jobs: { ...WEEK, friday: 9 } };
    expect(workOn("2027-03-12", van, { ...book, usualWeeks: [fair, winter] })?.jobs).toBe(9);
  });
});

/** A vessel with so many clean visits of 100 L behind it. */
function inputOf(told: Told, more: Partial<ForecastInput> = {}): ForecastInput {
  const facts = factsOf(told);
  const owner = learn(lessonsOf(facts), facts.vessel.id);
  return {
    ...{ rig: facts.rig, vessel: facts.vessel, owner, today: facts.today, work: [] },
    worked: unwrap(workStanding(facts, owner)),
    filling: { grade: "virgin", resinLitres: 11.5, packing: "settled" },
    ...more,
  };
}
const asVessel = (told: Told, more: Partial<VesselWork> = {}): VesselWork => ({
  ...inputOf(told),
  minutes: { minutes: 10, of: 0 },
  appointments: [],
  ...more,
});

describe("a vessel day by day", () => {
  test("has less each evening, and the odds that it runs out only grow", () => {
    const { days } = forecast(inputOf({ outputs: clean(8) }));
    for (let i = 1; i < days.length; i += 1) {
      expect(days[i]!.left.typical).toBeLessThanOrEqual(days[i - 1]!.left.typical);
      expect(days[i]!.outBy).toBeGreaterThanOrEqual(days[i - 1]!.outBy);
      expect(days[i]!.outBefore).toBe(days[i - 1]!.outBy);
      expectTrue(explainOdds(days[i]!));
    }
    expect(days[days.length - 1]!.outBy).toBeGreaterThan(0.9);
  });
  test("keeps what a day off saves, and loses what a large booking takes", () => {
    const told = { outputs: clean(8) };
    const { today } = inputOf(told);
    const at = addDays(today, 2);
    const known = (bookings: readonly Booking[]) =>
      forecast(
        inputOf(told, { work: workBetween(today, addDays(today, 30), van, { bookings, usualWeeks: [], daysOff: [] }) }),
      );
    const [plain, off, full] = [
      known([]),
      known([booking(at, { by: "off" })]),
      known([booking(at, { by: "litres", litres: 600 })]),
    ];
    expect(off.days[2]!.left.typical).toBeGreaterThan(plain.days[2]!.left.typical + 50);
    expect(full.days[2]!.left.typical).toBeLessThan(plain.days[2]!.left.typical - 350);
    expect(full.days[2]!.litres).toBe(600);
  });
  test("is fresh on the day of its refill and counts from there", () => {
    const input = inputOf({ outputs: clean(12) });
    const on = addDays(input.today, 5);
    const { days, fresh } = forecast({ ...input, refills: [{ on, filling: input.filling }] });
    expect(days[5]).toMatchObject({ refilled: true, outBefore: expect.any(Number) as number });
    expect(days[5]!.outBy).toBeLessThan(days[4]!.outBy + 1e-9);
    expect(days[6]!.left.typical).toBeGreaterThan(0.7 * fresh.typical);
    expect(days[20]!.left.typical).toBeLessThan(days[6]!.left.typical);
  });
  test("lasts longer with less water a job, and a filled spare takes the first shortage away", () => {
    const input = inputOf({ outputs: clean(12) });
    const short = (whatIf: ForecastInput["whatIf"]) => {
      const { days } = forecast({ ...input, ...(whatIf ? { whatIf } : {}) });
      return days.findIndex((day) => day.outBy >= 0.5);
    };
    const plain = short(undefined);
    expect(short({ waterShare: 0.6 })).toBeGreaterThan(plain);
    const spared = short({ spare: true });
    expect(spared === -1 || spared > plain + 10).toBe(true);
  });
  test("agrees with its dates: the day of even odds is the likely one", () => {
    const { days } = forecast(inputOf({ outputs: clean(10) }));
    const even = days.find((day) => day.outBy >= 0.5)!.on;
    const facts = factsOf({ outputs: clean(10) });
    const { dates } = weeksAhead(recordsOf({ outputs: clean(10) }), { now: facts.now, dateOf: facts.dateOf }).rigs[0]!;
    expect(Math.abs(Date.parse(even) - Date.parse(dates!.likely))).toBeLessThanOrEqual(2 * 86_400_000);
  });
});

test.each([
  [0.34, "1 in 3"],
  [0.5, "1 in 2"],
  [0.66, "2 in 3"],
  [0.75, "3 in 4"],
  [0.06, "1 in 15"],
  [0.99, "almost surely"],
  [0.002, "less than 1 in 100"],
])("a chance of %s is spoken as %s", (chance, words) => expect(oddsWords(chance)).toBe(words));

describe("the plan for the weeks", () => {
  const told = { outputs: clean(14), litresPerJob: 40 };
  const today = factsOf(told).today;
  const propose = (appointments: readonly Appointment[] = [], prices: Prices = DEFAULT_PRICES) =>
    proposeWeeks({ today, days: 35, vessels: [asVessel(told, { appointments })], dues: [], appointments, prices });
  const refillDay = (plan: ReturnType<typeof propose>) =>
    plan.days.find(({ tasks }) => tasks[0]!.task === "refill")!.on;
  const plain = once(propose);

  test("refills before it runs out, on the day that costs least, and says so in money", () => {
    const plan = plain();
    const [first] = plan.days;
    const task = first!.tasks[0]!;
    const sums = task.costs.map(({ early, late, time }) => early + late + time);
    const { here, next } = earlyAgainstLate(task)!;
    expect(here.early + here.late + here.time).toBeCloseTo(Math.min(...sums), 9);
    expect(next!.late).toBeGreaterThan(here.late);
    expect(here.outBefore).toBeLessThan(0.15);
    expectTrue(explainDay(task, { currency: "EUR" })!);
    expect(plan.with.get("rig")!.days.every((day) => day.outBy < 0.5)).toBe(true);
    expect(plan.without.get("rig")!.days.some((day) => day.outBy > 0.9)).toBe(true);
  });
  test("comes earlier the dearer a spoilt job is, and later the dearer the resin", () => {
    const dearJobs = { ...DEFAULT_PRICES, spoiltJob: 900 };
    const dearResin = { ...DEFAULT_PRICES, resin: { ...DEFAULT_PRICES.resin, virgin: 90 } };
    const dear = refillDay(propose([], dearJobs));
    expect(dear <= refillDay(plain())).toBe(true);
    expect(dear < refillDay(propose([], dearResin))).toBe(true);
  });
  const said = (on: string, answer: Appointment["answer"]): Appointment => ({
    ...{ id: `${answer}${on}`, task: "refill", rigId: "rig", on, answer, answeredAt: `${today}T08:00:00.000Z` },
  });
  test("keeps a day that was accepted, and looks for another where one was declined", () => {
    const proposed = refillDay(plain());
    const other = addDays(proposed, -3);
    const taken = propose([said(other, "accepted")]);
    expect(refillDay(taken)).toBe(other);
    expect(taken.days[0]!.accepted).toBe(true);
    expect(refillDay(propose([said(proposed, "declined")]))).not.toBe(proposed);
  });
  test("leaves a weekday alone that was declined again and again", () => {
    const sundays = ["2027-01-03", "2027-01-10", "2027-01-17"].map((on) => said(on, "declined"));
    expect([...declinedWeekdays(sundays.slice(0, 1))]).toEqual([]);
    expect([...declinedWeekdays(sundays.slice(0, 2))]).toEqual([6]);
    expect([...declinedWeekdays(sundays)]).toEqual([6]);
    expect([
      ...declinedWeekdays([
        ...sundays,
        ...["2027-01-24", "2027-01-31", "2027-02-07"].map((on) => said(on, "accepted")),
      ]),
    ]).toEqual([]);
    for (const { on } of propose(sundays).days) expect(weekdayOf(on)).not.toBe(6);
  });
  test("puts upkeep and refill on one day where that saves the way", () => {
    const proposed = refillDay(plain());
    const due = {
      task: "sediment" as const,
      rigId: "rig",
      on: addDays(proposed, 1),
      because: "months" as const,
      months: 6,
    };
    const plan = proposeWeeks({
      today,
      days: 35,
      vessels: [asVessel(told)],
      dues: [due],
      appointments: [],
      prices: DEFAULT_PRICES,
    });
    const day = plan.days.find(({ tasks }) => tasks.some(({ task }) => task === "sediment"))!;
    expect(day.tasks.map(({ task }) => task).sort()).toEqual(["refill", "sediment"]);
    expect(day.minutes).toBe(20);
    for (const task of day.tasks) expectTrue(explainDay(task, { currency: "EUR" })!);
  });
  test("never sets two refills of a vessel for one day", () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 18 }), fc.integer({ min: 60, max: 400 }), (visits, litres) => {
        const vessel = asVessel({ outputs: clean(visits), litres });
        const plan = proposeWeeks({
          ...{ today: factsOf({ outputs: clean(visits) }).today, days: 28, vessels: [vessel], dues: [] },
          ...{ appointments: [], prices: DEFAULT_PRICES },
        });
        const days = plan.days.map(({ on }) => on);
        expect(new Set(days).size).toBe(days.length);
        for (const { tasks } of plan.days) expect(tasks).toHaveLength(1);
      }),
      { numRuns: 5 },
    );
  });
});

describe("the plan's figures, worked by hand", () => {
  test("upkeep: the unused share of part and work, 3 % of both a day too late, the way of a quarter of an hour", () => {
    const due = { task: "sediment" as const, rigId: "rig", on: "2027-03-11", because: "months" as const, months: 6 };
    const { days } = proposeWeeks({
      ...{ today: "2027-03-01", days: 20, vessels: [], dues: [due], appointments: [] },
      prices: { ...DEFAULT_PRICES, wage: 30 },
    });
    const { costs, minutes } = days[0]!.tasks[0]!;
    // A cartridge of 10 and ten minutes at 30 an hour are 15; six months are 182.6 days; (10 + 15) minutes are 12.50.
    expect(minutes).toBe(10);
    expect(costs[0]).toMatchObject({ unused: 10, overdue: 0, late: 0, time: 12.5 });
    expect(costs[0]!.early).toBeCloseTo(0.8214, 4);
    expect(costs[14]).toMatchObject({ early: 0, overdue: 4 });
    expect(costs[14]!.late).toBeCloseTo(1.8, 9);
    expect(days[0]!.on).toBe("2027-03-11");
  });
  test("a refill: its share of resin and work, a job done again at 30, and minutes twice as dear on a full day", () => {
    const told = { outputs: clean(14), litresPerJob: 40 };
    const plan = proposeWeeks({
      ...{ today: factsOf(told).today, days: 35, vessels: [asVessel(told)], dues: [], appointments: [] },
      prices: DEFAULT_PRICES,
    });
    const task = plan.days[0]!.tasks[0]!;
    const { typical: fresh } = plan.without.get("rig")!.fresh;
    for (const { unused, overdue, full, early, late, time } of task.costs) {
      expect(early).toBeCloseTo((unused / fresh) * (11.5 * 9 + 5), 9);
      expect(late).toBeCloseTo((overdue * 30) / 40, 9);
      expect(time).toBeCloseTo(12.5 * (1 + full), 9);
    }
    // It is looked at until a day after it has run out as likely as not.
    const even = plan.without.get("rig")!.days.findIndex(({ outBy }) => outBy >= 0.5);
    expect(task.costs).toHaveLength(even + 2);
    expect(Math.max(...task.costs.map(({ full }) => full))).toBe(1);
  });
  test("another refill goes before an accepted one from a risk of one in four on", () => {
    const told = { outputs: clean(14) };
    const { days } = forecast(inputOf(told));
    const refillsWith = (on: string) => {
      const set: Appointment = {
        ...{ id: "a", task: "refill", rigId: "rig", on, answer: "accepted" },
        answeredAt: `${days[0]!.on}T08:00:00.000Z`,
      };
      const { days: planned } = proposeWeeks({
        ...{ today: days[0]!.on, days: 35, vessels: [asVessel(told, { appointments: [set] })], dues: [] },
        ...{ appointments: [set], prices: DEFAULT_PRICES },
      });
      return planned.filter(({ on: day }) => day < on).length;
    };
    // The day that first comes to it, and the one before.
    const at = days.findIndex(({ outBy }) => outBy >= 0.25);
    expect([days[at - 1]!.outBy, days[at]!.outBy]).toEqual([expect.closeTo(0.2, 1), expect.closeTo(0.3, 1)]);
    expect([refillsWith(days[at]!.on), refillsWith(days[at + 1]!.on)]).toEqual([0, 1]);
  });
  test("the middle of what is left falls by the water to be expected, and one in twenty is marked", () => {
    const { days } = forecast(inputOf({ outputs: clean(3) }));
    const expected = days.slice(1, 8).reduce((sum, { litres }) => sum + litres, 0);
    const fell = days[0]!.left.typical - days[7]!.left.typical;
    expect(Math.abs(fell / expected - 1)).toBeLessThan(0.12);
    const day = (outBy: number, litres = 100) => ({ ...days[0]!, outBy, litres });
    expect(firstShortDay([day(0.049), day(0.3, 0), day(0.05), day(0.9)])!.outBy).toBe(0.05);
  });
});

describe("minutes of a refill", () => {
  const charge = (minutes: number | undefined, i: number) => ({
    ...chargeOf({}),
    id: `c${i}`,
    filledAt: `2027-01-${String(i + 1).padStart(2, "0")}T08:00:00.000Z`,
    ...(minutes === undefined ? {} : { minutes }),
  });
  test("are the middle of the last ten that say it, else the usual figure", () => {
    expect(refillMinutes([charge(undefined, 0)], 10)).toEqual({ minutes: 10, of: 0 });
    expect(refillMinutes([charge(20, 0), charge(30, 1), charge(undefined, 2)], 10)).toEqual({ minutes: 25, of: 2 });
    const many = [...Array<number>(5).fill(90), ...Array<number>(10).fill(25)].map(charge);
    expect(refillMinutes(many, 10)).toEqual({ minutes: 25, of: 10 });
  });
});

/** A crew of one told rig. */
function recordsOf(told: Told, more: Partial<CrewRecords> = {}): CrewRecords {
  const facts = factsOf(told);
  return {
    ...{
      rigs: [facts.rig],
      vessels: [facts.vessel],
      arrangements: [hungIn(facts)],
      taps: [...facts.taps.values()],
      meters: [...facts.meters.values()],
    },
    ...{ charges: facts.charges, visits: facts.visits, feedTests: [], reports: [], membraneChecks: [] },
    ...{
      bookings: [],
      usualWeeks: [],
      daysOff: [],
      bags: [],
      disposals: [],
      services: [],
      pressureChecks: [],
      appointments: [],
      priceLists: [],
    },
    ...more,
  };
}

describe("the weeks of a crew", () => {
  const told = { outputs: clean(12) };
  const { now, dateOf, today } = factsOf(told);
  const ahead = (more: Partial<CrewRecords>) => weeksAhead(recordsOf(told, more), { now, dateOf });
  const usually = once(() => ahead({}));

  test("say when to order: the early date less a delivery, and before the refill that is planned", () => {
    const { rigs, orders, plan } = usually();
    const [bay] = rigs;
    expect(bay!.orderBy).toBe(addDays(bay!.dates!.early, -4));
    const refill = plan.days.find(({ tasks }) => tasks.some(({ task }) => task === "refill"))!;
    expect(orders[0]!.by).toBe(addDays(refill.on, -4));
    expect(orders[0]!.lines[0]).toMatchObject({ grade: "virgin", litres: expect.closeTo(11.5, 6) as number });
  });
  test("of a train tell of its lead: when it is rotated, and dry only once all vessels are", () => {
    const facts = factsOf(told);
    const { rig, vessel } = facts;
    const [place] = hungIn(facts).places;
    const stages = [...rig.stages, { id: "second", kind: "resin" as const }];
    const lag = { ...vessel, id: "lag", name: "Lag" };
    const rigs = [{ ...rig, stages }];
    const inARow = {
      rigs,
      vessels: [vessel, lag],
      arrangements: [{ ...hungIn(facts), places: [place!, { stageId: "second", vesselId: "lag" }] }],
      charges: [...facts.charges, { ...facts.charges[0]!, id: "of the lag", vesselId: "lag" }],
    };
    const behind = once(() => ahead(inARow));
    const [alone, train] = [usually().rigs[0]!, behind().rigs[0]!];
    expect(alone.rotation).toBeUndefined();
    expect([train.rotation!.lead, train.rotation!.next]).toEqual([vessel.name, "Lag"]);
    expect(Math.abs(Date.parse(train.rotation!.dates!.likely) - Date.parse(alone.dates!.likely))).toBeLessThanOrEqual(
      2 * 86_400_000,
    );
    // A day without work: the train holds what its lead has left, and one fresh charge more (a lognormal's mean).
    const { low, typical, high } = alone.untouched.fresh;
    const freshMean = typical * Math.exp(0.5 * (Math.log(high / low) / RANGE_10_90_IN_SD) ** 2);
    const morningOf = (of: typeof alone) => of.untouched.days[0]!.morning;
    expect(Math.abs(morningOf(train) / (morningOf(alone) + freshMean) - 1)).toBeLessThan(0.05);
    expect(train.dates!.early > alone.dates!.likely).toBe(true);
    const day = (of: typeof alone) => firstShortDay(of.untouched.days)?.on ?? "9999";
    expect(day(train) > day(alone)).toBe(true);
    const [filled] = facts.charges;
    const beads = {
      cation: { ...filled!, beads: "cation" },
      anion: { ...filled!, id: "of the lag", beads: "anion" },
    } as const;
    const pair = ahead({ ...inARow, charges: [beads.cation, { ...beads.anion, vesselId: "lag" }] }).rigs[0]!;
    expect(pair.rotation).toBeUndefined();
    const refill = behind().plan.days.find(({ tasks }) => tasks.some(({ task }) => task === "refill"))!;
    expect(refill.on < day(train)).toBe(true);
  });
  test("what was seen or read of a cartridge makes it due, also at a check of which nothing else was read", () => {
    const { rig } = factsOf(told);
    const cartridges = [
      { id: "dirt", kind: "sediment" as const },
      { id: "chlorine", kind: "carbon" as const },
    ];
    const rigs = [{ ...rig, stages: [...cartridges, ...rig.stages] }];
    const at = `${today}T06:00:00.000Z`;
    const because = (more: Partial<CrewRecords>) =>
      // Without a charge: what is due of a cartridge hangs on none, and no weeks are drawn.
      Object.fromEntries(ahead({ rigs, charges: [], ...more }).dues.map((due) => [due.task, due.because]));
    const seen = (what: object) => ({ membraneChecks: [{ id: "c", rigId: "rig", at, clean: false, seen: what }] });
    const strip = (chlorine: number) => ({ pressureChecks: [{ id: "p", rigId: "rig", at, chlorine }] });
    expect(because({})).toMatchObject({ sediment: "unknown", carbon: "unknown" });
    expect(because(seen({ "sediment-old": true }))).toMatchObject({ sediment: "pressure", carbon: "unknown" });
    expect(because(seen({ "carbon-old": true }))).toMatchObject({ sediment: "unknown", carbon: "passed" });
    expect(because(strip(0.1))).toMatchObject({ sediment: "unknown", carbon: "passed" });
    expect(because(strip(0.05))).toMatchObject({ carbon: "unknown" });
    const oneGauge = [{ id: "p", rigId: "rig", at, before: 300 }];
    expect(because({ pressureChecks: oneGauge })).toMatchObject({ sediment: "unknown" });
  });
  test("a day that was booked is in the dates and in the days alike", () => {
    const usual = usually().rigs[0]!;
    const heavy = Array.from({ length: 20 }, (_, i) => booking(addDays(today, i + 1), { by: "litres", litres: 400 }));
    const full = ahead({ bookings: heavy }).rigs[0]!;
    expect(full.dates!.likely < usual.dates!.likely).toBe(true);
    expect(firstShortDay(full.untouched.days)!.on < firstShortDay(usual.untouched.days)!.on).toBe(true);
  });
  test("say why nothing can be foretold of a rig without a charge", () => {
    expect(ahead({ charges: [] }).silent).toEqual([{ rigId: "rig", because: "No charge is in use: fill the vessel." }]);
  });
  test("name what was set for a day gone by and is not done", () => {
    const set: Appointment = {
      ...{ id: "a", task: "refill", rigId: "rig", on: addDays(today, -2), answer: "accepted" },
      answeredAt: `${today}T08:00:00.000Z`,
    };
    expect(ahead({ appointments: [set] }).missed.map(({ id }) => id)).toEqual(["a"]);
    const filled = { ...chargeOf({}), filledAt: new Date(now).toISOString() };
    expect(ahead({ appointments: [set], charges: [filled] }).missed).toEqual([]);
  });
});

test("what was done since it was set is no longer set, early or on its day", () => {
  const facts = { charges: [chargeOf({})], services: [], meters: [] };
  const set = (answeredAt: string): Appointment => ({
    ...{ id: "a", task: "refill", rigId: "rig", on: "2027-04-01", answer: "accepted", answeredAt },
  });
  const filled = Date.parse(chargeOf({}).filledAt);
  expect(openAppointments([set(new Date(filled - 3_600_000).toISOString())], facts)).toEqual([]);
  expect(openAppointments([set(new Date(filled + 3_600_000).toISOString())], facts)).toHaveLength(1);
  const meter = { id: "m", name: "Pen", scale: "nacl", compensated: true, checkedOn: "2027-03-02" } as const;
  const check: Appointment = { ...set("2027-03-02T09:00:00.000Z"), task: "meter", meterId: "m", rigId: undefined };
  expect(openAppointments([check], { ...facts, meters: [meter] })).toEqual([]);
});

describe("the crew's calendar", () => {
  const { rig, meters } = factsOf({ outputs: [] });
  const appointment = (more: object): Appointment => ({
    ...({ id: "a", task: "refill", rigId: "rig", on: "2027-03-07", answer: "accepted" } as const),
    answeredAt: "2027-03-01T08:00:00.000Z",
    ...more,
  });
  const events = (appointments: readonly Appointment[], bookings: readonly Booking[] = []) =>
    calendarEvents({ rigs: [rig], meters: [...meters.values()], bookings, daysOff: [], appointments });

  test("names rig and task, keeps its ids, and tells what was taken back", () => {
    const [first] = events([appointment({ version: 1 })]);
    const [moved] = events([appointment({ version: 2, on: "2027-03-08" })]);
    const [gone] = events([appointment({ version: 3, voided: true })]);
    expect(first).toMatchObject({ title: "Refill: Bay", from: "2027-03-07", until: "2027-03-08", cancelled: false });
    expect([first!.uid, moved!.uid, gone!.uid]).toEqual(Array(3).fill(first!.uid));
    expect([first!.sequence, moved!.sequence, gone!.sequence]).toEqual([0, 1, 2]);
    expect(gone!.cancelled).toBe(true);
    expect([ownEventId(first!.uid), ownEventId("a@b")]).toEqual(["a", undefined]);
  });
  test("leaves out a day that was declined from the first, and cancels one that was declined later", () => {
    expect(events([appointment({ answer: "declined", version: 1 })])).toEqual([]);
    expect(events([appointment({ answer: "declined", version: 2 })])[0]!.cancelled).toBe(true);
  });
  test("tells of a booking whose it is and what it takes", () => {
    const [event] = events([], [booking("2027-03-04", { by: "jobs", jobs: 3 }, { name: "Row" })]);
    expect(event).toMatchObject({ title: "Bay: Row", words: "3 cars", busy: true });
    expect(events([], [booking("2027-03-04", { by: "off" })])[0]).toMatchObject({ title: "Bay: off", busy: false });
  });
});

describe("days that nobody booked, among booked ones", () => {
  const usual = [100, 100, 100, 100, 100, 0, 0];
  const free = ["2027-03-01", "2027-03-08", "2027-03-15", "2027-03-22", "2027-03-29"];
  const took = (litres: number) => free.map((date) => ({ date, litres }));
  test("take nothing where a crew books all it does, and the usual where bookings are the exception", () => {
    expect(unbookedShare([], [], usual)).toBe(1);
    expect(unbookedShare(took(0), free, usual)).toBeCloseTo(0.5, 9);
    expect(unbookedShare(took(100), free, usual)).toBe(1);
    expect(unbookedShare(took(0), Array(9).fill(free).flat() as string[], usual)).toBeCloseTo(0.1, 9);
  });
  test("count in the weeks only as far as there are bookings", () => {
    const told = { outputs: clean(10), litres: 100 };
    const facts = factsOf(told);
    const last = addDays(facts.today, 12);
    const bookings = [facts.today, addDays(facts.today, 5), last].map((on) =>
      booking(on, { by: "litres", litres: 100 }),
    );
    const known = knownWork(facts, { bookings, usualWeeks: [], daysOff: [] });
    const free_ = known.filter(({ from }) => from === "log");
    expect(free_.length).toBe(10);
    expect(free_.every(({ on }) => on < last)).toBe(true);
    expect(knownWork(facts, { bookings: [], usualWeeks: [], daysOff: [] })).toEqual([]);
  });
});

describe("what booked days really take", () => {
  const booked = Array.from({ length: 10 }, (_, i) => ({ on: addDays("2027-03-01", i), litres: 100 }));
  const drawn = (litres: number, days = 10) => booked.slice(0, days).map(({ on }) => ({ date: on, litres }));
  test("is learnt from the days that were booked and logged, slowly at first", () => {
    expect(bookedPace([], booked)).toBe(1);
    expect(bookedPace(drawn(150, 1), booked)).toBeCloseTo(1.125, 9);
    expect(bookedPace(drawn(150), booked)).toBeCloseTo(1.385, 3);
    expect(bookedPace([{ date: "2026-01-01", litres: 999 }], booked)).toBe(1);
  });
  test("moves the water of the days to come, in the weeks and on the rack alike", () => {
    const told = { outputs: clean(10), litres: 100 };
    const facts = factsOf(told);
    const half = { ...winter, jobs: { ...WEEK, monday: 1, tuesday: 1, wednesday: 1, thursday: 1, friday: 1 } };
    const book = { bookings: [], usualWeeks: [{ ...half, until: undefined }], daysOff: [] };
    const known = knownWork(facts, book);
    const monday = known.find(({ on }) => on > facts.today && weekdayOf(on) === 0)!;
    expect(monday.litres).toBeGreaterThan(80);
    expect(monday.jobs).toBe(1);
    const { rigs } = weeksAhead(recordsOf(told, book), { now: facts.now, dateOf: facts.dateOf });
    expect(rigs[0]!.untouched.days.find(({ on }) => on === monday.on)!.litres).toBeCloseTo(monday.litres, 9);
  });
});
