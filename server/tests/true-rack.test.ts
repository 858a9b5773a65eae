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
const get = async (kind: string, key: string) => (await server.request("GET", `/api/v1/${kind}/${key}`)).body;

test("what was looked at again and is right is kept with its figure: readings, totals, feed tests", async () => {
  const visit = id();
  const sent = visitBody(ids, 8);
  const body = {
    ...sent,
    water: { by: "total", total: 99_000, confirmed: true },
    readings: [...sent.readings, { id: id(), point: "feed", meterId: ids.meter, value: 860, confirmed: true }],
  };
  expect((await put("visits", visit, body)).status).toBe(201);
  expect(await get("visits", visit)).toMatchObject(body);
  const test = id();
  const seen = { tapId: ids.tap, at: "2027-03-02T08:10:00.000Z", meterId: ids.meter, value: 860, confirmed: true };
  expect((await put("feed-tests", test, seen)).status).toBe(201);
  expect(await get("feed-tests", test)).toMatchObject(seen);
});

test("rigs, visits and feed tests of before are carried forward, and know jobs a week from then on", async () => {
  const [visit, test] = [id(), id()];
  await put("visits", visit, visitBody(ids, 4));
  await put("feed-tests", test, { tapId: ids.tap, at: "2027-03-03T08:10:00.000Z", scale: "nacl", value: 100 });
  const before = await Promise.all([get("rigs", ids.rig), get("visits", visit), get("feed-tests", test)]);
  const owner = await database(server, "owner");
  await undoThrough(owner, "TrueRack1795700000004");
  await expect(owner.query("SELECT jobs_per_week FROM rig")).rejects.toThrow(/jobs_per_week/);
  await owner.destroy();
  await server.end();
  await server.again();
  const after = await Promise.all([get("rigs", ids.rig), get("visits", visit), get("feed-tests", test)]);
  expect(after).toEqual(before);
  const { version, voided: _, id: key, ...rig } = after[0] as { version: number; voided: boolean; id: string };
  expect((await put("rigs", key, { ...rig, jobsPerWeek: 12, replaces: version })).status).toBe(200);
  expect(await get("rigs", key)).toMatchObject({ jobsPerWeek: 12 });
});
