import type { Meter, Rig } from "@winter-bead/core";
import { draftVisit, EMPTY_DRAFT, type DraftParts, type LogDraft } from "../features/log/draft-visit";
import { typed } from "../ui/NumberPad";

const rig: Rig = {
  id: "rig",
  name: "Van",
  use: "glass",
  tapId: "tap",
  flow: 3.2,
  stages: [{ id: "s", kind: "resin" }],
  jobName: "house",
  litresPerJob: 60,
};
const meter: Meter = { id: "meter", name: "Pocket", scale: "nacl", compensated: true };
const points: DraftParts["points"] = [
  { field: "feed", label: "Feed", point: "feed" },
  { field: "membrane", label: "After RO", point: "after-membrane" },
  { field: "output", label: "Output", point: "output" },
];
const parts: DraftParts = { rig, points, meters: [meter], units: "metric", lastTotal: 1000 };
const draft = (more: Partial<LogDraft>): LogDraft => ({ ...EMPTY_DRAFT, meterId: "meter", tapId: "tap", ...more });
const visit = (more: Partial<LogDraft>, changed: Partial<DraftParts> = {}) =>
  draftVisit(draft(more), { ...parts, ...changed }, () => "id");

test("an empty draft is no visit", () => expect(visit({})).toEqual({ errors: {}, isEmpty: true }));

test("an output of 0 is a reading", () => {
  expect(visit({ output: "0" }).body?.readings).toEqual([{ id: "id", point: "output", meterId: "meter", value: 0 }]);
});

test("water is a total, minutes or jobs, its kind remembered", () => {
  expect(visit({ water: "1120" }).body?.water).toEqual({ by: "total", total: 1120 });
  expect(visit({ water: "25", waterBy: "timed" }).body?.water).toEqual({ by: "timed", minutes: 25, flow: 3.2 });
  expect(visit({ water: "3", waterBy: "jobs" }).body?.water).toEqual({ by: "jobs", jobs: 3, litresPerJob: 60 });
  expect(visit({ water: "25", waterBy: "timed", flow: "2.5" }).body?.water).toEqual({
    by: "timed",
    minutes: 25,
    flow: 2.5,
  });
  expect(visit({ water: "3", waterBy: "jobs", perJob: "x" }).errors.water).toMatch(/water of a job/);
  expect(visit({ water: "300" }, { units: "us", lastTotal: undefined }).body?.water).toEqual({
    by: "total",
    total: 300 * 3.785411784,
  });
});

test("a total below the last is asked about, unless the meter is new", () => {
  expect(visit({ water: "900" }).errors.water).toMatch(/new meter/);
  expect(visit({ water: "20", newMeter: true }).body?.water).toEqual({ by: "total", total: 20, replaced: true });
});

test("what was said to be right is written down with the figure, and only while that figure stands", () => {
  const said = { output: "3", feed: "860", confirmed: ["feed 860"] };
  expect(visit(said).body?.readings).toEqual([
    { id: "id", point: "feed", meterId: "meter", value: 860, confirmed: true },
    { id: "id", point: "output", meterId: "meter", value: 3 },
  ]);
  expect(visit({ ...said, feed: "861" }).body?.readings[0]).not.toHaveProperty("confirmed");
  expect(visit({ water: "99000", confirmed: ["water 99000"] }).body?.water).toEqual({
    by: "total",
    total: 99000,
    confirmed: true,
  });
  expect(visit({ water: "99001", confirmed: ["water 99000"] }).body?.water).not.toHaveProperty("confirmed");
});

test("one wrong field keeps the rest", () => {
  const { body, errors } = visit({ output: "3", feed: "..", temperature: "99" });
  expect(body?.readings).toHaveLength(1);
  expect(Object.keys(errors).sort()).toEqual(["feed", "temperature"]);
});

test("a meter without compensation needs the temperature", () => {
  const plain = { ...meter, compensated: false };
  expect(visit({ output: "3" }, { meters: [plain] }).errors.temperature).toMatch(/compensate/);
  expect(visit({ output: "3", temperature: "11" }, { meters: [plain] }).body?.readings[0]).toMatchObject({
    temperature: 11,
  });
});

test("the pad types as fingers expect", () => {
  const press = (keys: string) => keys.split("").reduce((text, key) => typed(text, key === "<" ? "back" : key), "");
  expect(["212", "0.5", ".5", "05", "1..2", "12<3", "<", "1234567890123"].map(press)).toEqual([
    "212",
    "0.5",
    "0.5",
    "5",
    "1.2",
    "13",
    "",
    "123456789",
  ]);
});
