import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { join, resolve } from "node:path";
import pg from "pg";
import type { Secrets } from "./launch/data-folder";
import { backUp, inventory } from "./launch/demo-data";
import { openDatabase, runCommand } from "./launch/open-database";
import { OWNER } from "./launch/postgres";
import { createDatabase, DATABASE, prepareAll, prepareDatabase } from "./launch/prepare-database";
import { Trouble } from "./launch/trouble";
import type { DatabaseAddress } from "./store/data-source";

/** Where a backup is unpacked and looked at before it takes the place of what is here. */
const UNPACKED = "winter_bead_restoring";
const REPLACED = "winter_bead_replaced";
const UNCHANGED = "Nothing was changed.";

/** Runs statements as the database's owner, one by one and each for good. */
async function asOwner<T>(
  { port, password }: DatabaseAddress,
  database: string,
  work: (client: pg.Client) => Promise<T>,
): Promise<T> {
  const client = new pg.Client({ host: "127.0.0.1", port, user: OWNER, password, database });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

const drop = (address: DatabaseAddress, database: string) =>
  asOwner(address, "postgres", (client) => client.query(`DROP DATABASE IF EXISTS ${database} WITH (FORCE)`));

function unpack(programFolder: string, { port, password }: DatabaseAddress, file: string): void {
  const { status, stderr } = spawnSync(
    join(programFolder, "pg_restore"),
    ["-h", "127.0.0.1", "-p", String(port), "-U", OWNER, "-d", UNPACKED, "--single-transaction", resolve(file)],
    { encoding: "utf8", env: { ...process.env, PGPASSWORD: password } },
  );
  if (status !== 0)
    throw new Trouble(`${file} is no backup that can be read (${stderr.trim().split("\n")[0]}). ${UNCHANGED}`);
}

/** A file of some other database unpacks as well as our own: it is known by its tables. */
async function checkOurs(address: DatabaseAddress, file: string): Promise<void> {
  const ours = await asOwner(address, UNPACKED, async (client) => {
    const { rows } = await client.query(
      "SELECT to_regclass('public.migrations') AS a, to_regclass('public.crew') AS b, to_regclass('public.record_version') AS c",
    );
    return Object.values(rows[0] as object).every((table) => table !== null);
  });
  if (!ours) throw new Trouble(`${file} is not a backup of Winter Bead. ${UNCHANGED}`);
}

/** Puts the unpacked database in the place of the one that is here. */
async function swap(address: DatabaseAddress): Promise<void> {
  await drop(address, REPLACED);
  await asOwner(address, "postgres", async (client) => {
    await client.query("BEGIN");
    await client.query(`ALTER DATABASE ${DATABASE} RENAME TO ${REPLACED}`);
    await client.query(`ALTER DATABASE ${UNPACKED} RENAME TO ${DATABASE}`);
    await client.query("COMMIT");
  });
  await drop(address, REPLACED);
}

async function restore(address: DatabaseAddress, programFolder: string, secrets: Secrets, file: string): Promise<void> {
  await drop(address, UNPACKED);
  try {
    await createDatabase(address.port, UNPACKED, secrets);
    unpack(programFolder, address, file);
    await checkOurs(address, file);
    await prepareAll({ ...address, database: UNPACKED }, secrets, file);
    await swap(address);
  } finally {
    await drop(address, UNPACKED);
  }
}

runCommand(async () => {
  const file = process.argv[2];
  if (!file || !existsSync(file))
    throw new Trouble("name the backup file, such as bin/restore .data/backups/2027-03-01.dump.");
  const { folder, postgres, secrets, close } = await openDatabase();
  try {
    const { source: present, owner } = await prepareDatabase(postgres.port, secrets, folder.path);
    await present.destroy();
    const stamp = new Date().toISOString().replaceAll(/[:.]/g, "-");
    const before = backUp(postgres.programFolder, folder.backups, owner, `before-restore-${stamp}`);
    await restore(owner, postgres.programFolder, secrets, file);
    const { source } = await prepareDatabase(postgres.port, secrets, folder.path);
    process.stdout.write(`Restored ${await inventory(source)}. What was here before is in ${before}\n`);
    await source.destroy();
  } finally {
    await close();
  }
}, "Nothing was restored");
