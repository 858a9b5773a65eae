import pg from "pg";
import type { DataSource } from "typeorm";
import { BUILT_IN_CREW } from "../store/crew-scope";
import { dataSource, MIGRATION_NAMES, SERVING, unknownMigrations, type DatabaseAddress } from "../store/data-source";
import type { Secrets } from "./data-folder";
import { APP, OWNER } from "./postgres";
import { Trouble } from "./trouble";

export const DATABASE = "winter_bead";

const identifier = (name: string) => pg.escapeIdentifier(name);

/** Makes the database and the role the server works under; both may be there already. */
export async function createDatabase(
  port: number,
  database: string,
  { ownerPassword, appPassword }: Secrets,
): Promise<void> {
  const client = new pg.Client({ host: "127.0.0.1", port, user: OWNER, password: ownerPassword, database: "postgres" });
  await client.connect();
  try {
    const role = await client.query("SELECT 1 FROM pg_roles WHERE rolname = $1", [APP]);
    if (role.rowCount === 0) await client.query(`CREATE ROLE ${identifier(APP)} LOGIN NOBYPASSRLS`);
    await client.query(`ALTER ROLE ${identifier(APP)} PASSWORD ${pg.escapeLiteral(appPassword)}`);
    const known = await client.query("SELECT 1 FROM pg_database WHERE datname = $1", [database]);
    if (known.rowCount === 0)
      await client.query(`CREATE DATABASE ${identifier(database)} TEMPLATE template0 ENCODING 'UTF8'`);
    await client.query(`REVOKE CONNECT ON DATABASE ${identifier(database)} FROM PUBLIC`);
    await client.query(`GRANT CONNECT ON DATABASE ${identifier(database)} TO ${identifier(APP)}`);
  } finally {
    await client.end();
  }
}

async function migrate(owner: DataSource, folder: string): Promise<void> {
  const unknown = await unknownMigrations(owner);
  if (unknown.length > 0) {
    throw new Trouble(
      `The data in ${folder} were written by a newer Winter Bead (it knows ${unknown.length} steps that this one does not); update the program, the data are untouched.`,
    );
  }
  await owner.runMigrations();
  await owner.query(`INSERT INTO crew (id, name) VALUES ($1, 'My crew') ON CONFLICT DO NOTHING`, [BUILT_IN_CREW]);
}

export interface Prepared {
  /** The server's own pool, held by row-level security to one crew at a time. */
  readonly source: DataSource;
  readonly app: DatabaseAddress;
  readonly owner: DatabaseAddress;
}

/** Whether the database stands as this program's last start left it: then there is nothing to prepare. */
async function isUpToDate(owner: DatabaseAddress): Promise<boolean> {
  const { port, database, user, password } = owner;
  const client = new pg.Client({ host: "127.0.0.1", port, database, user, password });
  try {
    await client.connect();
    const { rows } = await client.query<{ name: string }>("SELECT name FROM migrations ORDER BY id");
    const crew = await client.query("SELECT 1 FROM crew WHERE id = $1", [BUILT_IN_CREW]);
    return crew.rowCount === 1 && rows.map(({ name }) => name).join() === MIGRATION_NAMES.join();
  } catch {
    return false;
  } finally {
    await client.end().catch(() => undefined);
  }
}

export async function prepareAll(owner: DatabaseAddress, secrets: Secrets, folder: string): Promise<void> {
  await createDatabase(owner.port, owner.database, secrets);
  const asOwner = await dataSource(owner).initialize();
  try {
    await migrate(asOwner, folder);
  } finally {
    await asOwner.destroy();
  }
}

/** A database that is there, up to date and open to the server's own role. */
export async function prepareDatabase(
  port: number,
  secrets: Secrets,
  folder: string,
  database = DATABASE,
): Promise<Prepared> {
  const owner: DatabaseAddress = { port, database, user: OWNER, password: secrets.ownerPassword };
  const app: DatabaseAddress = { port, database, user: APP, password: secrets.appPassword };
  if (await isUpToDate(owner)) {
    const source = await dataSource(app, SERVING)
      .initialize()
      .catch(() => undefined);
    if (source) return { source, app, owner };
  }
  await prepareAll(owner, secrets, folder);
  return { source: await dataSource(app, SERVING).initialize(), app, owner };
}
