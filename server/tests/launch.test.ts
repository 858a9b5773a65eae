import { spawnSync } from "node:child_process";
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import pg from "pg";
import { RunningServer } from "./running-server";
import { firstRig, id, visitBody } from "./sample-records";

const folders: string[] = [];
const newFolder = () => {
  const folder = mkdtempSync(join(tmpdir(), "winter-bead-launch-"));
  folders.push(folder);
  return folder;
};
/** Ended with its test, also where that fails half-way. */
const running: RunningServer[] = [];
const launched = async (options: Parameters<typeof RunningServer.start>[0]) => {
  const server = await RunningServer.start(options);
  running.push(server);
  return server;
};
afterEach(() => Promise.all(running.splice(0).map((server) => server.end())));
afterAll(() => folders.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

const complaint = (options: Parameters<typeof RunningServer.start>[0]) =>
  RunningServer.start(options).then(
    () => "started",
    (error: Error) => error.message,
  );

const isRunning = (pid: number) =>
  existsSync(`/proc/${pid}`) && !/\) Z/.test(readFileSync(`/proc/${pid}/stat`, "utf8"));

async function listed(server: RunningServer): Promise<number> {
  return ((await server.request("GET", "/api/v1/visits?limit=1000")).body as { items: unknown[] }).items.length;
}

describe("a clean life", () => {
  test("SIGTERM stops the server and its database, and the next start finds everything", async () => {
    const server = await launched({ dataFolder: newFolder() });
    const ids = await firstRig(server);
    await server.request("PUT", `/api/v1/visits/${id()}`, visitBody(ids, 4));
    const { databasePid } = server;
    expect(await server.end("SIGTERM")).toBe(0);
    expect(isRunning(databasePid)).toBe(false);
    await server.again();
    expect(await listed(server)).toBe(1);
    expect(await server.end("SIGINT")).toBe(0);
  });

  test("an empty database gets the demo, and a reset says what goes, backs it up and brings a fresh one", async () => {
    const dataFolder = newFolder();
    const first = await launched({ dataFolder, flags: [] });
    const visits = await listed(first);
    expect(visits).toBeGreaterThan(200);
    await first.end();
    const second = await launched({ dataFolder, flags: ["--demo-reset"] });
    expect(second.output).toMatch(/3 rigs, 4 vessels, \d+ charges and \d+ visits go/);
    const backup = /They are in (\S+)/.exec(second.output)![1]!;
    expect(existsSync(backup)).toBe(true);
    expect(Math.abs((await listed(second)) - visits)).toBeLessThan(3);
    await second.end();

    const root = resolve(__dirname, "../..");
    const restored = spawnSync(process.execPath, [join(root, "server/dist/restore.mjs"), backup], {
      encoding: "utf8",
      env: { ...process.env, WINTER_BEAD_DATA: dataFolder },
    });
    expect(restored.stdout).toMatch(/^Restored 3 rigs/);
    const made = spawnSync(process.execPath, [join(root, "server/dist/backup.mjs")], {
      encoding: "utf8",
      env: { ...process.env, WINTER_BEAD_DATA: dataFolder },
    });
    expect(existsSync(/Everything is in (\S+)/.exec(made.stdout)![1]!)).toBe(true);
  });
});

describe("after kill -9", () => {
  test("of the server, its database left behind is taken over with nothing lost", async () => {
    const server = await launched({ dataFolder: newFolder() });
    const ids = await firstRig(server);
    await server.request("PUT", `/api/v1/visits/${id()}`, visitBody(ids, 4));
    const orphan = server.databasePid;
    await server.end("SIGKILL");
    expect(isRunning(orphan)).toBe(true);
    await server.again();
    expect(isRunning(orphan)).toBe(false);
    expect(await listed(server)).toBe(1);
    await server.end();
  });

  test("of the database, the running server starts it again by itself", async () => {
    const server = await launched({ dataFolder: newFolder() });
    const ids = await firstRig(server);
    const before = server.databasePid;
    server.killDatabase();
    const key = id();
    const visit = visitBody(ids, 5);
    const statuses: number[] = [];
    while (statuses[statuses.length - 1] !== 201 && statuses.length < 200) {
      statuses.push((await server.request("PUT", `/api/v1/visits/${key}`, visit)).status);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect(new Set(statuses.slice(0, -1)).size).toBeLessThanOrEqual(1);
    expect(statuses.slice(0, -1).every((status) => status === 503)).toBe(true);
    expect(server.databasePid).not.toBe(before);
    expect(await listed(server)).toBe(1);
    await server.end();
  });

  test("of both, and with a stale pid file that names a living stranger, the next start recovers", async () => {
    const server = await launched({ dataFolder: newFolder() });
    await firstRig(server);
    const { databasePid } = server;
    await server.end("SIGKILL");
    process.kill(databasePid, "SIGKILL");
    const file = join(server.dataFolder, "postgres", "postmaster.pid");
    writeFileSync(file, readFileSync(file, "utf8").replace(/^\d+/, String(process.pid)));
    writeFileSync(join(server.dataFolder, "winter-bead.pid"), `${process.pid} 1`);
    await server.again();
    expect(((await server.request("GET", "/api/v1/rigs")).body as { items: unknown[] }).items).toHaveLength(1);
    await server.end();
  });
});

(process.getuid?.() === 0 ? test : test.skip)(
  "root's own closed folder, which no other user can enter, still holds a database",
  async () => {
    const closed = newFolder();
    chmodSync(closed, 0o700);
    const server = await launched({ dataFolder: join(closed, "data") });
    expect(await listed(server)).toBe(0);
    await server.end();
    await server.again();
    await server.end();
  },
);

describe("what stands in the way is said in one sentence", () => {
  test("a taken port", async () => {
    const taken = createServer().listen(0, "127.0.0.1");
    await new Promise((resolve) => taken.once("listening", resolve));
    const { port } = taken.address() as { port: number };
    expect(await complaint({ dataFolder: newFolder(), port })).toMatch(
      new RegExp(`^exit 1: Winter Bead cannot start: Port ${port} is taken[^\n]*\n$`),
    );
    taken.close();
  });

  test("a data folder that is a file, or below one", async () => {
    const file = join(newFolder(), "file");
    writeFileSync(file, "");
    expect(await complaint({ dataFolder: file })).toMatch(
      /^exit 1: Winter Bead cannot start: The data folder [^\n]* is a file[^\n]*\n$/,
    );
    expect(await complaint({ dataFolder: join(file, "below") })).toMatch(
      /^exit 1: Winter Bead cannot start: The data folder [^\n]* lies below something[^\n]*\n$/,
    );
  });

  test("a flag that does not exist, a port that is none", async () => {
    expect(await complaint({ flags: ["--wat"] })).toMatch(/exit 1: Winter Bead cannot start: .*--demo-reset/s);
  });

  test("a second start on the same data", async () => {
    const server = await launched({ dataFolder: newFolder() });
    expect(await complaint({ dataFolder: server.dataFolder })).toMatch(/already runs on this data folder/);
    await server.end();
  });

  test("data of a newer Winter Bead, or of a newer PostgreSQL", async () => {
    const server = await launched({ dataFolder: newFolder() });
    const { ownerPassword } = JSON.parse(readFileSync(join(server.dataFolder, "secrets.json"), "utf8")) as {
      ownerPassword: string;
    };
    const owner = new pg.Client({
      host: "127.0.0.1",
      port: Number(readFileSync(join(server.dataFolder, "postgres.port"), "utf8")),
      user: "winter_bead_owner",
      password: ownerPassword,
      database: "winter_bead",
    });
    await owner.connect();
    await owner.query(`INSERT INTO migrations (timestamp, name) VALUES (9999999999999, 'FromTheFuture9999999999999')`);
    await owner.end();
    await server.end();
    expect(await complaint({ dataFolder: server.dataFolder })).toMatch(/written by a newer Winter Bead/);
    writeFileSync(join(server.dataFolder, "postgres", "PG_VERSION"), "99\n");
    expect(await complaint({ dataFolder: server.dataFolder })).toMatch(/made by a newer PostgreSQL \(99/);
  });
});
