import { spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { request as httpRequest } from "node:http";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { RunningServer } from "./running-server";
import { firstRig, id, visitBody, type SampleIds } from "./sample-records";

const HOSTS = "bead.example, van.example:8443";
const QUICK = "2"; // seconds a calculation may take here

let server: RunningServer;
let ids: SampleIds;
/** Opened at once, since they take as long as a slow sender is waited for. */
let slowHead: Promise<string>;
let slowBody: Promise<string>;

const portOf = (url: string) => Number(new URL(url).port);

/** Sends bytes as they are and gives back all that comes until the connection ends. */
const raw = (url: string, bytes: string | Buffer, hangUp = false) =>
  new Promise<string>((done) => {
    const socket = connect(portOf(url), "127.0.0.1", () => {
      socket.write(bytes);
      if (hangUp) setTimeout(() => socket.destroy(), 50);
    });
    let heard = "";
    socket.on("data", (part) => {
      heard += part.toString("latin1");
    });
    socket.on("error", () => undefined);
    socket.on("close", () => done(heard));
  });

interface Answer {
  readonly status: number;
  readonly headers: { readonly [name: string]: string | string[] | undefined };
  readonly text: string;
}

/** A request with headers that fetch would not let through. */
const ask = (path: string, headers: Record<string, string> = {}, method = "GET", body?: string) =>
  new Promise<Answer>((done, failed) => {
    const sent = httpRequest({ hostname: "127.0.0.1", port: portOf(server.url), path, method, headers }, (response) => {
      let text = "";
      response.on("data", (part: Buffer) => (text += part.toString()));
      response.on("end", () => done({ status: response.statusCode!, headers: response.headers, text }));
    }).on("error", failed);
    sent.end(body);
  });

beforeAll(async () => {
  server = await RunningServer.start({
    environment: { WINTER_BEAD_HOSTS: HOSTS, WINTER_BEAD_COMPUTE_SECONDS: QUICK, WINTER_BEAD_WARM: "1" },
  });
  ids = await firstRig(server);
  slowHead = raw(server.url, "GET /api/v1/rigs HTTP/1.1\r\nHost: localhost\r\n");
  slowBody = raw(
    server.url,
    `PUT /api/v1/sites/${randomUUID()} HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 20\r\n\r\n{"name"`,
  );
});
afterAll(() => server.remove());

describe("who may ask", () => {
  const OWN = ["127.0.0.1", "localhost:4180", "[::1]:80", "bead.example", "BEAD.example:9", "van.example"];
  const OTHER = ["evil.example", "127.0.0.1.evil.example", "localhost.evil.example", "bead.example.evil"];
  const PATHS = ["/", "/base.css", "/api/v1/rigs", "/api/v1/health", "/api/v1/openapi.json", "/nowhere"];

  test.each(OWN)("this server goes by %s", async (host) => {
    expect((await ask("/api/v1/rigs", { Host: host })).status).toBe(200);
  });

  test.each(OTHER)("not by '%s', on any route", async (host) => {
    for (const path of PATHS) {
      const { status, text } = await ask(path, { Host: host });
      expect([path, status]).toEqual([path, 421]);
      expect(text).not.toContain("Van");
    }
    const written = await ask(`/api/v1/sites/${randomUUID()}`, { Host: host }, "PUT", '{"name":"Rebound"}');
    expect(written.status).toBe(421);
  });

  test("nor without a name", async () => {
    expect(await raw(server.url, "GET /api/v1/rigs HTTP/1.0\r\n\r\n")).toMatch(/^HTTP\/1\.1 421 /);
  });

  test("a page of another site neither reads nor writes, whatever it says it is", async () => {
    const foreign: readonly Record<string, string>[] = [
      { Origin: "http://evil.example" },
      { Origin: "null" },
      { Origin: "http://127.0.0.1:1" },
      { "Sec-Fetch-Site": "cross-site" },
      { "Sec-Fetch-Site": "same-site", "Sec-Fetch-Mode": "no-cors" },
      { "Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "iframe" },
    ];
    for (const headers of foreign)
      for (const path of PATHS)
        expect([headers, path, (await ask(path, headers)).status]).toEqual([headers, path, 403]);
    const body = { method: "PUT", type: { "Content-Type": "application/json", Origin: "http://evil.example" } };
    const key = randomUUID();
    expect((await ask(`/api/v1/sites/${key}`, body.type, body.method, '{"name":"From afar"}')).status).toBe(403);
    expect((await server.request("GET", `/api/v1/sites/${key}`)).status).toBe(404);
  });

  test("its own page and a followed link are let in, the link to the app alone", async () => {
    const { host, origin } = new URL(server.url);
    const own = { Host: host, Origin: origin, "Sec-Fetch-Site": "same-origin" };
    expect((await ask("/api/v1/rigs", own)).status).toBe(200);
    const link = { "Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "document" };
    expect((await ask("/history", link)).status).toBe(200);
    expect((await ask("/api/v1/rigs", link)).status).toBe(403);
  });

  test("the named hosts are handed to the page, which shows them to a phone", async () => {
    const { body } = await server.request("GET", "/api/v1/addresses");
    expect(body).toEqual({ items: ["https://bead.example", "https://van.example:8443"] });
  });
});

describe("broken requests", () => {
  const PUT = "PUT /mode HTTP/1.1\r\nHost: localhost\r\nContent-Length: 900\r\n\r\n";
  const BROKEN = [
    "GET // HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n",
    "GET //// HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n",
    "GET http://[ HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n",
    "GET /%ff%fe HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n",
    "GET * HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n",
    "OPTIONS * HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n",
    "PUT /mode HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n",
    "\u0000\u0001\u0002 nothing of the kind\r\n\r\n",
  ];

  test("end themselves alone: neither the stand-in nor the server goes", async () => {
    const supplier = await server.supplier();
    for (const address of [supplier, server.url]) {
      for (const bytes of BROKEN) await raw(address, bytes);
      await raw(address, `${PUT}{"mode": "ste`, true);
      await raw(address, PUT.replace("/mode", `/api/v1/sites/${randomUUID()}`), true);
    }
    expect((await fetch(`${supplier}/zones`)).status).toBe(200);
    expect((await server.request("GET", "/api/v1/health")).status).toBe(200);
    expect(server.output).not.toMatch(/Error|starting it again/);
  });

  test("a stand-in that is ended comes back at its address, and goes with the server", async () => {
    const own = await RunningServer.start();
    const supplier = await own.supplier();
    const pidsOf = () =>
      spawnSync("pgrep", ["-P", String(own.pid), "-f", "report-service"], { encoding: "utf8" })
        .stdout.split("\n")
        .filter((pid) => pid !== "")
        .map(Number);
    const [first] = pidsOf();
    process.kill(first!, "SIGKILL");
    let back = false;
    for (let i = 0; i < 100 && !back; i += 1) {
      await new Promise((pause) => setTimeout(pause, 100));
      back = await fetch(`${supplier}/zones`).then(
        (answer) => answer.ok,
        () => false,
      );
    }
    expect(back).toBe(true);
    expect((await own.request("GET", "/api/v1/supplier/zones")).status).toBe(200);
    const [second] = pidsOf();
    await own.end("SIGKILL");
    for (let i = 0; i < 100 && existsSync(`/proc/${second}`); i += 1)
      await new Promise((pause) => setTimeout(pause, 50));
    expect(existsSync(`/proc/${second}`)).toBe(false);
    await own.again();
    await own.remove();
  });

  test("a body over the limit is refused and its connection closed", async () => {
    const body = `{"name":"${"x".repeat(1_200_000)}"}`;
    const heard = await raw(
      server.url,
      `PUT /api/v1/sites/${randomUUID()} HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: ${body.length}\r\n\r\n${body}`,
    );
    expect(heard).toMatch(/^HTTP\/1\.1 413 /);
    expect(heard).toMatch(/Connection: close/i);
    expect(heard).toContain("The body is over 1 MiB");
  });
});

describe("bounded work", () => {
  const compute = (name: string, body: object) => server.request("POST", `/api/v1/compute/${name}`, body);
  const daily = Array.from({ length: 7 }, () => ({ mean: 40, sd: 20 }));
  const load = { low: 1, typical: 2, high: 3 };

  test("a calculation that takes too long is stopped, says so, and leaves room for others", async () => {
    // Days enough for five years, over as many paths as may be asked for: twice the time that it may take here, and more.
    const capacityLeft = { median: 9e6, low: 8e6, high: 10e6 };
    const heavy = { capacityLeft, daily, load, start: "2027-03-01", paths: 100_000 };
    const [stopped, small] = await Promise.all([
      compute("depletion", heavy),
      compute("own-capacity", { grade: "virgin", charges: [] }),
    ]);
    expect(stopped.status).toBe(503);
    expect(stopped.body).toMatchObject({ title: expect.stringMatching(/stopped after 2 seconds/) });
    expect(small.status).toBe(200);
    expect((await compute("own-capacity", { grade: "dyed", charges: [] })).status).toBe(200);
  });

  test("a capacity that hardly is one ends like any other", async () => {
    const capacityLeft = { median: 100, low: 1e-9, high: 1e9 };
    const { status, body } = await compute("depletion", { capacityLeft, daily, load, start: "2027-03-01" });
    expect(status).toBe(200);
    expect((body as { late: string }).late <= "2032-03-01").toBe(true);
  });

  test("start-up creep never fails on its readings", async () => {
    const sets = [
      [1e-3, 1e-3, 1e-3, 1e-3],
      [100_000, 1, 1, 1],
      [100_000, 99_999, 99_998, 1e-9],
      [5, 4, 4, 4, 4, 3],
      [1, 2, 3, 4],
    ];
    for (const values of sets)
      for (const [first, gap] of [
        [0, 1],
        [1_000, 0.001],
        [0, 100_000],
        [7, 0],
      ] as const) {
        const readings = values.map((value, i) => ({ seconds: first + i * gap, value }));
        const { status } = await compute("creep", { readings, scale: "ec", flow: 2 });
        expect([values, first, gap, [200, 422].includes(status)]).toEqual([values, first, gap, true]);
      }
  });
});

describe("small messages", () => {
  const complaints = async (path: string, body: object) =>
    ((await server.request("PUT", path, body)).body as { errors: { path: string; message: string }[] }).errors;

  test("say what is wrong in words, and where", async () => {
    const site = `/api/v1/sites/${randomUUID()}`;
    expect(await complaints(site, { name: "Pier", replaces: 0 })).toEqual([
      { path: "replaces", message: expect.stringMatching(/1 or more; a new record goes without it/) },
    ]);
    const visit = `/api/v1/visits/${randomUUID()}`;
    const twice = { ...visitBody(ids, 3), at: "yesterday" };
    const reading = twice.readings[0]!;
    expect(await complaints(visit, twice)).toEqual([
      { path: "at", message: "The time of the visit must be a time as ISO 8601, such as 2027-03-01T08:10:00Z." },
    ]);
    expect(await complaints(visit, { ...visitBody(ids, 3), readings: [reading, reading] })).toEqual([
      { path: "readings", message: "Two readings of this visit have the same id; give each its own." },
    ]);
  });

  test("none speaks the schema's own language", async () => {
    const bodies: readonly (readonly [string, object])[] = [
      [
        "rigs",
        { name: 3, use: "wine", tapId: 1, flow: "x", stages: [{ kind: "foam" }], jobName: [], litresPerJob: null },
      ],
      [
        "rigs",
        {
          stages: [
            { kind: "membrane", rejection: 4 },
            { kind: "resin", vesselId: "x" },
          ],
        },
      ],
      ["charges", { grade: "gold", packing: 1, ended: { why: "?" }, stored: { container: "box" } }],
      ["price-lists", { setOn: "soon", currency: 4, prices: { resin: { virgin: "dear" } } }],
      ["plans", { option: { vessel: 1, train: "x", before: "?", grade: 1, supply: 0 } }],
    ];
    for (const [kind, body] of bodies) {
      const found = await complaints(`/api/v1/${kind}/${randomUUID()}`, body);
      expect(found.length).toBeGreaterThan(0);
      for (const { path, message } of found) {
        expect([path, message]).toEqual([path, expect.not.stringMatching(/invalid|expected one|received|in in /i)]);
        expect(message).toMatch(/^[A-Z].*\.$/);
      }
    }
  });
});

describe("what is read", () => {
  test("goes out compressed, with an ETag, and not twice to who has it", async () => {
    for (let i = 0; i < 12; i += 1) await server.request("PUT", `/api/v1/visits/${id()}`, visitBody(ids, i));
    const first = await ask("/api/v1/visits", { "Accept-Encoding": "br" });
    expect([first.status, first.headers["content-encoding"], first.headers["cache-control"]]).toEqual([
      200,
      "br",
      "private, no-cache",
    ]);
    const again = await ask("/api/v1/visits", { "If-None-Match": String(first.headers["etag"]) });
    expect([again.status, again.text]).toEqual([304, ""]);
    await server.request("PUT", `/api/v1/visits/${id()}`, visitBody(ids, 5));
    expect((await ask("/api/v1/visits", { "If-None-Match": String(first.headers["etag"]) })).status).toBe(200);
  });

  test("is logged by an id of its own, without what it held", async () => {
    const { headers } = await ask("/api/v1/rigs?secretly=no");
    const requestId = String(headers["x-request-id"]);
    const log = () => readFileSync(join(server.dataFolder, "log", "server.log"), "utf8");
    for (let i = 0; i < 40 && !log().includes(requestId); i += 1) await new Promise((pause) => setTimeout(pause, 50));
    const line = log()
      .split("\n")
      .find((each) => each.includes(requestId))!;
    expect(JSON.parse(line)).toMatchObject({ req: { method: "GET", url: "/api/v1/rigs?secretly=no" } });
    expect(log()).not.toContain("Ropewalk");
  });

  test("is logged without the secret of an address, however that is spelt", async () => {
    const secret = "A".repeat(75);
    const spellings = [
      `/api/v1/calendar/feed/${secret}.ics`,
      `/api/v1/calendar/feed/${secret}.ics/`,
      `/api/v1/calendar//feed/${secret}`,
      `/api/v1/Calendar/FEED/${secret}`,
      `/api/v1/%63alendar/fee%64/${secret}`,
      `/api/v1/calendar%2Ffeed%2F${secret}`,
      `/api/v1/calendar/outside?address=https://calendar.example/${secret}`,
      `/api/v1/calendar/outside/?address=https://calendar.example/${secret}`,
      `/api/v1/calendar/%6futside?address=https://calendar.example/${secret}`,
    ];
    let last = "";
    for (const path of spellings) last = String((await ask(path)).headers["x-request-id"]);
    const log = () => readFileSync(join(server.dataFolder, "log", "server.log"), "utf8");
    for (let i = 0; i < 40 && !log().includes(last); i += 1) await new Promise((pause) => setTimeout(pause, 50));
    expect(log()).toContain(last);
    expect(log()).not.toContain(secret);
  });

  test("in three hundred large lists at once is shed, and the server's health still tells", async () => {
    for (let i = 0; i < 120; i += 1)
      await server.request("PUT", `/api/v1/visits/${id()}`, { ...visitBody(ids, i % 9), note: "n".repeat(1_900) });
    const lists = Array.from({ length: 300 }, () => ask("/api/v1/visits?limit=1000"));
    const health = await ask("/api/v1/health");
    expect(health.status).toBe(200);
    const answers = await Promise.all(lists);
    const statuses = new Set(answers.map(({ status }) => status));
    expect([...statuses].every((status) => status === 200 || status === 503)).toBe(true);
    expect(answers.filter(({ status }) => status === 200).length).toBeGreaterThan(10);
    for (const { status, headers } of answers)
      if (status === 503) expect(Number(headers["retry-after"])).toBeGreaterThan(0);
    expect((await ask("/api/v1/visits?limit=1000")).status).toBe(200);
  });
});

test("a connection that breaks at the commit leaves it uncertain, says so, and sending again doubles nothing", async () => {
  const { ownerPassword } = JSON.parse(readFileSync(join(server.dataFolder, "secrets.json"), "utf8")) as {
    ownerPassword: string;
  };
  const port = Number(readFileSync(join(server.dataFolder, "postgres.port"), "utf8"));
  const owner = new pg.Client({
    host: "127.0.0.1",
    port,
    user: "winter_bead_owner",
    password: ownerPassword,
    database: "winter_bead",
  });
  await owner.connect();
  // Runs while the database makes a write last, and cuts its own connection there.
  await owner.query(`CREATE FUNCTION cut_off() RETURNS trigger LANGUAGE plpgsql AS
    'BEGIN PERFORM pg_terminate_backend(pg_backend_pid()); PERFORM pg_sleep(5); RETURN NULL; END'`);
  await owner.query(`CREATE CONSTRAINT TRIGGER cut_off AFTER INSERT ON site DEFERRABLE INITIALLY DEFERRED
    FOR EACH ROW WHEN (NEW.name = 'Cut off') EXECUTE FUNCTION cut_off()`);
  const key = randomUUID();
  const answer = await server.request("PUT", `/api/v1/sites/${key}`, { name: "Cut off" });
  expect(answer.status).toBe(503);
  expect((answer.body as { detail: string }).detail).toMatch(/uncertain whether this was kept\. Send it again/);
  await owner.query("DROP TRIGGER cut_off ON site");
  await owner.query("DROP FUNCTION cut_off()");
  await owner.end();
  expect((await server.request("PUT", `/api/v1/sites/${key}`, { name: "Cut off" })).status).toBe(201);
  expect((await server.request("PUT", `/api/v1/sites/${key}`, { name: "Cut off" })).status).toBe(200);
});

/** 30 by the command `KILL_ROUNDS=30 npx jest --selectProjects server -- hostile -t "is killed under load"`. */
const KILL_ROUNDS = Number(process.env["KILL_ROUNDS"] ?? 6);

test("again and again the database is killed under load: nobody hears of a mistake, nothing acknowledged is lost", async () => {
  const acknowledged = new Set<string>();
  const statuses = new Map<number, number>();
  let going = true;
  const write = async () => {
    let key = randomUUID();
    let body = {
      ...visitBody(ids, 2),
      readings: [{ id: randomUUID(), point: "output", meterId: ids.meter, value: 2 }],
    };
    while (going) {
      const { status } = await server.request("PUT", `/api/v1/visits/${key}`, body);
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
      if (status === 201 || status === 200) {
        acknowledged.add(key);
        key = randomUUID();
        body = { ...body, readings: [{ ...body.readings[0]!, id: randomUUID() }] };
      } else await new Promise((pause) => setTimeout(pause, 20));
    }
  };
  const read = async () => {
    while (going) {
      const { status } = await server.request("GET", "/api/v1/visits?limit=50");
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
      if (status !== 200) await new Promise((pause) => setTimeout(pause, 20));
    }
  };
  const workers = [...Array.from({ length: 6 }, write), ...Array.from({ length: 3 }, read)];
  for (let round = 0; round < KILL_ROUNDS; round += 1) {
    const goal = acknowledged.size + 15;
    while (acknowledged.size < goal) await new Promise((pause) => setTimeout(pause, 20));
    server.killDatabase();
  }
  const goal = acknowledged.size + 15;
  while (acknowledged.size < goal) await new Promise((pause) => setTimeout(pause, 20));
  going = false;
  await Promise.all(workers);
  expect([...statuses.keys()].filter((status) => ![200, 201, 503].includes(status))).toEqual([]);
  expect(statuses.get(503)).toBeGreaterThan(0);
  const kept = new Set<string>();
  for (let after: string | undefined, first = true; first || after; first = false) {
    const page = await server.request("GET", `/api/v1/visits?limit=1000${after ? `&after=${after}` : ""}`);
    const { items, next } = page.body as { items: { id: string }[]; next?: string };
    for (const item of items) kept.add(item.id);
    after = next;
  }
  expect([...acknowledged].filter((key) => !kept.has(key))).toEqual([]);
  if (KILL_ROUNDS > 6)
    console.log(`${KILL_ROUNDS} rounds, ${acknowledged.size} acknowledged, answers ${JSON.stringify([...statuses])}`);
}, 600_000);

(process.getuid?.() === 0 ? test : test.skip)(
  "a full disk is named, keeps what was kept, and is over once there is room",
  async () => {
    const disk = mkdtempSync(join(tmpdir(), "winter-bead-full-"));
    if (spawnSync("mount", ["-t", "tmpfs", "-o", "size=260m", "tmpfs", disk]).status !== 0)
      throw new Error("this test needs to mount a small disk");
    let own: RunningServer | undefined;
    try {
      own = await RunningServer.start({ dataFolder: join(disk, "data") });
      const rig = await firstRig(own);
      const kept: string[] = [];
      for (let i = 0; i < 5; i += 1) {
        kept.push(id());
        expect((await own.request("PUT", `/api/v1/visits/${kept[i]}`, visitBody(rig, i))).status).toBe(201);
      }
      const filler = join(disk, "filler");
      spawnSync("sh", ["-c", `head -c 400m /dev/zero > ${filler}`], { stdio: "ignore" });
      const seen: { status: number; title?: string }[] = [];

      for (let i = 0; i < 400 && seen.filter(({ status }) => status === 503).length < 12; i += 1) {
        const key = id();
        // Words that don't compress, so that the tables grow.
        const note = Array.from({ length: 50 }, () => randomUUID()).join(" ");
        const { status, body } = await own.request("PUT", `/api/v1/visits/${key}`, { ...visitBody(rig, 3), note });
        seen.push({ status, title: (body as { title?: string }).title });
        if (status === 201) kept.push(key);
      }
      expect(seen.filter(({ status }) => status !== 201 && status !== 503)).toEqual([]);
      expect(seen.filter(({ status }) => status === 503).map(({ title }) => title)).toEqual(
        expect.arrayContaining(["The disk of this server is full"]),
      );
      rmSync(filler);
      let status = 0;
      for (let i = 0; i < 200 && status !== 201; i += 1) {
        status = (await own.request("PUT", `/api/v1/visits/${id()}`, visitBody(rig, 3))).status;
        if (status !== 201) await new Promise((pause) => setTimeout(pause, 100));
      }
      expect(status).toBe(201);
      for (const key of kept) expect((await own.request("GET", `/api/v1/visits/${key}`)).status).toBe(200);
    } finally {
      await own?.end();
      spawnSync("umount", ["-l", disk]);
      rmSync(disk, { recursive: true, force: true });
    }
  },
);

describe("what is on the disk", () => {
  test("a claim whose number now belongs to another Winter Bead does not hold", async () => {
    const own = await RunningServer.start();
    await own.end("SIGKILL");
    writeFileSync(join(own.dataFolder, "winter-bead.pid"), `${server.pid} 4180 1`);
    await own.again();
    expect((await own.request("GET", "/api/v1/health")).status).toBe(200);
    await own.remove();
  });
});

test("who sends too slowly is not waited for, with the head or with the body", async () => {
  expect(await slowHead).toMatch(/^HTTP\/1\.1 408 /);
  expect(await slowBody).toMatch(/^HTTP\/1\.1 (408|400) /);
});
