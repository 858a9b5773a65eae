import { COMPUTE, RECORDS, openApiDocument, type ComputeName } from "../src/index";
import { differences, REFERENCE_CASES } from "./reference-cases";

const answered = REFERENCE_CASES.filter((each) => each.expect);
const refused = REFERENCE_CASES.filter((each) => each.status === 422);

describe("calculations over the contract", () => {
  test.each(answered.map((each) => [each.id, each] as const))("meets %s", (_id, each) => {
    const outcome = COMPUTE[each.endpoint].compute(each.request);
    if (!outcome.ok) throw new Error(JSON.stringify(outcome.errors));
    expect(differences(each.expect!, outcome.value, each.tolerance ?? {})).toEqual([]);
    expect(COMPUTE[each.endpoint].answer.safeParse(outcome.value).error).toBeUndefined();
  });

  test.each(refused.map((each) => [each.id, each] as const))("refuses %s with a sentence", (_id, each) => {
    const outcome = COMPUTE[each.endpoint].compute(each.request);
    expect(outcome.ok).toBe(false);
    if (!outcome.ok) for (const { message } of outcome.errors) expect(message).toMatch(/^[A-Z].*\.$/);
  });

  const nonsense: readonly [ComputeName, unknown][] = [
    ["water", null],
    ["water", []],
    ["water", "212"],
    ["water", { reading: { value: 1e-320, scale: "nacl" } }],
    ["bed", { volume: 1e-300, diameter: 3000, flow: 1000 }],
    ["bed", { volume: 1e-300, diameter: 1e-300, flow: 1e-300 }],
    [
      "life",
      {
        water: { reading: { value: 1e-310, scale: "ec" } },
        capacity: { grade: "virgin" },
        bed: { volume: 10, diameter: 160, flow: 3 },
        limit: { value: 1e-320, scale: "ec" },
      },
    ],
    ["capacity", { ratedLitres: 1e7, ratedPpm: 1e5, scale: 0.4, resinLitres: 1e-310 }],
    [
      "depletion",
      {
        capacityLeft: { median: 1, low: 2, high: 3 },
        daily: Array(7).fill({ mean: 1, sd: 0 }),
        load: { low: 1, typical: 1, high: 1 },
        start: "2027-03-01",
      },
    ],
    [
      "depletion",
      {
        capacityLeft: { median: 1, low: 1, high: 1 },
        daily: Array(7).fill({ mean: 0, sd: 0 }),
        load: { low: 1, typical: 1, high: 1 },
        start: "2027-03-01",
      },
    ],
    [
      "depletion",
      {
        capacityLeft: { median: 1, low: 1, high: 1 },
        daily: Array(7).fill({ mean: 1, sd: 0 }),
        load: { low: 1, typical: 1, high: 1 },
        start: "2027-02-30",
      },
    ],
    [
      "depletion",
      {
        capacityLeft: { median: 1e9, low: 1e9, high: 1e9 },
        daily: Array(7).fill({ mean: 0.001, sd: 0 }),
        load: { low: 1, typical: 1, high: 1 },
        start: "2027-03-01",
      },
    ],
    [
      "life-range",
      {
        waters: {
          low: { reading: { value: 9, scale: "ec" } },
          typical: { reading: { value: 8, scale: "ec" } },
          high: { reading: { value: 7, scale: "ec" } },
        },
        capacity: { grade: "dyed" },
        bed: { volume: 1, diameter: 60, flow: 1 },
        limit: { value: 1, scale: "ec" },
      },
    ],
  ];
  test.each(nonsense)("%s never answers nonsense with a number that is none (%#)", (name, body) => {
    const outcome = COMPUTE[name].compute(body);
    if (outcome.ok) expect(JSON.stringify(outcome.value)).not.toMatch(/null|NaN|Infinity/);
    else expect(outcome.errors.length).toBeGreaterThan(0);
  });

  test("names the field that is wrong, inside a union too", () => {
    const outcome = COMPUTE.life.compute({
      water: { reading: { value: 150, scale: 1.7 } },
      capacity: { constant: -1, scale: "nacl" },
      bed: { volume: 10, diameter: 160, flow: 3 },
      limit: { value: 10, scale: "nacl" },
    });
    expect(outcome.ok ? [] : outcome.errors.map((error) => error.path).sort()).toEqual([
      "capacity.constant",
      "water.reading.scale",
    ]);
  });
});

test("the OpenAPI document tells of every calculation and every record", () => {
  const { paths } = openApiDocument() as { paths: Record<string, unknown> };
  for (const name of Object.keys(COMPUTE)) expect(paths).toHaveProperty([`/api/v1/compute/${name}`, "post"]);
  for (const kind of Object.keys(RECORDS)) expect(paths).toHaveProperty([`/api/v1/${kind}/{id}`, "put"]);
});

test("text that a database cannot hold is refused", () => {
  expect(RECORDS.sites.safeParse({ name: "a\u0000b" }).success).toBe(false);
  expect(RECORDS.sites.safeParse({ name: "lone \ud800" }).success).toBe(false);
  expect(RECORDS.sites.safeParse({ name: "Søndre brønn 💧" }).success).toBe(true);
});
