import type { MigrationInterface, QueryRunner } from "typeorm";
import { guard, KEPT, reference } from "./kept-table";

const SCALE = "meter_id uuid, scale jsonb";

const STATEMENTS = [
  `ALTER TABLE meter ADD COLUMN standard_check jsonb, ADD COLUMN pure_water_offset double precision`,
  `CREATE TABLE feed_test (${KEPT}, tap_id uuid NOT NULL, at timestamptz(3) NOT NULL, ${SCALE},
    value double precision NOT NULL, temperature double precision, note text,
    ${reference("tap_id", "tap")}, ${reference("meter_id", "meter")})`,
  `CREATE TABLE water_report (${KEPT}, tap_id uuid NOT NULL, sampled_on date NOT NULL, source text NOT NULL, origin text,
    figures jsonb NOT NULL, note text, ${reference("tap_id", "tap")})`,
  `CREATE TABLE membrane_check (${KEPT}, rig_id uuid NOT NULL, at timestamptz(3) NOT NULL, ${SCALE},
    feed double precision NOT NULL, product double precision NOT NULL, temperature double precision NOT NULL,
    pressure double precision NOT NULL, permeate_pressure double precision,
    product_flow double precision NOT NULL, waste_flow double precision NOT NULL,
    clean boolean NOT NULL, seen jsonb, note text, ${reference("rig_id", "rig")}, ${reference("meter_id", "meter")})`,
  `CREATE INDEX feed_test_by_tap ON feed_test (crew_id, tap_id, at)`,
  `CREATE INDEX water_report_by_tap ON water_report (crew_id, tap_id, sampled_on)`,
  `CREATE INDEX membrane_check_by_rig ON membrane_check (crew_id, rig_id, at)`,
];

const TABLES = ["feed_test", "water_report", "membrane_check"];

/** What is known of the water: feed tests, reports, membrane checks, and how a meter did against a standard. */
export class KnowTheWater1795400000002 implements MigrationInterface {
  readonly name = "KnowTheWater1795400000002";

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
    for (const table of TABLES) await guard(runner, table, "SELECT, INSERT, UPDATE");
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of [...TABLES].reverse()) await runner.query(`DROP TABLE ${table}`);
    await runner.query(`ALTER TABLE meter DROP COLUMN standard_check, DROP COLUMN pure_water_offset`);
  }
}
