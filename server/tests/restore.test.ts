import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { RECORD_KINDS } from "@winter-bead/contract";
import type { DataSource } from "typeorm";
import { database, undoThrough } from "./database";
import { RunningServer } from "./running-server";
import { firstRig, id } from "./sample-records";

/* Only rows are taken from a backup: into a schema of our own, behind walls that are looked at afterwards. */

const root = resolve(__dirname, "../..");
const folder = mkdtempSync(join(tmpdir(), "winter-bead-restore-"));
let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start({ flags: [] });
});
afterAll(async () => {
  await server.remove();
  rmSync(folder, { recursive: true, force: true });
});

const command = (name: "backup" | "restore", ...words: string[]) =>
  spawnSync(process.execPath, [join(root, `server/dist/${name}.mjs`), ...words], {
    encoding: "utf8",
    env: { ...process.env, WINTER_BEAD_DATA: server.dataFolder },
  });

/** Everything that the crew has, as the server tells it. */
const everything = async () =>
  Promise.all(RECORD_KINDS.map(async (kind) => (await server.request("GET", `/api/v1/${kind}?limit=1000`)).body));

/** A dump of the running server's database, whatever was done to it, or of another database beside it. */
function dump(name: string, of = "winter_bead"): string {
  const { ownerPassword } = JSON.parse(readFileSync(join(server.dataFolder, "secrets.json"), "utf8")) as {
    ownerPassword: string;
  };
  const port = readFileSync(join(server.dataFolder, "postgres.port"), "utf8");
  const file = join(folder, `${name}.dump`);
  const asOwner = ["-h", "127.0.0.1", "-p", port, "-U", "winter_bead_owner"];
  const { status, stderr } = spawnSync("pg_dump", [...asOwner, "-Fc", "-f", file, of], {
    encoding: "utf8",
    env: { ...process.env, PGPASSWORD: ownerPassword },
  });
  expect([status, stderr]).toEqual([0, ""]);
  return file;
}

/** Does something to the database as its owner, takes a dump, and undoes it again. */
async function dumpWith(name: string, does: string, undoes: string): Promise<string> {
  const owner = await database(server, "owner");
  await owner.query(does);
  const file = dump(name);
  await owner.query(undoes);
  await owner.destroy();
  return file;
}

async function restored(file: string) {
  await server.end();
  const answer = command("restore", file);
  await server.again();
  return answer;
}

test("everything is back as it was, to the last sign of a note", async () => {
  const note = 'First\nsecond\ttab \\. back\\slash \u2028 line \u00e9 \u{1f4a7} "quoted" \\N';
  expect((await server.request("PUT", `/api/v1/sites/${id()}`, { name: "Slip", note })).status).toBe(201);
  const before = await everything();
  const file = dump("whole");
  await server.request("PUT", `/api/v1/sites/${id()}`, { name: "After the backup" });
  const { stdout, stderr } = await restored(file);
  expect([stdout, stderr]).toEqual([expect.stringMatching(/^Restored 3 rigs, .* What was here before is in /), ""]);
  expect(await everything()).toEqual(before);
  const owner = await database(server, "owner");
  expect(await owner.query("SELECT 1 FROM pg_roles WHERE rolname = 'winter_bead_loader'")).toEqual([]);
  await owner.destroy();
  expect((await server.request("PUT", `/api/v1/sites/${id()}`, { name: "Goes on" })).status).toBe(201);
});

test("a backup of an older schema is brought up to today's", async () => {
  const before = await everything();
  const owner = await database(server, "owner");
  await undoThrough(owner, "Pressure1796000000007");
  const file = dump("older");
  await owner.runMigrations();
  await owner.destroy();
  const { stdout, stderr } = await restored(file);
  expect([stdout, stderr]).toEqual([expect.stringMatching(/^Restored /), ""]);
  expect(await everything()).toEqual(before);
});

test("what would run by itself is refused by its name, and nothing was changed", async () => {
  await firstRig(server);
  const before = await everything();
  const body = "RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NULL; END'";
  const files = [
    await dumpWith("function", `CREATE FUNCTION evil() ${body}`, "DROP FUNCTION evil()"),
    await dumpWith(
      "trigger",
      `CREATE FUNCTION evil() ${body}; CREATE TRIGGER evil AFTER INSERT ON site EXECUTE FUNCTION evil()`,
      "DROP TRIGGER evil ON site; DROP FUNCTION evil()",
    ),
    await dumpWith("table", "CREATE TABLE sheep (name text)", "DROP TABLE sheep"),
    await dumpWith("view", "CREATE VIEW sheep AS SELECT 1 AS one", "DROP VIEW sheep"),
    await dumpWith("extension", "CREATE EXTENSION hstore", "DROP EXTENSION hstore"),
  ];
  await server.end();
  for (const file of files) {
    const { status, stderr } = command("restore", file);
    expect([file, status, stderr]).toEqual([
      file,
      1,
      expect.stringMatching(/holds something that no backup of Winter Bead holds \(.*\).*Nothing was changed\./),
    ]);
  }
  await server.again();
  expect(await everything()).toEqual(before);
});

test("a row that the schema does not take, and steps that nobody knows, are refused whole", async () => {
  const before = await everything();
  const orphan = await dumpWith(
    "orphan",
    "ALTER TABLE tap DROP CONSTRAINT site_id_known; UPDATE tap SET site_id = gen_random_uuid()",
    "SELECT 1",
  );
  const unknown = await dumpWith(
    "unknown",
    "INSERT INTO migrations (timestamp, name) VALUES (1, 'FromElsewhere1')",
    "DELETE FROM migrations WHERE name = 'FromElsewhere1'",
  );
  await server.end();
  expect(command("restore", orphan).stderr).toMatch(/holds a row that can't be kept .*Nothing was changed\./);
  expect(command("restore", unknown).stderr).toMatch(/knows steps that this one does not.*Nothing was changed\./);
  const whole = command("restore", join(folder, "older.dump"));
  expect(whole.stderr).toBe("");
  await server.again();
  expect((await everything()).length).toBe(before.length);
});

test("walls that a dump lacks are there all the same: they are ours, not the dump's", async () => {
  const open = await dumpWith(
    "open",
    "ALTER TABLE site DISABLE ROW LEVEL SECURITY; DROP POLICY own_crew ON visit; ALTER TABLE rig DROP COLUMN retired_on",
    "SELECT 1",
  );
  expect((await restored(open)).stderr).toBe("");
  const owner: DataSource = await database(server, "owner");
  const bare = await owner.query(
    `SELECT relname FROM pg_class AS c WHERE relnamespace = 'public'::regnamespace AND relkind = 'r' AND relname <> 'migrations'
       AND (NOT relrowsecurity OR NOT EXISTS (SELECT 1 FROM pg_policies WHERE tablename = c.relname AND policyname = 'own_crew'))`,
  );
  await owner.destroy();
  expect(bare).toEqual([]);
});

test("a file of something else is not restored, and what was here stays", async () => {
  const before = await everything();
  const owner = await database(server, "owner");
  await owner.query("CREATE DATABASE foreigners");
  await owner.destroy();
  const foreign = dump("foreign", "foreigners");
  const text = join(folder, "notes.txt");
  writeFileSync(text, "no dump at all");
  await server.end();
  expect(command("restore", foreign).stderr).toMatch(/is not a backup of Winter Bead\. Nothing was changed\./);
  expect(command("restore", text).stderr).toMatch(/is no backup that can be read .*Nothing was changed\./);
  await server.again();
  expect(await everything()).toEqual(before);
});

test("a backup of a running server is refused, with how long a stop takes", () => {
  const { status, stderr } = command("backup");
  expect(status).toBe(1);
  expect(stderr).toMatch(
    /already runs on this data folder.*stop it first .*about a second, half a minute at the very most/,
  );
});
