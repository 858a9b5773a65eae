import { PRACTICE_ASSUMPTIONS } from "@winter-bead/core/src/sizing";
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

  test.each(Object.keys(COMPUTE) as ComputeName[])(
    "answers the example that the OpenAPI document gives for %s",
    (name) => {
      const { paths } = openApiDocument() as {
        paths: Record<
          string,
          { post: { description: string; requestBody: { content: Record<string, { example: object }> } } }
        >;
      };
      const { description, requestBody } = paths[`/api/v1/compute/${name}`]!.post;
      expect(description).toMatch(/^[A-Z].*\.$/);
      const outcome = COMPUTE[name].compute(requestBody.content["application/json"]!.example);
      if (!outcome.ok) throw new Error(JSON.stringify(outcome.errors));
      expect(COMPUTE[name].answer.safeParse(outcome.value).error).toBeUndefined();
    },
  );

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

describe("sizing over the contract", () => {
  const water = (value: number) => ({ reading: { value, scale: "nacl" }, ph: 7.3, alkalinity: 118 });
  const good = {
    demand: {
      items: [
        { by: "jobs", perWeek: 20, litresEach: 60, quality: "guessed" },
        { by: "tank", volume: 300, changeShare: 0.2, changesPerWeek: 1, evaporation: 2, quality: "metered" },
      ],
      season: [0.5, 0.5, 1, 1, 1.2, 1.4, 1.4, 1.2, 1, 1, 0.6, 0.4],
    },
    waters: { low: water(140), typical: water(160), high: water(190) },
    limit: { value: 10, scale: "nacl" },
    peakFlow: 3,
    pressure: { supply: 300, needed: 150 },
    priority: "refills",
  };

  test("answers every option in the form it promises", () => {
    const outcome = COMPUTE.size.compute(good);
    if (!outcome.ok) throw new Error(JSON.stringify(outcome.errors));
    expect(COMPUTE.size.answer.safeParse(outcome.value).error).toBeUndefined();
    expect((outcome.value as { options: unknown[] }).options.length).toBeGreaterThan(100);
  });

  test.each([
    [{ demand: { items: [] } }, "demand.items"],
    [{ demand: { items: [{ by: "jobs", perWeek: 0, litresEach: 60, quality: "timed" }] } }, "demand.items"],
    [{ demand: { items: [{ by: "songs" }] } }, "demand.items.0.by"],
    [{ demand: { ...good.demand, season: [1, 1] } }, "demand.season"],
    [{ peakFlow: 0 }, "peakFlow"],
    [{ priority: "beauty" }, "priority"],
    [{ prices: { wage: 30 } }, "prices.resin"],
    [{ waters: { ...good.waters, high: {} } }, "waters.high.reading"],
  ])("refuses %j at its place", (part, path) => {
    const outcome = COMPUTE.size.compute({ ...good, ...part });
    expect(outcome.ok ? [] : outcome.errors.map((error) => error.path)).toContain(path);
    if (!outcome.ok) for (const { message } of outcome.errors) expect(message).toMatch(/^[A-Z].*\.$/);
  });
});

describe("what else sizing answers", () => {
  const water = { reading: { value: 160, scale: "nacl" }, ph: 7.3, alkalinity: 118 };
  const work = {
    demand: { items: [{ by: "jobs", perWeek: 20, litresEach: 60, quality: "guessed" }] },
    waters: { low: water, typical: water, high: water },
    limit: { value: 10, scale: "nacl" },
    peakFlow: 3,
  };
  const vessel = {
    name: "Tank",
    kind: "screw-head-tank",
    grossVolume: 28,
    diameter: 254,
    emptyWeight: 7.5,
    fillFraction: 0.86,
  };
  const plain = { vessel, train: "single", grade: "virgin", supply: "bag" };
  const option = { ...plain, before: "membrane" };
  const practice = {
    ...PRACTICE_ASSUMPTIONS,
    lowerFlow: 2.4,
    otherTap: { reading: { value: 90, scale: "nacl" } },
  };
  const claims = [{ name: "A", litres: 3000, ppm: 100, scale: "442", resinLitres: 10, price: 80 }];
  const GOOD = [
    ["crossing", { work, option: plain }],
    ["worth", { work, option }],
    ["claims", { claims: [...claims, { name: "B", litres: 900, scale: "nacl" }], waters: work.waters }],
    ["habits", { work, option, practice }],
  ] as const;

  test.each(GOOD)("%s, in the form it promises", (name, body) => {
    const outcome = COMPUTE[name].compute(body);
    if (!outcome.ok) throw new Error(JSON.stringify(outcome.errors));
    expect(COMPUTE[name].answer.safeParse(JSON.parse(JSON.stringify(outcome.value))).error).toBeUndefined();
  });

  test.each([
    ["crossing", { work, option }, "option.before"],
    ["crossing", { work: { ...work, peakFlow: 0 }, option: plain }, "work.peakFlow"],
    ["worth", { work, option: plain }, "option.before"],
    ["claims", { claims: [], waters: work.waters }, "claims"],
    ["claims", { claims: [{ ...claims[0], scale: "tds" }], waters: work.waters }, "claims.0.scale"],
    ["habits", { work, option, practice: { ...practice, startTimes: 0 } }, "practice.startTimes"],
    ["habits", { work, option: { ...option, train: "triple" }, practice }, "option.train"],
  ] as const)("%s refuses what is wrong at its place", (name, body, path) => {
    const outcome = COMPUTE[name].compute(body);
    expect(outcome.ok ? [] : outcome.errors.map((error) => error.path)).toContain(path);
    if (!outcome.ok) for (const { message } of outcome.errors) expect(message).toMatch(/^[A-Z].*\.$/);
  });
});

test("the OpenAPI document tells of every calculation and every record", () => {
  const { paths } = openApiDocument() as { paths: Record<string, unknown> };
  for (const name of Object.keys(COMPUTE)) expect(paths).toHaveProperty([`/api/v1/compute/${name}`, "post"]);
  for (const path of ["/api/v1/supplier/zones", "/api/v1/supplier/zones/{zone}/report"])
    expect(paths).toHaveProperty([path, "get"]);
  expect(paths).toHaveProperty(["/api/v1/compute/column", "post", "responses", "503"]);
  for (const kind of Object.keys(RECORDS)) expect(paths).toHaveProperty([`/api/v1/${kind}/{id}`, "put"]);
});

test("text that a database cannot hold is refused", () => {
  expect(RECORDS.sites.safeParse({ name: "a\u0000b" }).success).toBe(false);
  expect(RECORDS.sites.safeParse({ name: "lone \ud800" }).success).toBe(false);
  expect(RECORDS.sites.safeParse({ name: "Søndre brønn 💧" }).success).toBe(true);
});
