import type { MigrationInterface, QueryRunner } from "typeorm";
import { guard, KEPT, reference } from "./kept-table";

const STATEMENTS = [
  `CREATE TABLE plan (${KEPT}, name text NOT NULL, kept_at timestamptz(3) NOT NULL, water_use text NOT NULL,
    tap_id uuid NOT NULL, job_name text NOT NULL, work jsonb NOT NULL, chosen_option jsonb NOT NULL, expected jsonb NOT NULL,
    currency text NOT NULL, rig_id uuid, in_use_since timestamptz(3), note text,
    ${reference("tap_id", "tap")}, ${reference("rig_id", "rig")})`,
  `CREATE TABLE price_list (${KEPT}, set_on date NOT NULL, currency text NOT NULL, prices jsonb NOT NULL)`,
];

const TABLES = ["plan", "price_list"];

/** Plans that were accepted, and the crew's own prices. */
export class SizeIt1795600000003 implements MigrationInterface {
  readonly name = "SizeIt1795600000003";

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
    for (const table of TABLES) await guard(runner, table, "SELECT, INSERT, UPDATE");
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of [...TABLES].reverse()) await runner.query(`DROP TABLE ${table}`);
  }
}
