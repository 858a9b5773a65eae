import { unwrap, type SizeInput } from "@winter-bead/core";
import {
  DEFAULT_PRICES,
  generateOptions,
  optionFigures,
  planFigures,
  planQuestion,
  PRACTICE_ASSUMPTIONS,
} from "@winter-bead/core/src/sizing";
import { database, undoThrough } from "./database";
import { RunningServer } from "./running-server";
import { firstRig, id, type SampleIds } from "./sample-records";

let server: RunningServer;
let ids: SampleIds;
beforeAll(async () => {
  server = await RunningServer.start();
  ids = await firstRig(server);
});
afterAll(() => server.remove());

const water = { reading: { value: 160, scale: "nacl" as const }, ph: 7.3, alkalinity: 110 };
const work: SizeInput = {
  demand: { items: [{ by: "jobs", name: "houses", perWeek: 20, litresEach: 60, quality: "timed" }] },
  waters: { low: water, typical: water, high: water },
  limit: { value: 10, scale: "nacl" },
  peakFlow: 3,
  prices: DEFAULT_PRICES,
  until: "meter",
};
const question = unwrap(planQuestion(work));
const option = generateOptions([])[0]!;

const planBody = () => ({
  name: "New round",
  keptAt: "2027-03-01T08:10:00.000Z",
  use: "glass",
  tapId: ids.tap,
  jobName: "house",
  work,
  option,
  expected: planFigures(unwrap(optionFigures(option, question)), question.demand),
  currency: "EUR",
});
const put = (kind: string, key: string, body: object) => server.request("PUT", `/api/v1/${kind}/${key}`, body);

test("a plan is kept as it was sent, once, and every version of it stays", async () => {
  const key = id();
  const body = planBody();
  expect((await put("plans", key, body)).status).toBe(201);
  expect((await put("plans", key, body)).status).toBe(200);
  const inUse = { ...body, rigId: ids.rig, inUseSince: "2027-03-04T08:00:00.000Z" };
  expect((await put("plans", key, { ...inUse, replaces: 1 })).status).toBe(200);
  expect((await put("plans", key, { ...body, name: "Stale", replaces: 1 })).status).toBe(409);
  const { body: kept } = await server.request("GET", `/api/v1/plans/${key}`);
  expect(kept).toEqual({ ...JSON.parse(JSON.stringify(inUse)), id: key, version: 2, voided: false });
  const versions = (await server.request("GET", `/api/v1/plans/${key}/versions`)).body as { body: object }[];
  expect(versions.map((each) => "rigId" in each.body)).toEqual([false, true]);
});

test("a plan of a tap or a rig that is not there is refused with a sentence", async () => {
  for (const part of [{ tapId: id() }, { rigId: id() }]) {
    const { status, body } = await put("plans", id(), { ...planBody(), ...part });
    expect(status).toBe(422);
    expect((body as { detail: string }).detail).toMatch(/(tap|rig) is not known/);
  }
});

test("the crew's prices are kept, a currency that is none is refused", async () => {
  const body = { setOn: "2027-03-01", currency: "EUR", prices: { ...DEFAULT_PRICES, wage: 31.5 } };
  const key = id();
  expect((await put("price-lists", key, body)).status).toBe(201);
  expect((await server.request("GET", `/api/v1/price-lists/${key}`)).body).toMatchObject(body);
  expect((await put("price-lists", id(), { ...body, currency: "beads" })).status).toBe(422);
  expect((await put("price-lists", id(), { ...body, prices: { ...DEFAULT_PRICES, wage: -1 } })).status).toBe(422);
});

test("the same answers over HTTP: size, crossing, worth, claims and habits", async () => {
  const plain = { vessel: option.vessel, train: option.train, grade: option.grade, supply: option.supply };
  const practice = {
    ...PRACTICE_ASSUMPTIONS,
    lowerFlow: 2.4,
  };
  const asked: readonly (readonly [string, object])[] = [
    ["size", work],
    ["crossing", { work, option: { ...plain, vessel: generateOptions([])[300]!.vessel } }],
    ["worth", { work, option: generateOptions([])[300] }],
    ["claims", { waters: work.waters, claims: [{ name: "A", litres: 3000, ppm: 100, scale: "nacl" }] }],
    ["habits", { work, option: generateOptions([])[300], practice }],
  ];
  for (const [name, body] of asked) {
    const { status } = await server.request("POST", `/api/v1/compute/${name}`, body);
    expect([name, status]).toEqual([name, 200]);
    const bad = await server.request("POST", `/api/v1/compute/${name}`, { ...body, surprise: 1 });
    expect([name, bad.status]).toEqual([name, 422]);
  }
});

/** Every copy of a body with one of its leaves replaced. */
function spoilt(body: unknown, by: unknown): unknown[] {
  if (body === null || typeof body !== "object") return [by];
  return Object.entries(body).flatMap(([key, value]) =>
    spoilt(value, by).map((changed) =>
      Array.isArray(body)
        ? body.map((each: unknown, i) => (String(i) === key ? changed : each))
        : { ...body, [key]: changed },
    ),
  );
}

test.each([
  ["nothing", null],
  ["text", "much"],
  ["below", -1e9],
  ["beyond", 1e300],
  ["a list", []],
  ["zero", 0],
])("one wrong figure, %s, is a sentence or an answer and never a failure of the server", async (_name, by) => {
  const plain = { vessel: option.vessel, train: option.train, grade: option.grade, supply: option.supply };
  const small = { ...work, demand: { items: [work.demand.items[0]] } };
  const claims = [{ name: "A", litres: 3000, ppm: 100, scale: "nacl", resinLitres: 9, price: 70 }];
  const asked: readonly (readonly [string, object])[] = [
    ["claims", { waters: work.waters, claims }],
    ["worth", { work: small, option: { ...plain, before: "membrane" } }],
  ];
  for (const [name, body] of asked) {
    const answers = await Promise.all(
      spoilt(body, by).map((each) => server.request("POST", `/api/v1/compute/${name}`, each)),
    );
    for (const { status, type, body: told } of answers) {
      expect([200, 422, 503]).toContain(status);
      if (status !== 422) continue;
      expect(type).toMatch(/problem\+json/);
      for (const { message } of (told as { errors: { message: string }[] }).errors)
        expect(message).toMatch(/^[A-Z].*\.$/);
    }
  }
  // One after the other, as a form is saved: a crew that writes a hundred at once is told to come again.
  for (const each of spoilt(planBody(), by))
    expect([201, 422]).toContain((await put("plans", id(), each as object)).status);
});

test("data of before plans are carried forward, and row-level security guards the new tables", async () => {
  const app = await database(server, "app");
  for (const table of ["plan", "price_list"])
    expect(await app.query(`SELECT count(*)::int AS count FROM ${table}`)).toEqual([{ count: 0 }]);
  await app.destroy();
  const owner = await database(server, "owner");
  await undoThrough(owner, "SizeIt1795600000003");
  expect(await owner.query(`SELECT to_regclass('plan') AS found`)).toEqual([{ found: null }]);
  await owner.destroy();
  await server.end();
  await server.again();
  expect((await server.request("GET", `/api/v1/rigs/${ids.rig}`)).status).toBe(200);
  expect((await put("plans", id(), planBody())).status).toBe(201);
});
