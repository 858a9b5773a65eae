import { RECORDS } from "@winter-bead/contract";
import type { Charge, Visit } from "@winter-bead/core";
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
