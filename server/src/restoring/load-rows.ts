import { once } from "node:events";
import { randomBytes } from "node:crypto";
import pg from "pg";
import { from as copyFrom } from "pg-copy-streams";
import { Trouble } from "../launch/trouble";
import type { DatabaseAddress } from "../store/data-source";
import { UNCHANGED, type Archive } from "./archive";

/** May write rows of every crew, and nothing else: no schema, no program of the machine. */
const LOADER = "winter_bead_loader";

/** Rows that others refer to, in the order in which they must be there. */
const FIRST = ["crew", "act"];

const nameOf = (name: string) => pg.escapeIdentifier(name);

/** Makes the role that loads. @returns its password, good for this restore */
async function makeLoader(owner: pg.Client, tables: readonly string[]): Promise<string> {
  const password = randomBytes(24).toString("hex");
  const known = await owner.query("SELECT 1 FROM pg_roles WHERE rolname = $1", [LOADER]);
  if (known.rowCount === 0) await owner.query(`CREATE ROLE ${LOADER}`);
  await owner.query(
    `ALTER ROLE ${LOADER} LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE BYPASSRLS PASSWORD ${pg.escapeLiteral(password)}`,
  );
  const { rows } = await owner.query<{ name: string }>("SELECT current_database() AS name");
  await owner.query(`GRANT CONNECT ON DATABASE ${nameOf(rows[0]!.name)} TO ${LOADER}`);
  await owner.query(`GRANT INSERT ON ${tables.map((table) => `public.${nameOf(table)}`).join(", ")} TO ${LOADER}`);
  return password;
}

async function loadTable(client: pg.Client, archive: Archive, table: string): Promise<void> {
  const rows = archive.rows(table);
  const first = await rows.next();
  if (first.done || Buffer.isBuffer(first.value))
    throw new Trouble(`The rows of ${table} in ${archive.file} can't be read. ${UNCHANGED}`);
  const columns = first.value.map(nameOf).join(", ");
  const into = client.query(copyFrom(`COPY public.${nameOf(table)} (${columns}) FROM STDIN`));
  const ended = new Promise<void>((done, failed) => {
    into.once("finish", done);
    into.once("error", failed);
  });
  // Waited for below; until then nobody is to be told.
  ended.catch(() => undefined);
  for await (const row of rows) {
    if (into.destroyed) break;
    if (!into.write(Buffer.concat([row as Buffer, Buffer.from("\n")])))
      await Promise.race([once(into, "drain"), ended]);
  }
  into.end();
  await ended;
}

/**
 * Loads the rows of a backup into an empty schema of ours, all of them or none.
 *
 * @param tables those that are loaded
 * @throws Trouble where a row is none that the schema takes
 */
export async function loadRows(address: DatabaseAddress, archive: Archive, tables: readonly string[]): Promise<void> {
  const { port, database } = address;
  const at = { host: "127.0.0.1", port, database };
  const owner = new pg.Client({ ...at, user: address.user, password: address.password });
  await owner.connect();
  try {
    const password = await makeLoader(owner, tables);
    const client = new pg.Client({ ...at, user: LOADER, password });
    await client.connect();
    try {
      await client.query("BEGIN");
      await client.query("SET CONSTRAINTS ALL DEFERRED");
      const order = [...FIRST.filter((table) => tables.includes(table)), ...tables.filter((t) => !FIRST.includes(t))];
      for (const table of order) await loadTable(client, archive, table);
      await client.query("COMMIT");
    } catch (error) {
      if (error instanceof Trouble) throw error;
      throw new Trouble(`${archive.file} holds a row that can't be kept (${(error as Error).message}). ${UNCHANGED}`);
    } finally {
      await client.end().catch(() => undefined);
    }
  } finally {
    await owner.query(`DROP OWNED BY ${LOADER}`).catch(() => undefined);
    await owner.query(`DROP ROLE IF EXISTS ${LOADER}`).catch(() => undefined);
    await owner.end();
  }
}
