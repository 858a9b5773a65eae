import { PROBLEMS, RECORD_KINDS } from "@winter-bead/contract";
import { demoScenario } from "@winter-bead/demo";
import { database, undoThrough } from "./database";
import { RunningServer } from "./running-server";
import { firstRig, id, vesselBody, visitBody, type SampleIds } from "./sample-records";

let server: RunningServer;
let ids: SampleIds;
beforeAll(async () => {
  server = await RunningServer.start();
  ids = await firstRig(server);
});
afterAll(() => server.remove());

interface Version {
  readonly version: number;
  readonly seq: number;
  readonly author?: string;
  readonly act: { readonly id: string; readonly what: string };
  readonly body?: object;
}
interface ActAnswer {
  readonly detail?: string;
  readonly type?: string;
  readonly errors?: readonly { readonly path: string }[];
  readonly records: readonly { readonly kind: string; readonly record: Record<string, unknown> }[];
}

const at = "2027-04-01T09:00:00.000Z";
const act = (key: string, what: string, puts: readonly object[], more: object = {}) =>
  server.request("PUT", `/api/v1/acts/${key}`, { at, what, puts, ...more }) as Promise<{
    status: number;
    body: ActAnswer;
  }>;
const get = async (path: string) => (await server.request("GET", `/api/v1/${path}`)).body as Record<string, unknown>;
const versions = async (kind: string, key: string) =>
  (await server.request("GET", `/api/v1/${kind}/${key}/versions`)).body as readonly Version[];
const site = (key: string, name: string) => ({ kind: "sites", id: key, body: { name } });

/** The refill of the first rig: its charge ends, another begins. */
async function refill(fresh: string) {
  const { id: _, version, voided: __, ...old } = await get(`charges/${ids.charge}`);
  const { ended: ___, ...inUse } = old;
  return {
    inUse,
    version: version as number,
    puts: [
      { kind: "charges", id: ids.charge, replaces: version, body: { ...inUse, ended: { at, why: "limit" } } },
      { kind: "charges", id: fresh, body: { ...inUse, filledAt: at } },
    ],
  };
}

describe("an act", () => {
  test("is kept whole, sent again it changes nothing, and every version names it, its author and its number", async () => {
    const [key, fresh] = [id(), id()];
    const { puts } = await refill(fresh);
    const device = "0194a111-0000-7000-8000-00000000000a";
    const sent = await fetch(`${server.url}/api/v1/acts/${key}`, {
      method: "PUT",
      headers: { "Content-Type": "application/json", "Winter-Bead-Device": device },
      body: JSON.stringify({ at, what: "Refill of Van", puts }),
    });
    expect(sent.status).toBe(201);
    expect((await act(key, "Refill of Van", puts)).status).toBe(200);
    expect(await get(`charges/${ids.charge}`)).toMatchObject({ ended: { why: "limit" }, version: 2 });
    expect(await get(`charges/${fresh}`)).toMatchObject({ filledAt: at, version: 1 });
    const [ended] = (await versions("charges", ids.charge)).slice(-1);
    const [begun] = await versions("charges", fresh);
    expect(ended).toMatchObject({ act: { id: key, what: "Refill of Van" }, author: `device ${device}` });
    expect(begun).toMatchObject({ act: { id: key }, author: `device ${device}`, seq: ended!.seq + 1 });
  });

  test("is undone by another act: the charge runs on, the new one never was", async () => {
    const fresh = id();
    const { puts, inUse, version } = await refill(fresh);
    const key = id();
    expect((await act(key, "Refill of Van", puts)).status).toBe(201);
    const undo = [
      { kind: "charges", id: fresh, replaces: 1, voided: true },
      { kind: "charges", id: ids.charge, replaces: version + 1, body: inUse },
    ];
    expect((await act(id(), "Refill of Van undone", undo, { undoes: key })).status).toBe(201);
    expect(await get(`charges/${ids.charge}`)).not.toHaveProperty("ended");
    expect(await get(`charges/${fresh}`)).toMatchObject({ voided: true });
    expect((await versions("charges", fresh)).map((each) => each.body === undefined)).toEqual([false, true]);
  });

  test("with one thing wrong keeps nothing of it", async () => {
    const [good, bad] = [id(), id()];
    const answers = [
      await act(id(), "Places", [site(good, "Pier"), { kind: "taps", id: bad, body: { name: "" } }]),
      await act(id(), "Places", [site(good, "Pier"), { ...site(bad, "Quay"), replaces: 4 }]),
      await act(id(), "Places", [site(good, "Pier"), { kind: "charges", id: ids.charge, replaces: 1, voided: true }]),
      await act(id(), "Places", [
        site(good, "Pier"),
        { kind: "visits", id: bad, body: { ...visitBody(ids, 1), tapId: id() } },
      ]),
    ];
    expect(answers.map(({ status }) => status)).toEqual([422, 404, 409, 422]);
    expect(answers[3]!.body.errors![0]!.path).toBe("puts.1.body.tapId");
    expect((await server.request("GET", `/api/v1/sites/${good}`)).status).toBe(404);
  });

  test("may bring what it names in any order, as a rig with its vessel", async () => {
    const [vessel, rig] = [id(), id()];
    const { id: _, version: __, voided: ___, ...body } = await get(`rigs/${ids.rig}`);
    const stages = [{ kind: "resin", vesselId: vessel }];
    const puts = [
      { kind: "rigs", id: rig, body: { ...body, name: "Cart", stages } },
      { kind: "vessels", id: vessel, body: vesselBody },
    ];
    expect((await act(id(), "Cart kept", puts)).status).toBe(201);
  });

  test("of a row that was sent alone before an old queue was moved over is known again", async () => {
    const key = id();
    await server.request("PUT", `/api/v1/sites/${key}`, { name: "Pier" });
    expect((await act(id(), "Place kept", [site(key, "Pier")])).status).toBe(200);
    expect(await versions("sites", key)).toHaveLength(1);
  });

  test("has an id of its own, and a program older than its shape says that it is not at fault", async () => {
    const key = id();
    await act(key, "One", [site(id(), "Pier")]);
    expect((await act(key, "Two", [site(id(), "Quay")])).status).toBe(409);
    const newer = await act(id(), "Three", [{ ...site(id(), "Pier"), shape: 99 }]);
    expect([newer.status, newer.body.type]).toEqual([422, PROBLEMS.newerShape]);
    const alone = await server.request("PUT", `/api/v1/sites/${id()}`, { name: "Pier", shape: 99 });
    expect((alone.body as ActAnswer).type).toBe(PROBLEMS.newerShape);
  });

  test("sent by ten at once is there once, and a crew's numbers rise without a gap of order", async () => {
    const [key, place] = [id(), id()];
    const statuses = await Promise.all(
      Array.from({ length: 10 }, async () => (await act(key, "Place", [site(place, "Slip")])).status),
    );
    expect(statuses.filter((status) => status === 201)).toHaveLength(1);
    expect(statuses.every((status) => [200, 201, 503].includes(status))).toBe(true);
    const others = Array.from({ length: 8 }, () => id());
    await Promise.all(others.map((other) => act(id(), "Place", [site(other, "Slip")])));
    const owner = await database(server, "owner");
    const rows: { seq: string; accepted: string }[] = await owner.query(
      "SELECT seq, accepted_at AS accepted FROM record_version ORDER BY seq",
    );
    await owner.destroy();
    expect(new Set(rows.map(({ seq }) => seq)).size).toBe(rows.length);
    const times = rows.map(({ accepted }) => new Date(accepted).getTime());
    expect(times).toEqual([...times].sort((a, b) => a - b));
  });
});

describe("taking back", () => {
  test("is refused while something in use names it, with the way out, and free once nothing does", async () => {
    const [meter, visit] = [id(), id()];
    await server.request("PUT", `/api/v1/meters/${meter}`, { name: "Pen", scale: "nacl", compensated: true });
    const body = { ...visitBody({ ...ids, meter }, 2), water: { by: "total", total: 300 } };
    await server.request("PUT", `/api/v1/visits/${visit}`, body);
    const refused = await server.request("PUT", `/api/v1/meters/${meter}`, { replaces: 1, voided: true });
    expect([refused.status, (refused.body as ActAnswer).type, (refused.body as ActAnswer).detail]).toEqual([
      409,
      PROBLEMS.inUse,
      "A visit names this meter. Retire it: lists hide it then, and history keeps it.",
    ]);
    const both = [
      { kind: "meters", id: meter, replaces: 1, voided: true },
      { kind: "visits", id: visit, replaces: 1, voided: true },
    ];
    expect((await act(id(), "Entered wrongly", both)).status).toBe(201);
  });

  test("of a vessel looks into the places of trains, of a tap at everything on it", async () => {
    const refused = async (kind: string, key: string) => {
      const { body } = await server.request("PUT", `/api/v1/${kind}/${key}`, { replaces: 1, voided: true });
      return (body as ActAnswer).detail;
    };
    expect(await refused("vessels", ids.vessel)).toMatch(/^A train and .* name this vessel\. Retire it/);
    expect(await refused("taps", ids.tap)).toMatch(/rig/);
    expect(await refused("sites", ids.site)).toMatch(/^The tap Yard tap names this site\. Take that back first/);
  });

  test("of a tap keeps the visit that was logged on it without a signal before", async () => {
    const [tap, visit] = [id(), id()];
    const { id: _, version: __, voided: ___, ...body } = await get(`taps/${ids.tap}`);
    await server.request("PUT", `/api/v1/taps/${tap}`, { ...body, name: "Wrong tap" });
    expect((await server.request("PUT", `/api/v1/taps/${tap}`, { replaces: 1, voided: true })).status).toBe(200);
    const late = { ...visitBody(ids, 3), tapId: tap };
    expect((await server.request("PUT", `/api/v1/visits/${visit}`, late)).status).toBe(201);
  });
});

test("the server killed while acts come in leaves each whole or not at all, and sent again each is there once", async () => {
  const acts = Array.from({ length: 60 }, (_, i) => {
    const [place, tap] = [id(), id()];
    const body = { siteId: place, name: `Tap ${i}`, low: 80, typical: 96, high: 124, scale: "nacl" };
    return { key: id(), place, tap, puts: [site(place, `Crash ${i}`), { kind: "taps", id: tap, body }] };
  });
  const sent = acts.map(({ key, puts }) => act(key, "Place and tap", puts).catch(() => undefined));
  await sent[5];
  await server.end("SIGKILL");
  await Promise.all(sent);
  await server.again();
  const has = async (path: string) => (await server.request("GET", `/api/v1/${path}`)).status === 200;
  for (const { place, tap } of acts) expect(await has(`sites/${place}`)).toBe(await has(`taps/${tap}`));
  for (const { key, puts } of acts) expect([200, 201]).toContain((await act(key, "Place and tap", puts)).status);
  for (const { place, tap } of acts) {
    expect(await versions("sites", place)).toHaveLength(1);
    expect(await versions("taps", tap)).toHaveLength(1);
  }
});

const YEAR = 365 * 86_400_000;
/** Records of one act when many are brought in. */
const AT_ONCE = 300;

describe("a crew that began a year ago", () => {
  let full: RunningServer;
  beforeAll(async () => {
    full = await RunningServer.start();
    const told = [...demoScenario(new Date(Date.now() - YEAR)), ...demoScenario(new Date())];
    for (let from = 0; from < told.length; from += AT_ONCE) {
      const puts = told.slice(from, from + AT_ONCE).map(({ kind, id: key, body }) => ({ kind, id: key, body }));
      const { status } = await full.request("PUT", `/api/v1/acts/${id()}`, { at, what: "Brought in", puts });
      expect(status).toBe(201);
    }
  });
  afterAll(() => full.remove());

  test("is carried back to before acts and forward again without a loss", async () => {
    const lists = async () => {
      const found = await Promise.all(
        RECORD_KINDS.map((kind) => full.request("GET", `/api/v1/${kind}?limit=1000`).then(({ body }) => body)),
      );
      return found as readonly { readonly items: readonly Record<string, unknown>[] }[];
    };
    const put = (kind: string, { id: key, voided: _, version, ...body }: Record<string, unknown>, more: object) =>
      full.request("PUT", `/api/v1/${kind}/${String(key)}`, { ...body, ...more, replaces: version });
    const [{ items: meters }, { items: charges }, { items: visits }] = (await Promise.all(
      ["meters", "charges", "visits"].map((kind) =>
        full.request("GET", `/api/v1/${kind}?limit=1000`).then((answer) => answer.body),
      ),
    )) as unknown as [{ items: never[] }, { items: never[] }, { items: never[] }];
    await put("meters", meters[0]!, { retiredOn: "2027-05-01" });
    await put("charges", charges[0]!, { leftOut: true, partUsed: { by: "weeks", weeks: 4 } });
    const { id: taken, version } = visits[0]! as { id: string; version: number };
    await full.request("PUT", `/api/v1/visits/${taken}`, { replaces: version, voided: true });
    const before = await lists();
    const owner = await database(full, "owner");
    await undoThrough(owner, "Acts1795800000005");
    const bodies = `SELECT kind, id, version, voided, body FROM record_version ORDER BY kind, id, version`;
    const versionsBefore = (await owner.query(bodies)) as readonly { readonly body: unknown }[];
    expect(versionsBefore.every(({ body }) => body !== null)).toBe(true);
    await expect(owner.query("SELECT chosen_option FROM plan")).resolves.toHaveLength(4);
    await owner.destroy();
    await full.end();
    await full.again();
    expect(await lists()).toEqual(before);
    const again = await database(full, "owner");
    expect(await again.query(bodies)).toEqual(versionsBefore);
    const [numbers] = await again.query(
      `SELECT count(DISTINCT seq)::int AS seqs, count(DISTINCT act_id)::int AS acts, max(seq)::int AS last,
        (SELECT last::int FROM crew_counter) AS counter FROM record_version`,
    );
    const count = versionsBefore.length;
    expect(numbers).toEqual({ seqs: count, acts: count, last: count, counter: count });
    await again.destroy();
    const after = await full.request("PUT", `/api/v1/sites/${id()}`, { name: "After" });
    expect(after.status).toBe(201);
  });
});
