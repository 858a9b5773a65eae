import pg from "pg";
import { Trouble } from "../launch/trouble";
import type { DatabaseAddress } from "../store/data-source";

/** Tables that belong to no crew. */
const NO_CREW = "migrations";

/**
 * Whether the walls between crews stand in a database: row-level security on every table, one policy each that goes by the
 * crew, and nothing there that runs by itself.
 *
 * @throws Trouble with what is missing
 */
export async function checkWalls({ port, database, user, password }: DatabaseAddress): Promise<void> {
  const client = new pg.Client({ host: "127.0.0.1", port, database, user, password });
  await client.connect();
  try {
    const { rows: open } = await client.query<{ name: string }>(
      `SELECT c.relname AS name FROM pg_class AS c WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p')
         AND c.relname <> $1 AND (NOT c.relrowsecurity OR 1 <> (SELECT count(*) FROM pg_policies AS p
           WHERE p.schemaname = 'public' AND p.tablename = c.relname AND p.permissive = 'PERMISSIVE'
             AND p.qual LIKE '%winter_bead.crew%' AND p.policyname = 'own_crew')
           OR EXISTS (SELECT 1 FROM pg_policies AS p WHERE p.schemaname = 'public' AND p.tablename = c.relname
             AND p.policyname <> 'own_crew'))`,
      [NO_CREW],
    );
    if (open.length > 0)
      throw new Trouble(`The walls between crews do not stand around ${open.map(({ name }) => name).join(", ")}.`);
    const { rows: running } = await client.query<{ name: string }>(
      `SELECT tgname AS name FROM pg_trigger WHERE NOT tgisinternal
       UNION ALL SELECT proname FROM pg_proc WHERE pronamespace = 'public'::regnamespace
       UNION ALL SELECT evtname FROM pg_event_trigger
       UNION ALL SELECT relname FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind IN ('v', 'm', 'f')`,
    );
    if (running.length > 0)
      throw new Trouble(
        `Something stands in the database that is not ours: ${running.map(({ name }) => name).join(", ")}.`,
      );
    const { rows: role } = await client.query<{ free: boolean }>(
      "SELECT rolsuper OR rolbypassrls AS free FROM pg_roles WHERE rolname = 'winter_bead_app'",
    );
    if (role[0]?.free !== false) throw new Trouble("The server's own role could pass the walls between crews.");
  } finally {
    await client.end();
  }
}
