import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import pg from "pg";
import { database, undoThrough } from "./database";
import { RunningServer } from "./running-server";
import { firstRig, id, tapBody, visitBody, type SampleIds } from "./sample-records";

let server: RunningServer;
let ids: SampleIds;
beforeAll(async () => {
  server = await RunningServer.start();
  ids = await firstRig(server);
});
afterAll(() => server.remove());

const put = (kind: string, key: string, body: unknown) => server.request("PUT", `/api/v1/${kind}/${key}`, body);
const get = (path: string) => server.request("GET", `/api/v1/${path}`);

interface Listed {
  readonly items: readonly { readonly id: string; readonly name: string }[];
  readonly next?: string;
}

async function connect(user: string, password: string) {
  const port = Number(readFileSync(join(server.dataFolder, "postgres.port"), "utf8"));
  const client = new pg.Client({ host: "127.0.0.1", port, user, password, database: "winter_bead" });
  await client.connect();
  return client;
}
const secrets = () =>
  JSON.parse(readFileSync(join(server.dataFolder, "secrets.json"), "utf8")) as {
    ownerPassword: string;
    appPassword: string;
  };

describe("a record", () => {
  test("sent again changes nothing; another body under its id is a conflict that shows both", async () => {
    const key = id();
    expect((await put("sites", key, { name: "Pier" })).status).toBe(201);
    expect((await put("sites", key, { name: "Pier" })).status).toBe(200);
    const conflict = await put("sites", key, { name: "Quay" });
    expect(conflict.status).toBe(409);
    expect(conflict.body).toMatchObject({ current: { name: "Pier", version: 1 }, sent: { name: "Quay" } });
  });

  test("kept by ten senders at once is there once", async () => {
    const key = id();
    const statuses = await Promise.all(
      Array.from({ length: 10 }, () => put("sites", key, { name: "Slipway" }).then((answer) => answer.status)),
    );
    expect(statuses.every((status) => [200, 201, 503].includes(status))).toBe(true);
    expect(statuses.filter((status) => status === 201)).toHaveLength(1);
    const { items } = (await get("sites?limit=1000")).body as Listed;
    expect(items.filter((site) => site.id === key)).toHaveLength(1);
  });

  test("edited names the version it started from; a stale edit is refused, a repeated one is not", async () => {
    const key = id();
    await put("sites", key, { name: "One" });
    expect((await put("sites", key, { name: "Two", replaces: 1 })).body).toMatchObject({ name: "Two", version: 2 });
    expect((await put("sites", key, { name: "Two", replaces: 1 })).status).toBe(200);
    expect((await put("sites", key, { name: "One" })).status).toBe(200);
    const stale = await put("sites", key, { name: "Three", replaces: 1 });
    expect(stale.status).toBe(409);
    expect(stale.body).toMatchObject({ current: { name: "Two", version: 2 }, sent: { name: "Three" } });
    expect((await get(`sites/${key}`)).body).toMatchObject({ name: "Two" });
    expect((await put("sites", id(), { name: "Nobody", replaces: 3 })).status).toBe(404);
  });

  test("taken back leaves the lists, keeps its history and can come again", async () => {
    const key = id();
    const visit = visitBody(ids, 3);
    await put("visits", key, visit);
    expect((await put("visits", key, { ...visit, replaces: 1, voided: true })).body).toMatchObject({
      version: 2,
      voided: true,
    });
    const listed = ((await get("visits?limit=1000")).body as Listed).items.map((each) => each.id);
    expect(listed).not.toContain(key);
    expect((await put("visits", key, { ...visit, replaces: 2 })).body).toMatchObject({ version: 3, voided: false });
    const versions = (await get(`visits/${key}/versions`)).body as readonly { version: number; voided: boolean }[];
    expect(versions.map(({ version, voided }) => [version, voided])).toEqual([
      [1, false],
      [2, true],
      [3, false],
    ]);
  });

  test("that names something unknown is refused with the field's name", async () => {
    const stranger = randomUUID();
    const refusals = [
      [await put("taps", id(), tapBody(stranger)), "siteId"],
      [await put("visits", id(), { ...visitBody(ids, 1), rigId: stranger }), "rigId"],
      [
        await put("visits", id(), {
          ...visitBody(ids, 1),
          readings: [{ id: id(), point: "output", meterId: stranger, value: 1 }],
        }),
        "readings.0.meterId",
      ],
      [
        await put("rigs", id(), {
          name: "Cart",
          use: "glass",
          tapId: ids.tap,
          flow: 3,
          stages: [{ kind: "resin", vesselId: stranger }],
          jobName: "house",
          litresPerJob: 60,
        }),
        "stages",
      ],
    ] as const;
    for (const [answer, path] of refusals) {
      expect(answer.status).toBe(422);
      expect((answer.body as { errors: { path: string }[] }).errors[0]!.path).toBe(path);
    }
  });

  test("of bad shape is refused in words, and never with 500", async () => {
    const bad: readonly [string, string, unknown][] = [
      ["sites", "not-an-id", { name: "x" }],
      ["sites", id(), []],
      ["sites", id(), { name: "" }],
      ["sites", id(), { name: "x", crewId: randomUUID() }],
      ["sites", id(), { name: "a\u0000b" }],
      ["sites", id(), { name: "x", replaces: "1" }],
      ["charges", id(), { filledAt: "yesterday" }],
      ["visits", id(), { ...visitBody(ids, 1), readings: [{ id: id(), point: "output", value: -1, scale: "nacl" }] }],
      ["visits", id(), { ...visitBody(ids, 1), at: "275760-09-13T00:00:00Z" }],
      ["visits", id(), { ...visitBody(ids, 1), at: "0000-01-01T00:00:00Z" }],
    ];
    for (const [kind, key, body] of bad) {
      const { status, type } = await put(kind, key, body);
      expect([JSON.stringify(body), status, type]).toEqual([JSON.stringify(body), 422, "application/problem+json"]);
    }
    expect((await get("sites?limit=0")).status).toBe(422);
    expect((await get("sites?after=x")).status).toBe(422);
    expect((await get(`sites/${id()}`)).status).toBe(404);
  });

  test("a reading's id cannot stand in two visits", async () => {
    const visit = visitBody(ids, 2);
    await put("visits", id(), visit);
    expect((await put("visits", id(), visit)).status).toBe(409);
  });

  test("keeps that a figure was looked at again and is right: readings, totals, feed tests", async () => {
    const visit = id();
    const sent = visitBody(ids, 8);
    const body = {
      ...sent,
      water: { by: "total", total: 99_000, confirmed: true },
      readings: [...sent.readings, { id: id(), point: "feed", meterId: ids.meter, value: 860, confirmed: true }],
    };
    expect((await put("visits", visit, body)).status).toBe(201);
    expect((await get(`visits/${visit}`)).body).toMatchObject(body);
    const test = id();
    const seen = { tapId: ids.tap, at: "2027-03-02T08:10:00.000Z", meterId: ids.meter, value: 860, confirmed: true };
    expect((await put("feed-tests", test, seen)).status).toBe(201);
    expect((await get(`feed-tests/${test}`)).body).toMatchObject(seen);
  });

  test("lists come page by page, each record once", async () => {
    for (let i = 0; i < 7; i += 1) await put("sites", id(), { name: `Stop ${i}` });
    const seen: string[] = [];
    let after = "";
    do {
      const page = (await get(`sites?limit=3${after}`)).body as Listed;
      seen.push(...page.items.map((site) => site.id));
      after = page.next ? `&after=${page.next}` : "";
    } while (after);
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen).toEqual([...seen].sort());
    expect(seen).toEqual(((await get("sites?limit=1000")).body as Listed).items.map((site) => site.id));
  });
});

describe("one crew never sees another's data", () => {
  const otherCrew = "00000000-0000-7000-8000-0000000000ff";

  test("neither through the API nor, without its crew set, through the server's own role", async () => {
    const { ownerPassword, appPassword } = secrets();
    const owner = await connect("winter_bead_owner", ownerPassword);
    const stranger = randomUUID();
    await owner.query("INSERT INTO crew (id, name) VALUES ($1, 'Others')", [otherCrew]);
    await owner.query("INSERT INTO site (crew_id, id, version, name) VALUES ($1, $2, 1, 'Hidden')", [
      otherCrew,
      stranger,
    ]);
    expect((await get(`sites/${stranger}`)).status).toBe(404);
    expect(JSON.stringify((await get("sites?limit=1000")).body)).not.toContain("Hidden");
    expect((await put("taps", id(), tapBody(stranger))).status).toBe(422);
    expect((await put("sites", stranger, { name: "Ours under the same id" })).status).toBe(201);

    const app = await connect("winter_bead_app", appPassword);
    expect((await app.query("SELECT * FROM site")).rowCount).toBe(0);
    await app.query("SELECT set_config('winter_bead.crew', $1, false)", [otherCrew]);
    expect((await app.query("SELECT name FROM site")).rows).toEqual([{ name: "Hidden" }]);
    await expect(
      app.query(
        "INSERT INTO site (crew_id, id, version, name) VALUES ('00000000-0000-7000-8000-000000000001', $1, 1, 'Smuggled')",
        [randomUUID()],
      ),
    ).rejects.toThrow(/row-level security/);
    await expect(app.query("DELETE FROM record_version")).rejects.toThrow(/permission denied/);
    await owner.end();
    await app.end();
  });

  test("the database takes no connection without a password", async () => {
    await expect(connect("winter_bead_app", "wrong")).rejects.toThrow(/password/);
  });
});

test("rigs, visits and feed tests of before are carried forward, and know jobs a week from then on", async () => {
  const [visit, test] = [id(), id()];
  await put("visits", visit, visitBody(ids, 4));
  await put("feed-tests", test, { tapId: ids.tap, at: "2027-03-03T08:10:00.000Z", scale: "nacl", value: 100 });
  const kept = async () =>
    (await Promise.all([`rigs/${ids.rig}`, `visits/${visit}`, `feed-tests/${test}`].map(get))).map(({ body }) => body);
  const before = await kept();
  const owner = await database(server, "owner");
  await undoThrough(owner, "TrueRack1795700000004");
  await expect(owner.query("SELECT jobs_per_week FROM rig")).rejects.toThrow(/jobs_per_week/);
  await owner.destroy();
  await server.end();
  await server.again();
  expect(await kept()).toEqual(before);
  const { body } = await get(`rigs/${ids.rig}`);
  const { version, voided: _, id: key, ...rig } = body as { version: number; voided: boolean; id: string };
  expect((await put("rigs", key, { ...rig, jobsPerWeek: 12, replaces: version })).status).toBe(200);
  expect((await get(`rigs/${key}`)).body).toMatchObject({ jobsPerWeek: 12 });
});
