import { database, undoThrough } from "./database";
import { RunningServer } from "./running-server";
import { firstRig, id, visitBody, type SampleIds } from "./sample-records";

let server: RunningServer;
let ids: SampleIds;
beforeAll(async () => {
  server = await RunningServer.start();
  ids = await firstRig(server);
});
afterAll(() => server.remove());

const put = (kind: string, key: string, body: object) => server.request("PUT", `/api/v1/${kind}/${key}`, body);
const at = "2027-03-02T08:10:00.000Z";

const bodies = (): readonly (readonly [string, object])[] => [
  ["feed-tests", { tapId: ids.tap, at, meterId: ids.meter, value: 104.5, temperature: 11 }],
  [
    "water-reports",
    {
      tapId: ids.tap,
      sampledOn: "2027-02-01",
      source: "imported",
      origin: "Laboratory",
      values: { ca: 40.25, ph: 7.3 },
    },
  ],
  [
    "membrane-checks",
    {
      rigId: ids.rig,
      at,
      scale: "ec",
      feed: 420,
      product: 13.2,
      temperature: 17,
      pressure: 400,
      productFlow: 0.1183,
      wasteFlow: 0.36,
      clean: true,
      seen: { "sediment-old": false },
    },
  ],
];

test("feed tests, reports and membrane checks are kept as they were sent, once, and come back so", async () => {
  for (const [kind, body] of bodies()) {
    const key = id();
    expect((await put(kind, key, body)).status).toBe(201);
    expect((await put(kind, key, body)).status).toBe(200);
    const { body: kept } = await server.request("GET", `/api/v1/${kind}/${key}`);
    expect(kept).toEqual({ ...body, id: key, version: 1, voided: false });
    const { body: list } = await server.request("GET", `/api/v1/${kind}`);
    expect((list as { items: { id: string }[] }).items.filter((each) => each.id === key)).toHaveLength(1);
  }
});

test("a test of a tap that is not there, or of nothing, is refused with a sentence", async () => {
  const unknown = await put("feed-tests", id(), { tapId: id(), at, scale: "nacl", value: 100 });
  expect(unknown.status).toBe(422);
  expect((unknown.body as { detail: string }).detail).toMatch(/tap is not known/);
  expect((await put("feed-tests", id(), { tapId: ids.tap, at, value: 100 })).status).toBe(422);
  expect(
    (await put("water-reports", id(), { tapId: ids.tap, sampledOn: "2027-02-01", source: "typed", values: {} })).status,
  ).toBe(422);
});

test("a meter keeps its check against a standard and its offset", async () => {
  const key = id();
  const body = {
    name: "Bench",
    scale: "442",
    compensated: true,
    checkedOn: "2027-03-01",
    check: { standard: 1413, shown: 1001 },
    offset: 1.5,
  };
  await put("meters", key, body);
  expect((await server.request("GET", `/api/v1/meters/${key}`)).body).toMatchObject(body);
});

test("data of before these tables are carried forward, none lost", async () => {
  const visit = id();
  await put("visits", visit, visitBody(ids, 4));
  const owner = await database(server, "owner");
  await undoThrough(owner, "KnowTheWater1795400000002");
  const tables = await owner.query(`SELECT to_regclass('feed_test') AS found`);
  expect(tables).toEqual([{ found: null }]);
  await owner.destroy();
  await server.end();
  await server.again();
  expect((await server.request("GET", `/api/v1/visits/${visit}`)).body).toMatchObject(visitBodyKept(visit));
  expect((await server.request("GET", `/api/v1/meters/${ids.meter}`)).status).toBe(200);
  expect((await put(...withId(bodies()[0]!))).status).toBe(201);
});

const visitBodyKept = (visit: string) => ({ id: visit, rigId: ids.rig, tapId: ids.tap, version: 1 });
const withId = ([kind, body]: readonly [string, object]): [string, string, object] => [kind, id(), body];

test("row-level security guards the new tables too", async () => {
  const app = await database(server, "app");
  try {
    for (const table of ["feed_test", "water_report", "membrane_check"])
      expect(await app.query(`SELECT count(*)::int AS count FROM ${table}`)).toEqual([{ count: 0 }]);
    await expect(
      app.query(
        `INSERT INTO water_report (crew_id, id, version, tap_id, sampled_on, source, "values") VALUES ('00000000-0000-7000-8000-000000000001', $1, 1, $2, '2027-01-01', 'typed', '{}')`,
        [id(), ids.tap],
      ),
    ).rejects.toThrow(/row-level security/);
  } finally {
    await app.destroy();
  }
});
