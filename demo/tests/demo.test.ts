import { RECORDS } from "@winter-bead/contract";
import {
  describeReport,
  membraneState,
  rigStanding,
  tapRange,
  unwrap,
  type Arrangement,
  type Charge,
  type FeedTest,
  type MembraneCheck,
  type Meter,
  type Plan,
  type PriceList,
  type Rig,
  type RigStandingInput,
  type Tap,
  type Vessel,
  type Visit,
  type WaterReport,
} from "@winter-bead/core";
import { optionFigures, planFigures, planQuestion } from "@winter-bead/core/src/sizing";
import { demoScenario } from "../src/index";

const now = new Date("2027-03-17T15:20:00Z");
const scenario = demoScenario(now);
const bodies = <T>(kind: string) =>
  scenario.filter((entry) => entry.kind === kind).map((entry) => ({ id: entry.id, ...entry.body }) as T);

test("the demo is the same for the same moment, and moves with the day", () => {
  expect(demoScenario(now)).toEqual(scenario);
  const later = demoScenario(new Date(now.getTime() + 86_400_000))
    .filter((entry) => entry.kind === "visits")
    .map((entry) => (entry.body as Visit).at)
    .sort();
  expect(later[later.length - 1]!.slice(0, 10)).toBe("2027-03-18");
});

test("every entry passes the checks that a client's would", () => {
  for (const { kind, body } of scenario) expect(RECORDS[kind].safeParse(body).error).toBeUndefined();
});

test("it spans five months, with charges ended for different reasons and three kinds of water figure", () => {
  const visits = bodies<Visit>("visits");
  const times = visits.map((visit) => Date.parse(visit.at));
  expect((Math.max(...times) - Math.min(...times)) / 86_400_000).toBeGreaterThan(145);
  expect(new Set(visits.map((visit) => visit.water?.by))).toEqual(new Set(["total", "timed", "jobs"]));
  expect(new Set(bodies<Charge>("charges").map((charge) => charge.ended?.why)).size).toBeGreaterThanOrEqual(3);
});

test("ids are unique and no id says something about another record", () => {
  const ids = scenario.map((entry) => entry.id);
  expect(new Set(ids).size).toBe(ids.length);
});

test.each(["2027-01-04", "2027-07-09", "2027-10-31", "2028-02-29"])(
  "loaded on %s one rig stands between its limit and its hard mark",
  (day) => {
    const entries = demoScenario(new Date(`${day}T14:00:00Z`));
    const bay = entries.find((entry) => entry.kind === "rigs" && (entry.body as { name: string }).name === "Bay 2")!;
    const visits = entries
      .filter((entry) => entry.kind === "visits")
      .map((entry) => entry.body as Visit)
      .filter((visit) => visit.rigId === bay.id);
    const last = visits.sort((a, b) => (a.at < b.at ? -1 : 1))[visits.length - 1]!;
    const output = (last.readings.find((reading) => reading.point === "output")!.value / 0.7) * 0.5;
    expect(output).toBeGreaterThan(10);
    expect(output).toBeLessThan(20);
  },
);

describe("the demo's water", () => {
  test("a tap tested for over a year shows its season", () => {
    const taps = bodies<{ id: string; name: string }>("taps");
    const yard = taps.find(({ name }) => name === "Yard tap")!.id;
    const tests = bodies<FeedTest>("feed-tests").filter(({ tapId }) => tapId === yard);
    const range = unwrap(tapRange(tests.map(({ at, value }) => ({ at: Date.parse(at), ec25: value / 0.5 }))));
    expect(range.season!.swing).toBeGreaterThan(0.1);
    expect(Math.abs(range.season!.peakDay - 215)).toBeLessThan(30);
  });

  test("its reports balance and agree with their conductivity", () => {
    const reports = bodies<WaterReport>("water-reports");
    expect(reports.length).toBeGreaterThanOrEqual(2);
    for (const { values } of reports) {
      const { water, conductivityAgrees } = unwrap(describeReport(values));
      expect(Math.abs(water.imbalance!)).toBeLessThan(0.05);
      expect(conductivityAgrees).toBe(true);
    }
  });

  test("its membrane loses flow from a clean start", () => {
    const checks = bodies<MembraneCheck>("membrane-checks").sort((a, b) => (a.at < b.at ? -1 : 1));
    const figures = checks.map(({ feed, product, temperature, pressure, productFlow, wasteFlow }) => ({
      ...{ feedEc25: feed!, productEc25: product!, temperature: temperature! },
      ...{ pressure: pressure!, productFlow: productFlow!, wasteFlow: wasteFlow! },
    }));
    expect(checks[0]!.clean).toBe(true);
    const shares = figures.map((each) => unwrap(membraneState(each, figures[0]!)).flowShare!);
    expect(shares[0]).toBeCloseTo(1, 9);
    expect(shares[shares.length - 1]!).toBeLessThan(0.9);
  });
});

test("a plan is in use since the first day and its rig's log speaks of it; another is only thought of", () => {
  const plans = bodies<Plan>("plans");
  const rigs = bodies<Rig>("rigs");
  expect(plans.map(({ rigId }) => rigs.find(({ id }) => id === rigId)?.name)).toEqual(["Van", undefined]);
  const [inUse, thoughtOf] = plans;
  const visits = bodies<Visit>("visits").filter(({ rigId }) => rigId === inUse!.rigId);
  expect(Date.parse(inUse!.keptAt)).toBeLessThan(Date.parse(visits[0]!.at));
  expect(Date.parse(thoughtOf!.keptAt)).toBeGreaterThan(Date.parse(inUse!.inUseSince!));
  expect(thoughtOf!.option.before).toBe("boosted-membrane");
});

test("what a plan expects follows from its own work and prices, which are the crew's", () => {
  const [list] = bodies<PriceList>("price-lists");
  for (const { work, option, expected, currency } of bodies<Plan>("plans")) {
    const question = unwrap(planQuestion(work));
    expect(planFigures(unwrap(optionFigures(option, question)), question.demand)).toEqual(expected);
    expect(work.prices).toEqual(list!.prices);
    expect(currency).toBe(list!.currency);
    expect(expected.cost.total).toBeGreaterThan(100);
  }
});

test.each(["2027-02-08", "2027-08-21", "2027-12-02"])(
  "loaded on %s the fish room's two beds behind a membrane hold what their beads can, and the meter's limit comes after the leak",
  (day) => {
    const at = `${day}T15:20:00.000Z`;
    const entries = demoScenario(new Date(at));
    const kept = <T>(kind: string) =>
      entries
        .filter((each) => each.kind === kind)
        .map(({ id, body }) => ({ id, ...body, version: 1, voided: false }) as T);
    type Kept = RigStandingInput["rig"];
    const { vessels } = unwrap(
      rigStanding({
        ...{ now: at, timeZone: "UTC", rig: kept<Kept & Rig>("rigs").find(({ name }) => name === "Quarantine")! },
        rigs: kept<Kept & Rig>("rigs"),
        vessels: kept<Kept & Vessel>("vessels"),
        taps: kept<Kept & Tap>("taps"),
        meters: kept<Kept & Meter>("meters"),
        charges: kept<Kept & Charge>("charges"),
        visits: kept<Kept & Visit>("visits"),
        arrangements: kept<Kept & Arrangement>("arrangements"),
        feedTests: kept<Kept & FeedTest>("feed-tests"),
      }),
    );
    expect(vessels).toHaveLength(2);
    for (const { capacity, leak, left } of vessels) {
      expect(capacity!.median).toBeGreaterThan(0.42);
      expect(capacity!.median).toBeLessThan(0.66);
      expect(left!.typical).toBeGreaterThanOrEqual(leak!.typical);
    }
    // One fresh bed of the two treats about 3,600 L before anything leaks, both together twice that.
    expect(vessels[1]!.leak!.typical).toBeGreaterThan(3_600);
    expect(vessels[1]!.leak!.typical).toBeLessThan(8_000);
  },
);
