import type { MigrationInterface, QueryRunner } from "typeorm";
import { guard } from "./kept-table";

/** Columns whose names were not the words that everything else uses. */
const RENAMED = [
  ["rig", "water_use", "use"],
  ["plan", "water_use", "use"],
  ["plan", "chosen_option", "option"],
  ["meter", "standard_check", "check"],
  ["meter", "pure_water_offset", "offset"],
  ["water_report", "figures", "values"],
] as const;

const RETIRING = ["tap", "meter", "vessel", "rig"] as const;

const NEW_COLUMNS = [
  ...RETIRING.map((table) => `ALTER TABLE ${table} ADD COLUMN retired_on date`),
  `ALTER TABLE charge ADD COLUMN part_used jsonb, ADD COLUMN left_out boolean`,
];

/** A database that once stood higher and was taken back has these in its versions: nothing is lost on the way. */
const KEPT_IN_VERSIONS = [
  ["tap", "taps", "retired_on", "(body->>'retiredOn')::date"],
  ["meter", "meters", "retired_on", "(body->>'retiredOn')::date"],
  ["vessel", "vessels", "retired_on", "(body->>'retiredOn')::date"],
  ["rig", "rigs", "retired_on", "(body->>'retiredOn')::date"],
  ["charge", "charges", "part_used", "body->'partUsed'"],
  ["charge", "charges", "left_out", "(body->>'leftOut')::boolean"],
].map(
  ([table, kind, column, value]) => `UPDATE ${table} AS kept SET ${column} = ${value} FROM record_version AS known
    WHERE known.kind = '${kind}' AND known.crew_id = kept.crew_id AND known.id = kept.id AND known.version = kept.version`,
);

/** Every version from before gets an act of its own: nobody noted what belonged together, nor who did it. */
const ACTS = [
  `CREATE TABLE act (crew_id uuid NOT NULL REFERENCES crew (id), id uuid NOT NULL, at timestamptz(3) NOT NULL, what text NOT NULL,
    undoes uuid, author text, accepted_at timestamptz(3) NOT NULL DEFAULT now(), PRIMARY KEY (crew_id, id))`,
  `CREATE TABLE crew_counter (crew_id uuid PRIMARY KEY REFERENCES crew (id), last bigint NOT NULL)`,
  `ALTER TABLE record_version ADD COLUMN seq bigint, ADD COLUMN act_id uuid, ADD COLUMN shape integer NOT NULL DEFAULT 1`,
  `UPDATE record_version SET seq = numbered.n, act_id = gen_random_uuid()
    FROM (SELECT crew_id, kind, id, version, row_number() OVER (PARTITION BY crew_id ORDER BY accepted_at, kind, id, version) AS n FROM record_version) AS numbered
    WHERE record_version.crew_id = numbered.crew_id AND record_version.kind = numbered.kind
      AND record_version.id = numbered.id AND record_version.version = numbered.version`,
  `INSERT INTO act (crew_id, id, at, what, accepted_at)
    SELECT crew_id, act_id, accepted_at, 'Kept before acts were noted', accepted_at FROM record_version`,
  `INSERT INTO crew_counter (crew_id, last) SELECT crew_id, max(seq) FROM record_version GROUP BY crew_id`,
  `ALTER TABLE record_version ALTER COLUMN seq SET NOT NULL, ALTER COLUMN act_id SET NOT NULL, ALTER COLUMN body DROP NOT NULL,
    ADD CONSTRAINT seq_once UNIQUE (crew_id, seq), ADD CONSTRAINT act_known FOREIGN KEY (crew_id, act_id) REFERENCES act (crew_id, id)`,
  `CREATE INDEX version_by_act ON record_version (crew_id, act_id)`,
];

/** Versions that took a record back have no body since: each gets that of the version before it again. */
const BODIES_AGAIN = `UPDATE record_version AS taken SET body = (
    SELECT body FROM record_version AS before
    WHERE before.crew_id = taken.crew_id AND before.kind = taken.kind AND before.id = taken.id
      AND before.version < taken.version AND before.body IS NOT NULL
    ORDER BY before.version DESC LIMIT 1)
  WHERE taken.body IS NULL`;

/** Acts with their author, the crew's numbers, what is retired, and columns named as the fields are. */
export class Acts1795800000005 implements MigrationInterface {
  readonly name = "Acts1795800000005";

  async up(runner: QueryRunner): Promise<void> {
    for (const [table, from, to] of RENAMED)
      await runner.query(`ALTER TABLE ${table} RENAME COLUMN ${from} TO "${to}"`);
    for (const statement of [...NEW_COLUMNS, ...KEPT_IN_VERSIONS, ...ACTS]) await runner.query(statement);
    await guard(runner, "act", "SELECT, INSERT");
    await guard(runner, "crew_counter", "SELECT, INSERT, UPDATE");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(BODIES_AGAIN);
    await runner.query(`ALTER TABLE record_version ALTER COLUMN body SET NOT NULL,
      DROP COLUMN seq, DROP COLUMN act_id, DROP COLUMN shape`);
    await runner.query(`DROP TABLE crew_counter`);
    await runner.query(`DROP TABLE act`);
    await runner.query(`ALTER TABLE charge DROP COLUMN part_used, DROP COLUMN left_out`);
    for (const table of RETIRING) await runner.query(`ALTER TABLE ${table} DROP COLUMN retired_on`);
    for (const [table, from, to] of RENAMED)
      await runner.query(`ALTER TABLE ${table} RENAME COLUMN "${to}" TO ${from}`);
  }
}
