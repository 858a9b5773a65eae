import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { connect } from "node:net";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { MOST_PUTS, openApiDocument, RECORD_KINDS } from "@winter-bead/contract";
import { RECORD_KINDS as KINDS_IN_ORDER, sampleId } from "@winter-bead/core";
import { v7 as uuidv7 } from "uuid";
import { database } from "./database";
import { RunningServer } from "./running-server";
import { firstRig, id, tapBody, visitBody, type SampleIds } from "./sample-records";

/* One bad request: nobody else is harmed, and whoever sent it hears why. */

let server: RunningServer;
let ids: SampleIds;
beforeAll(async () => {
  server = await RunningServer.start();
  ids = await firstRig(server);
});
afterAll(() => server.remove());

const put = (path: string, body: object) => server.request("PUT", `/api/v1/${path}`, body);
const act = (puts: readonly object[], key = id(), at = new Date().toISOString()) =>
  put(`acts/${key}`, { at, what: "Test", puts });

/** Bytes as they are, and all that comes back until the connection ends. */
const raw = (bytes: string | Buffer) =>
  new Promise<string>((done) => {
    const socket = connect(Number(new URL(server.url).port), "127.0.0.1", () => socket.write(bytes));
    let heard = "";
    socket.on("data", (part) => (heard += part.toString("latin1")));
    socket.on("error", () => undefined);
    socket.on("close", () => done(heard));
  });

/** A rig as a phone of the first shape sends it. */
const oldRig = (more: object = {}) => ({
  name: "Old",
  use: "glass",
  tapId: ids.tap,
  flow: 2,
  stages: [{ kind: "resin", vesselId: ids.vessel }],
  jobName: "house",
  litresPerJob: 55,
  ...more,
});

describe("a number that was sent sets no work", () => {
  test("a version that nothing bears out is looked up, not counted down to", async () => {
    const known = id();
    expect((await put(`rigs/${known}`, oldRig())).status).toBe(201);
    for (const key of [known, id()]) {
      const { status, body } = await put(`rigs/${key}`, oldRig({ replaces: 2_147_483_647 }));
      expect(status).toBe(422);
      expect((body as { detail: string }).detail).toMatch(/changed 4,095 times at most/);
      expect([409, 404]).toContain((await put(`rigs/${key}`, oldRig({ replaces: 4_094 }))).status);
      const inAct = await act([{ kind: "rigs", id: key, replaces: 4_094, body: oldRig() }]);
      expect([409, 404]).toContain(inAct.status);
    }
  });

  test("a rig that an old phone changes often still brings only what is news", async () => {
    const key = id();
    await put(`rigs/${key}`, oldRig());
    for (let replaces = 1; replaces <= 5; replaces += 1) {
      const answer = await put(`rigs/${key}`, oldRig({ replaces, name: `Old ${replaces}` }));
      expect(answer.status).toBe(200);
    }
    const { items } = (await server.request("GET", "/api/v1/arrangements?limit=1000")).body as {
      items: { rigId: string }[];
    };
    expect(items.filter(({ rigId }) => rigId === key)).toHaveLength(1);
  });
});

describe("names that every object has", () => {
  test("are no kinds of record", async () => {
    for (const kind of ["constructor", "toString", "__proto__", "hasOwnProperty"]) {
      const { status, body } = await act([{ kind, id: id(), body: {} }]);
      expect([kind, status]).toEqual([kind, 422]);
      expect((body as { detail: string }).detail).toMatch(/There is no kind of record called/);
      expect((await server.request("GET", `/api/v1/${kind}`)).status).toBe(404);
      expect((await server.request("POST", `/api/v1/compute/${kind}`, {})).status).toBe(404);
    }
  });
});

describe("the form of a request", () => {
  test("whoever takes no form of an answer gets it plain, and what was kept is kept", async () => {
    const key = randomUUID();
    const answer = await fetch(`${server.url}/api/v1/sites/${key}`, {
      method: "PUT",
      headers: { "Content-Type": "application/json", "Accept-Encoding": "identity;q=0, *;q=0" },
      body: JSON.stringify({ name: "Slip", note: "n".repeat(1_900) }),
    });
    expect([answer.status, answer.headers.get("content-encoding")]).toEqual([201, null]);
    expect(await answer.json()).toMatchObject({ id: key, name: "Slip" });
  });

  test("methods that no address takes are turned away by name", async () => {
    for (const method of ["TRACE", "PROPFIND", "PATCH", "LOCK"]) {
      const heard = await raw(`${method} /api/v1/rigs HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n`);
      expect(heard).toMatch(/^HTTP\/1\.1 405 /);
      expect(heard).toMatch(/^Allow: GET, HEAD, PUT, POST, DELETE, OPTIONS\r$/m);
    }
    expect((await fetch(`${server.url}/api/v1/rigs`, { method: "DELETE" })).status).toBe(405);
  });

  test("a body in a wrong encoding leaves nothing on its connection for the next request", async () => {
    const next = "GET /api/v1/health HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n";
    const head = (more: string, length: number) =>
      `PUT /api/v1/sites/${randomUUID()} HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\n${more}Content-Length: ${length}\r\n\r\n`;
    const junk = Buffer.alloc(200_000, "GET /api/v1/rigs HTTP/1.1\r\nHost: localhost\r\n\r\n");
    const half = gzipSync(Buffer.alloc(300_000, "x")).subarray(0, 100);
    for (const [more, body] of [
      ["Content-Encoding: gzip\r\n", junk],
      ["Content-Encoding: gzip\r\n", half],
      ["Content-Encoding: br\r\n", junk],
      ["Content-Encoding: nonsense\r\n", junk],
    ] as const) {
      const heard = await raw(Buffer.concat([Buffer.from(head(more, body.length)), body, Buffer.from(next)]));
      const statuses = [...heard.matchAll(/HTTP\/1\.1 (\d+)/g)].map(([, status]) => status);
      // Either the next request is answered as what it is, or the connection ended with its first answer.
      expect(statuses[0]).toMatch(/^4\d\d$/);
      expect(statuses.slice(1)).toEqual(statuses.length > 1 ? ["200"] : []);
    }
    expect((await server.request("GET", "/api/v1/health")).status).toBe(200);
  });

  test("a connection that sends on without waiting is answered so far, told once, and ended", async () => {
    const one = "GET /api/v1/visits?limit=1000 HTTP/1.1\r\nHost: localhost\r\n\r\n";
    const heard = await raw(one.repeat(60));
    const statuses = [...heard.matchAll(/HTTP\/1\.1 (\d+)/g)].map(([, status]) => status);
    expect(statuses).toHaveLength(9);
    expect(statuses[8]).toBe("503");
    expect(heard).toContain("Too much is asked at once on one connection");
  });
});

describe("what was taken back", () => {
  const takeBack = (kind: string, key: string) => put(`${kind}/${key}`, { replaces: 1, voided: true });
  const newTap = async () => {
    const tap = id();
    await put(`taps/${tap}`, tapBody(ids.site));
    return tap;
  };

  test("is named by nothing new: the answer says which, and the way out", async () => {
    const tap = await newTap();
    await takeBack("taps", tap);
    const { status, body } = await put(`rigs/${id()}`, oldRig({ tapId: tap }));
    expect(status).toBe(422);
    expect((body as { errors: unknown }).errors).toEqual([
      { path: "tapId", message: "This tap was taken back: choose another, or bring the tap back first." },
    ]);
    const later = { ...visitBody(ids, 3), tapId: tap };
    expect((await put(`visits/${uuidv7()}`, later)).status).toBe(422);
    await put(`taps/${tap}`, { ...tapBody(ids.site), replaces: 2 });
    expect((await put(`rigs/${id()}`, oldRig({ tapId: tap }))).status).toBe(201);
  });

  test("every field that names another record is guarded", async () => {
    const { KINDS } = await import("@winter-bead/core");
    const { referencesIn } = await import("@winter-bead/core/src/descriptor/references");
    // A whole crew of samples, each in use; then each named record is taken back as the owner would, and named anew.
    const puts = KINDS_IN_ORDER.map((kind) => ({ kind, id: sampleId(kind), body: KINDS[kind].sample }));
    expect((await act(puts)).status).toBe(201);
    const owner = await database(server, "owner");
    let guarded = 0;
    for (const kind of KINDS_IN_ORDER)
      for (const to of new Set(referencesIn(KINDS[kind] as never, KINDS[kind].sample).map((each) => each.to))) {
        const [{ seq }] = await owner.query("SELECT max(seq) + 1 AS seq FROM record_version");
        const gone = [sampleId(to), to];
        await owner.query(
          `INSERT INTO record_version (crew_id, kind, id, version, voided, body, seq, act_id, shape)
           SELECT crew_id, kind, id, 2, true, NULL, $3, act_id, shape FROM record_version WHERE id = $1 AND kind = $2 AND version = 1`,
          [...gone, seq],
        );
        const key = uuidv7();
        const body = JSON.parse(
          JSON.stringify(KINDS[kind].sample).replaceAll(
            /"id":"0194b000-0000-7000-8000-[0-9a-f]{12}"/g,
            () => `"id":"${uuidv7()}"`,
          ),
        ) as object;
        const { status, body: said } = await act([{ kind, id: key, body }]);
        expect([kind, to, status]).toEqual([kind, to, 422]);
        expect((said as { detail: string }).detail).toMatch(/was taken back: choose another/);
        await owner.query("DELETE FROM record_version WHERE id = $1 AND kind = $2 AND version = 2", gone);
        guarded += 1;
      }
    await owner.destroy();
    expect(guarded).toBeGreaterThan(20);
  });

  test("is kept by what was logged before it, and by what named it already", async () => {
    const tap = await newTap();
    const before = uuidv7();
    await new Promise((pause) => setTimeout(pause, 5));
    await takeBack("taps", tap);
    const visit = { ...visitBody(ids, 3), tapId: tap };
    expect((await put(`visits/${before}`, visit)).status).toBe(201);
    expect((await put(`visits/${before}`, { ...visit, note: "Seen again", replaces: 1 })).status).toBe(200);
  });
});

test("an act of as many records as it may hold takes at most twenty statements", async () => {
  const owner = await database(server, "owner");
  await owner.query("ALTER ROLE winter_bead_app SET log_statement = 'all'");
  // The setting holds for new connections: the pool gets some.
  await owner.query("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE usename = 'winter_bead_app'");
  for (let i = 0; i < 20 && (await server.request("GET", "/api/v1/rigs")).status !== 200; i += 1)
    await new Promise((pause) => setTimeout(pause, 50));
  const log = () =>
    readFileSync(join(server.dataFolder, "postgres", "server.log"), "utf8").match(/LOG:  (statement|execute)/g)
      ?.length ?? 0;
  const places = Array.from({ length: 100 }, () => id());
  const bringing = places.flatMap((site, i) => [
    { kind: "sites", id: site, body: { name: `Place ${i}` } },
    { kind: "taps", id: id(), body: tapBody(site) },
    { kind: "rigs", id: id(), body: oldRig({ name: `Old ${i}` }) },
    { kind: "visits", id: id(), body: visitBody(ids, 3) },
    { kind: "visits", id: id(), body: visitBody(ids, 4) },
  ]);
  expect(bringing).toHaveLength(MOST_PUTS);
  const taps = bringing.filter(({ kind }) => kind === "taps");
  const counts: number[] = [];
  for (const puts of [
    bringing,
    bringing,
    taps.map(({ kind, id: key }) => ({ kind, id: key, replaces: 1, voided: true })),
  ]) {
    const start = log();
    expect([200, 201]).toContain((await act(puts)).status);
    counts.push(log() - start);
  }
  await owner.query("ALTER ROLE winter_bead_app RESET log_statement");
  await owner.destroy();
  expect(counts[0]).toBeGreaterThan(5);
  expect(Math.max(...counts)).toBeLessThanOrEqual(20);
});

describe("a database that does not answer", () => {
  test("frozen, every route that needs it says so, the others go on, and what comes after is kept once", async () => {
    const key = id();
    const bodyOf = { name: "While frozen" };
    const paths = Object.entries(openApiDocument().paths as Record<string, Record<string, unknown>>);
    const frozen = server.databasePids;
    expect(frozen.length).toBeGreaterThan(3);
    for (const pid of frozen) process.kill(pid, "SIGSTOP");
    try {
      const asked: (readonly [string, Promise<{ status: number }>])[] = [];
      for (const [path, methods] of paths) {
        if (/compute|supplier|outside|sample|example|openapi|addresses|reminders-sent/.test(path)) continue;
        // A key of the right form, so that the feed is looked up at all.
        const at = path.replace("{id}", key).replace("{key}", `${"A".repeat(75)}.ics`);
        for (const method of Object.keys(methods)) {
          const body = method === "put" || method === "post" ? (/acts/.test(path) ? undefined : bodyOf) : undefined;
          if (method === "put" && !/sites/.test(path)) continue;
          asked.push([`${method} ${path}`, server.request(method.toUpperCase(), at, body)]);
        }
      }
      asked.push(["put act", act([{ kind: "sites", id: id(), body: bodyOf }])]);
      asked.push(["get crew", server.request("GET", "/api/v1/crew")]);
      expect(asked.length).toBeGreaterThan(3 * RECORD_KINDS.length);
      const answers = await Promise.all(asked.map(async ([name, answer]) => [name, (await answer).status] as const));
      expect(answers.filter(([, status]) => status !== 503)).toEqual([]);
      expect((await server.request("GET", "/api/v1/openapi.json")).status).toBe(200);
    } finally {
      for (const pid of frozen) process.kill(pid, "SIGCONT");
    }
    let status = 0;
    for (let i = 0; i < 100 && status !== 200 && status !== 201; i += 1) {
      status = (await put(`sites/${key}`, bodyOf)).status;
      await new Promise((pause) => setTimeout(pause, 50));
    }
    expect([200, 201]).toContain(status);
    expect((await server.request("GET", `/api/v1/sites/${key}/versions`)).body as unknown[]).toHaveLength(1);
  });

  test("too slow at the commit leaves it uncertain; sent again it is there once", async () => {
    const owner = await database(server, "owner");
    await owner.query(
      `CREATE FUNCTION linger() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN PERFORM pg_sleep(4.6); RETURN NULL; END'`,
    );
    await owner.query(`CREATE CONSTRAINT TRIGGER linger AFTER INSERT ON site DEFERRABLE INITIALLY DEFERRED
      FOR EACH ROW WHEN (NEW.name = 'Slow at last') EXECUTE FUNCTION linger()`);
    const key = id();
    const { status, body } = await put(`sites/${key}`, { name: "Slow at last" });
    expect([status, (body as { detail: string }).detail]).toEqual([
      503,
      expect.stringMatching(/uncertain whether this was kept\. Send it again/),
    ]);
    await owner.query("DROP TRIGGER linger ON site; DROP FUNCTION linger()");
    await owner.destroy();
    expect([200, 201]).toContain((await put(`sites/${key}`, { name: "Slow at last" })).status);
    expect((await server.request("GET", `/api/v1/sites/${key}/versions`)).body as unknown[]).toHaveLength(1);
  });
});
