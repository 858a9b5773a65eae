import { existsSync } from "node:fs";
import { resolve } from "node:path";
import pg from "pg";
import type { Secrets } from "./launch/data-folder";
import { backUp, inventory } from "./launch/demo-data";
import { openDatabase, runCommand } from "./launch/open-database";
import { OWNER } from "./launch/postgres";
import { createDatabase, DATABASE, prepareAll, prepareDatabase } from "./launch/prepare-database";
import { Trouble } from "./launch/trouble";
import { Archive, UNCHANGED } from "./restoring/archive";
import { loadRows } from "./restoring/load-rows";
import { checkWalls } from "./restoring/walls";
import { dataSource, MIGRATION_NAMES, type DatabaseAddress } from "./store/data-source";

/** Where a backup is unpacked and looked at before it takes the place of what is here. */
const UNPACKED = "winter_bead_restoring";
const REPLACED = "winter_bead_replaced";

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

/** The steps that had been taken when a backup was made, oldest first. */
async function stepsOf(archive: Archive): Promise<readonly string[]> {
  const steps: { readonly at: number; readonly name: string }[] = [];
  let columns: readonly string[] = [];
  for await (const line of archive.rows("migrations")) {
    if (!Buffer.isBuffer(line)) {
      columns = line;
      continue;
    }
    const cells = line.toString().split("\t");
    steps.push({ at: Number(cells[columns.indexOf("id")]), name: cells[columns.indexOf("name")] ?? "" });
  }
  return steps.sort((a, b) => a.at - b.at).map(({ name }) => name);
}

/** A schema of our own as it was when the backup was made, with the backup's rows in it; then brought up to today's. */
async function unpack(address: DatabaseAddress, secrets: Secrets, archive: Archive): Promise<void> {
  const held = archive.tables();
  const steps = await stepsOf(archive);
  if (steps.join() !== MIGRATION_NAMES.slice(0, steps.length).join() || steps.length === 0)
    throw new Trouble(
      `${archive.file} was written by a newer Winter Bead, or by something else: it knows steps that this one does not. Update the program and try again. ${UNCHANGED}`,
    );
  const schema = await dataSource(address, {}, steps.length).initialize();
  await schema.runMigrations();
  const tables: readonly { readonly name: string }[] = await schema.query(
    "SELECT relname AS name FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind = 'r' AND relname <> 'migrations'",
  );
  await schema.destroy();
  const here = new Set(tables.map(({ name }) => name));
  const strange = held.find((table) => table !== "migrations" && !here.has(table));
  if (strange !== undefined) throw archive.holds(`a table ${strange}`);
  await loadRows(
    address,
    archive,
    held.filter((table) => here.has(table)),
  );
  await prepareAll(address, secrets, archive.file);
  await checkWalls(address);
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
    await unpack({ ...address, database: UNPACKED }, secrets, new Archive(programFolder, resolve(file)));
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
