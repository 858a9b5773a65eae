import { runs } from "./runs";
import fc from "fast-check";
import { FeedHistory } from "../src/run/feed-history";
import {
  addDays,
  chargeLedgers,
  depletion,
  depletionDays,
  LONGEST_DAYS,
  chanceOfRunningOutBefore,
  feedAt,
  loadUsed,
  orderBy,
  ownCapacity,
  registerDifference,
  unwrap,
  type Charge,
  type DepletionInput,
  type Meter,
  type Rig,
  type Tap,
  type Visit,
} from "../src/index";

describe("a water meter is a register", () => {
  test("only differences count, and it may roll over", () => {
    expect(unwrap(registerDifference(1200, 1310))).toBe(110);
    expect(unwrap(registerDifference(99_980, 40, 100_000))).toBe(60);
  });
  test("a total that fell is asked about", () => {
    const fell = registerDifference(1310, 1200);
    expect(fell.ok ? "" : fell.fault.message).toMatch(/replaced/);
  });
});

describe("the load used", () => {
  const use = (quality: "metered" | "timed" | "guessed") => ({ litres: 100, quality, feedEc25: 400, feedSd: 0 });
  test("is litres times the feed they had", () =>
    expect(loadUsed([use("metered"), { ...use("metered"), feedEc25: 200 }]).meq).toBe(600));
  test("errors of one kind move together, so many guesses are no better than one", () => {
    expect(loadUsed([use("guessed")]).sd).toBeCloseTo(0.3, 12);
    expect(loadUsed(Array.from({ length: 9 }, () => use("guessed"))).sd).toBeCloseTo(0.3, 12);
    expect(loadUsed([use("timed"), use("guessed")]).sd).toBeCloseTo(Math.hypot(0.075, 0.15), 12);
  });
  test("takes the feed between two readings in time, the last one after them", () => {
    const readings = [
      { at: 0, ec25: 300 },
      { at: 10, ec25: 400 },
    ];
    expect([feedAt(readings, -5), feedAt(readings, 5), feedAt(readings, 99), feedAt([], 0)]).toEqual([
      300,
      350,
      400,
      undefined,
    ]);
  });
});

describe("years of readings at one tap", () => {
  const day = 86_400_000;
  const visit = (i: number) => ({
    ...{ id: `v${i}`, rigId: "rig", tapId: "tap", at: new Date(i * day).toISOString() },
    readings: [{ id: `r${i}`, point: "feed" as const, scale: "ec" as const, value: 300 + (i % 7) }],
  });
  const tap = { id: "tap", siteId: "s", name: "Tap", low: 280, typical: 300, high: 330, scale: "ec" as const };
  const rig = {
    ...{ id: "rig", name: "Van", use: "glass" as const, tapId: "tap", flow: 3, jobName: "house", litresPerJob: 60 },
    stages: [{ id: "stage", kind: "resin" as const }],
  };
  const history = (days: readonly number[]) =>
    new FeedHistory({ rig, taps: new Map([["tap", tap]]), meters: new Map(), visits: days.map(visit) });

  test("are found wherever they lie: the value of the day, a line between two, and whether one is near", () => {
    const years = history(Array.from({ length: 1500 }, (_, i) => i));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1499 }), (i) => expect(years.at("tap", i * day)).toBe(300 + (i % 7))),
    );
    const sparse = history([0, 100, 200]);
    expect(sparse.at("tap", 150 * day)).toBeCloseTo((302 + 304) / 2, 9);
    const near = (at: number) => sparse.readNear("tap", at * day);
    expect([near(-31), near(-30), near(30), near(31), near(70), near(169), near(230), near(231)]).toEqual([
      false,
      true,
      true,
      false,
      true,
      false,
      true,
      false,
    ]);
  });
});

describe("own capacity", () => {
  test("narrows with every charge that reached its limit", () => {
    const charge = { capacity: 0.5, ended: "limit" as const, water: "metered" as const };
    const widths = [0, 1, 4].map((count) => {
      const { low, high } = unwrap(ownCapacity({ grade: "virgin", charges: Array(count).fill(charge) }));
      return high / low;
    });
    expect(widths[1]!).toBeLessThan(widths[0]!);
    expect(widths[2]!).toBeLessThan(widths[1]!);
  });
  test("a charge changed early only says that the resin holds more", () => {
    const after = (capacity: number) =>
      unwrap(ownCapacity({ grade: "virgin", charges: [{ capacity, ended: "early", water: "metered" }] })).median;
    expect(after(0.05)).toBeCloseTo(0.56, 3);
    expect(after(0.7)).toBeGreaterThan(0.6);
  });
  test("stays finite however strange the charges", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            capacity: fc.double({ min: 1e-6, max: 5, noNaN: true }),
            ended: fc.constantFrom("limit" as const, "early" as const),
            water: fc.constantFrom("metered" as const, "guessed" as const),
          }),
          { maxLength: 30 },
        ),
        (charges) => {
          const { low, median, high } = unwrap(ownCapacity({ grade: "dyed", charges, inUse: { capacity: 5 } }));
          expect(low <= median && median <= high && Number.isFinite(high) && low > 0).toBe(true);
        },
      ),
      { numRuns: runs(60) },
    );
  });
});

describe("the ledger of a rig", () => {
  const rig: Rig = {
    id: "rig",
    name: "Van",
    use: "glass",
    tapId: "tap",
    flow: 3,
    stages: [{ id: "stage", kind: "resin" }],
    jobName: "house",
    litresPerJob: 60,
  };
  const tap: Tap = { id: "tap", siteId: "site", name: "Yard", low: 80, typical: 100, high: 130, scale: "nacl" };
  const meter: Meter = { id: "meter", name: "Pocket", scale: "nacl", compensated: true };
  const charge = (id: string, day: number, more: Partial<Charge> = {}): Charge => ({
    id,
    vesselId: "vessel",
    rigId: "rig",
    grade: "virgin",
    resinLitres: 10,
    packing: "settled",
    filledAt: at(day),
    ...more,
  });
  const at = (day: number) => new Date(Date.UTC(2027, 2, day, 9)).toISOString();
  const visit = (
    day: number,
    water?: Visit["water"],
    readings: readonly ["feed" | "output", number][] = [],
  ): Visit => ({
    id: `v${day}`,
    rigId: "rig",
    tapId: "tap",
    at: at(day),
    ...(water ? { water } : {}),
    readings: readings.map(([point, value], i) => ({ id: `r${day}${i}`, point, value, meterId: "meter" })),
  });
  const ledgers = (visits: readonly Visit[], charges: readonly Charge[], changed: Partial<Meter> = {}) =>
    chargeLedgers({
      rig,
      taps: new Map([["tap", tap]]),
      meters: new Map([["meter", { ...meter, ...changed }]]),
      visits,
      charges,
    });
  const total = (value: number) => ({ by: "total" as const, total: value });

  test("counts meter totals from the filling on, mixed with timed days once only", () => {
    const [ledger] = ledgers(
      [visit(2, total(1100)), visit(3, { by: "timed", minutes: 10, flow: 3 }), visit(4, total(1230))],
      [charge("a", 1, { startTotal: 1000 })],
    );
    expect(ledger!.lines.map((line) => line.litres)).toEqual([100, 30, 100]);
  });
  test("gives what ran between the last visit and the refill to the old charge", () => {
    const [old, fresh] = ledgers(
      [visit(2, total(1100)), visit(5, total(1250))],
      [charge("a", 1, { startTotal: 1000, ended: { at: at(4), why: "limit" } }), charge("b", 4, { startTotal: 1180 })],
    );
    expect(old!.lines.map((line) => line.litres)).toEqual([100, 80]);
    expect(fresh!.lines[0]!.litres).toBe(70);
  });
  test("gives water that was logged at the very end to the old charge", () => {
    const jobs = { by: "jobs" as const, jobs: 1, litresPerJob: 60 };
    const [old, fresh] = ledgers(
      [visit(4, jobs), visit(5, jobs)],
      [charge("a", 1, { ended: { at: at(4), why: "limit" } }), charge("b", 4)],
    );
    expect([old!, fresh!].map(({ lines }) => lines.map(({ visit: of }) => of?.id))).toEqual([["v4"], ["v5"]]);
  });
  test("says so when a total fell, and goes on from a new meter", () => {
    const [ledger] = ledgers(
      [visit(2, total(900)), visit(3, total(950)), visit(4, { by: "total", total: 20, replaced: true })],
      [charge("a", 1, { startTotal: 1000 })],
    );
    expect(ledger!.lines[0]!.trouble).toMatch(/below the last/);
    expect(ledger!.lines.slice(1).map((line) => line.litres)).toEqual([50, 20]);
  });
  test("uses the tap's own range until somebody reads the feed", () => {
    const [ledger] = ledgers(
      [
        visit(2, { by: "jobs", jobs: 2, litresPerJob: 60 }),
        visit(3, { by: "jobs", jobs: 1, litresPerJob: 60 }, [["feed", 120]]),
      ],
      [charge("a", 1)],
    );
    expect(ledger!.lines[1]!).toMatchObject({ litres: 60, quality: "guessed", feedEc25: 240, feedSd: 0 });
    const [unread] = ledgers([visit(2, { by: "jobs", jobs: 2, litresPerJob: 60 })], [charge("a", 1)]);
    expect(unread!.lines[0]!.feedEc25).toBe(200);
    expect(unread!.lines[0]!.feedSd).toBeCloseTo(50 / 2.563 / 100, 4);
    const [gone] = ledgers([{ ...visit(2, total(1100)), tapId: "gone" }], [charge("a", 1)]);
    expect(gone!.lines[0]!.feedSd).toBe(0.2);
  });
  test("reads its whole history by a meter's corrected scale", () => {
    const output = (changed: Partial<Meter>) =>
      ledgers([visit(2, total(1100), [["output", 7]])], [charge("a", 1, { startTotal: 1000 })], changed)[0]!.outputs[0]!
        .ec25;
    expect(output({})).toBe(14);
    expect(output({ scale: "442" })).toBe(10);
  });
});

describe("the date the limit falls", () => {
  const steady: DepletionInput = {
    capacityLeft: { low: 1000, median: 1000, high: 1000 },
    daily: [100, 100, 100, 100, 100, 0, 0].map((mean) => ({ mean, sd: 0 })),
    load: { low: 1, typical: 1, high: 1 },
    start: "2027-03-01",
  };
  test("is the day the litres run out, the start day counting", () =>
    expect(unwrap(depletion(steady))).toEqual({ early: "2027-03-12", likely: "2027-03-12", late: "2027-03-12" }));
  test("comes no later when twice the work is done", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.double({ min: 1, max: 2, noNaN: true }), (seed, spread) => {
        const input: DepletionInput = {
          ...steady,
          seed,
          paths: 200,
          capacityLeft: { low: 1000 / spread, median: 1000, high: 1000 * spread },
          daily: steady.daily.map(({ mean }) => ({ mean, sd: mean / 5 })),
        };
        const twice = { ...input, daily: input.daily.map(({ mean, sd }) => ({ mean: 2 * mean, sd: 2 * sd })) };
        const [once, more] = [unwrap(depletion(input)), unwrap(depletion(twice))];
        expect(more.likely <= once.likely && once.early <= once.likely && once.likely <= once.late).toBe(true);
      }),
      { numRuns: runs(30) },
    );
  });
  test("goes by weeks after the first months and still meets the day", () => {
    const capacityLeft = { low: 23_400, median: 23_400, high: 23_400 };
    const exact = unwrap(depletion({ ...steady, capacityLeft }));
    expect(exact.likely).toBe(addDays("2027-03-01", 46 * 7 + 3));
    const noisy = { ...steady, capacityLeft, daily: steady.daily.map(({ mean }) => ({ mean, sd: mean / 2 })) };
    const { early, likely, late } = unwrap(depletion(noisy));
    const days = (iso: string) => (Date.parse(iso) - Date.parse("2027-03-01")) / 86_400_000;
    expect(Math.abs(days(likely) - 46.7 * 7)).toBeLessThan(8);
    expect(days(late) - days(early)).toBeGreaterThan(10);
    expect(days(late) - days(early)).toBeLessThan(40);
  });
  test("counts what a day really takes, also in weeks: a use that is nothing half of the time", () => {
    const daily = Array.from({ length: 7 }, () => ({ mean: 0, sd: 100 }));
    const litres = (300 * 100) / Math.sqrt(Math.PI / 2) / 2; // half of a half-normal's mean, a day, for 300 days
    const capacityLeft = { low: litres, median: litres, high: litres };
    const { likely } = unwrap(depletion({ ...steady, daily, capacityLeft }));
    expect(Math.abs((Date.parse(likely) - Date.parse("2027-03-01")) / 86_400_000 - 300)).toBeLessThan(8);
  });
  test("is told up to five years and not beyond", () => {
    const daily = Array.from({ length: 7 }, () => ({ mean: 100, sd: 0 }));
    const lasting = (days: number) => {
      const litres = 100 * days;
      return depletion({ ...steady, daily, capacityLeft: { low: litres, median: litres, high: litres } });
    };
    expect(unwrap(lasting(1_800)).likely).toBe(addDays("2027-03-01", 1_799));
    expect(lasting(1_850).ok).toBe(false);
  });
  test("ends at five years, whatever comes in", () => {
    const endless = { low: 1e-9, median: 100, high: 1e9 };
    const days = unwrap(depletionDays({ ...steady, capacityLeft: endless, paths: 100_000 }));
    expect(days[days.length - 1]).toBe(LONGEST_DAYS);
    expect(unwrap(depletion({ ...steady, capacityLeft: endless })).early).toBe("2027-03-01");
    const never = depletion({ ...steady, capacityLeft: { low: 1e8, median: 1e8, high: 1e8 } });
    expect(never.ok ? "" : never.fault.message).toContain("more than five years");
  });
  test("is the same for the same seed", () => {
    const wide = { ...steady, capacityLeft: { low: 700, median: 1000, high: 1500 }, seed: 9 };
    expect(depletion(wide)).toEqual(depletion(wide));
  });
  test("tells when to order and how likely the resin runs out before a booked day", () => {
    expect(orderBy("2027-03-12", 3)).toBe("2027-03-09");
    const days = unwrap(depletionDays(steady));
    expect([chanceOfRunningOutBefore(days, 11), chanceOfRunningOutBefore(days, 12)]).toEqual([0, 1]);
  });
});
