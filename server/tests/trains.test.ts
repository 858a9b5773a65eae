import { arrangementIdOf, stageIdAt } from "@winter-bead/core";
import { database, undoThrough } from "./database";
import { RunningServer } from "./running-server";
import { firstRig, id, visitBody, vesselBody, type SampleIds } from "./sample-records";

let server: RunningServer;
let ids: SampleIds;
beforeAll(async () => {
  server = await RunningServer.start();
  ids = await firstRig(server);
});
afterAll(() => server.remove());

type Record_ = Readonly<Record<string, unknown>> & { readonly id: string; readonly version: number };
const put = (path: string, body: object) => server.request("PUT", `/api/v1/${path}`, body);
const get = async (path: string) => (await server.request("GET", `/api/v1/${path}`)).body as Record_;
const arrangements = async (rigId: string) => {
  const { items } = (await server.request("GET", "/api/v1/arrangements?limit=1000")).body as { items: Record_[] };
  return items.filter((each) => each["rigId"] === rigId);
};
const bodyOf = async (path: string) => {
  const { id: _, version: __, voided: ___, ...body } = await get(path);
  return body;
};
/** A rig as phones sent it before trains: its stages have no ids, and name their vessels. */
const oldRig = (more: object = {}) => ({
  ...{ name: "Cart", use: "glass", tapId: ids.tap, flow: 3, jobName: "house", litresPerJob: 60 },
  stages: [{ kind: "carbon" }, { kind: "resin", vesselId: ids.vessel }],
  ...more,
});
const at = "2027-04-01T09:00:00.000Z";
const act = (key: string, puts: readonly object[]) => put(`acts/${key}`, { at, what: "Rig", puts });

describe("a rig of an old phone", () => {
  test("is kept as a train: its stages have ids, its vessels an arrangement since the rig was made", async () => {
    const rig = id();
    const sent = await put(`rigs/${rig}`, oldRig());
    expect([sent.status, (sent.body as Record_)["stages"]]).toEqual([
      201,
      [
        { id: stageIdAt(0), kind: "carbon" },
        { id: stageIdAt(1), kind: "resin" },
      ],
    ]);
    const made = [
      {
        ...{ id: arrangementIdOf(rig, 1), version: 1, voided: false, rigId: rig },
        at: new Date(0x0189_0000_0000).toISOString(),
        places: [{ stageId: stageIdAt(1), vesselId: ids.vessel }],
      },
    ];
    expect(await arrangements(rig)).toEqual(made);
    expect((await put(`rigs/${rig}`, oldRig())).status).toBe(200);
    expect(await arrangements(rig)).toEqual(made);
  });
  test("in an act it is answered for alone, and sent again it is there once", async () => {
    const [rig, key] = [id(), id()];
    const puts = [{ kind: "rigs", id: rig, body: oldRig({ name: "Act" }) }];
    const first = await act(key, puts);
    expect([first.status, (first.body as { records: { kind: string }[] }).records.map(({ kind }) => kind)]).toEqual([
      201,
      ["rigs"],
    ]);
    expect((await act(key, puts)).status).toBe(200);
    expect((await act(id(), puts)).status).toBe(200);
    expect(await arrangements(rig)).toHaveLength(1);
  });
  test("with a new name says nothing new of its vessels; what was rotated meanwhile stands", async () => {
    const [rig, spare] = [id(), id()];
    await put(`vessels/${spare}`, { ...vesselBody, name: "Spare" });
    await put(`rigs/${rig}`, oldRig());
    await put(`arrangements/${id()}`, {
      ...{ rigId: rig, at, did: "swapped" },
      places: [{ stageId: stageIdAt(1), vesselId: spare }],
    });
    expect((await put(`rigs/${rig}`, { ...oldRig({ name: "Renamed" }), replaces: 1 })).status).toBe(200);
    expect(await get(`rigs/${rig}`)).toMatchObject({ name: "Renamed", version: 2 });
    expect(await arrangements(rig)).toHaveLength(2);
  });
  test("with another vessel, or other stages, brings an arrangement of its day", async () => {
    const [rig, other] = [id(), id()];
    await put(`vessels/${other}`, { ...vesselBody, name: "Other" });
    await put(`rigs/${rig}`, oldRig());
    const stages = [{ kind: "resin", vesselId: other }];
    await act(id(), [{ kind: "rigs", id: rig, replaces: 1, body: oldRig({ stages }) }]);
    const made = await arrangements(rig);
    expect(made).toHaveLength(2);
    expect(made.find((each) => each["at"] === at)!["places"]).toEqual([{ stageId: stageIdAt(0), vesselId: other }]);
  });
  test("that names a vessel nobody knows is refused at its stages", async () => {
    const rig = id();
    const { status, body } = await act(id(), [
      { kind: "rigs", id: rig, body: oldRig({ stages: [{ kind: "resin", vesselId: id() }] }) },
    ]);
    const { errors } = body as { errors: readonly { readonly path: string }[] };
    expect([status, errors[0]!.path]).toEqual([422, "puts.0.body.stages"]);
    expect((await server.request("GET", `/api/v1/rigs/${rig}`)).status).toBe(404);
  });
  test("taken back takes its trains along", async () => {
    const rig = id();
    await put(`rigs/${rig}`, oldRig());
    expect((await put(`rigs/${rig}`, { replaces: 1, voided: true })).status).toBe(200);
    expect(await arrangements(rig)).toEqual([]);
    expect(await get(`arrangements/${arrangementIdOf(rig, 1)}`)).toMatchObject({ voided: true, version: 2 });
    expect((await put(`rigs/${rig}`, { replaces: 1, voided: true })).status).toBe(200);
  });
});

test("rigs of before become trains by the migration, and what was read behind a stage is there again", async () => {
  const visit = id();
  const readings = visitBody(ids, 4).readings.map((reading) => ({ ...reading, stageId: stageIdAt(0) }));
  await put(`visits/${visit}`, { ...visitBody(ids, 4), readings });
  await put(`charges/${id()}`, {
    ...(await bodyOf(`charges/${ids.charge}`)),
    beads: "cation",
    resinLitres: 9,
    filledAt: "2026-03-01T07:00:00.000Z",
  });
  const lists = () =>
    Promise.all(["rigs", "visits", "charges", "arrangements"].map((kind) => get(`${kind}?limit=1000`)));
  const before = await lists();
  const owner = await database(server, "owner");
  await undoThrough(owner, "Arrangements1796200000009");
  const [old] = await owner.query(`SELECT stages FROM rig WHERE id = $1`, [ids.rig]);
  expect(old).toEqual({ stages: [{ kind: "resin", vesselId: ids.vessel }] });
  await server.end();
  await server.again();
  expect(await lists()).toEqual(before);

  // A database that never had an arrangement: the first is of the first day that anything is known of the rig.
  await undoThrough(owner, "Arrangements1796200000009");
  await owner.query(`DELETE FROM record_version WHERE kind = 'arrangements'`);
  await owner.destroy();
  await server.end();
  await server.again();
  expect(await arrangements(ids.rig)).toEqual([
    {
      ...{ id: arrangementIdOf(ids.rig, 1), version: 1, voided: false, rigId: ids.rig },
      ...{ at: "2026-03-01T07:00:00.000Z", places: [{ stageId: stageIdAt(0), vesselId: ids.vessel }] },
    },
  ]);
  const versions = (await get(`arrangements/${arrangementIdOf(ids.rig, 1)}/versions`)) as unknown as readonly {
    readonly body: object;
    readonly act: { readonly what: string };
  }[];
  expect(versions[0]).toMatchObject({
    body: { at: "2026-03-01T07:00:00.000Z" },
    act: { what: "Vessels of a rig, noted by their day" },
  });
  const rig = await bodyOf(`rigs/${ids.rig}`);
  expect((await put(`rigs/${ids.rig}`, { ...rig, flow: 4, shape: 2, replaces: 1 })).status).toBe(200);
});
