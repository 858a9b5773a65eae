import type { QueryRunner } from "typeorm";

/** Columns that every kept record's table starts with. */
export const KEPT = `crew_id uuid NOT NULL REFERENCES crew (id), id uuid NOT NULL, version integer NOT NULL CHECK (version >= 1), voided boolean NOT NULL DEFAULT false,
  PRIMARY KEY (crew_id, id)`;

/** A reference within the same crew, by the name that a complaint looks for. */
export const reference = (column: string, table: string) =>
  `CONSTRAINT ${column}_known FOREIGN KEY (crew_id, ${column}) REFERENCES ${table} (crew_id, id) DEFERRABLE INITIALLY IMMEDIATE`;

/** Row-level security as the second wall between crews, and what the server's own role may do. */
export async function guard(runner: QueryRunner, table: string, rights: string): Promise<void> {
  await runner.query(`ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY`);
  await runner.query(
    `CREATE POLICY own_crew ON ${table} USING (crew_id = nullif(current_setting('winter_bead.crew', true), '')::uuid)`,
  );
  await runner.query(`GRANT ${rights} ON ${table} TO winter_bead_app`);
}
