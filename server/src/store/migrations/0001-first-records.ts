import type { MigrationInterface, QueryRunner } from "typeorm";
import { guard, KEPT, reference } from "./kept-table";

const TABLES = [
  `CREATE TABLE crew (id uuid PRIMARY KEY, name text NOT NULL)`,
  `CREATE TABLE site (${KEPT}, name text NOT NULL, note text)`,
  `CREATE TABLE tap (${KEPT}, site_id uuid NOT NULL, name text NOT NULL,
    low double precision NOT NULL, typical double precision NOT NULL, high double precision NOT NULL, scale jsonb NOT NULL,
    temperature double precision, ph double precision, alkalinity double precision, silica double precision,
    ${reference("site_id", "site")})`,
  `CREATE TABLE meter (${KEPT}, name text NOT NULL, scale jsonb NOT NULL, compensated boolean NOT NULL, checked_on date)`,
  `CREATE TABLE vessel (${KEPT}, name text NOT NULL, kind text NOT NULL, gross_volume double precision NOT NULL, diameter double precision NOT NULL,
    empty_weight double precision, fill_fraction double precision NOT NULL, marks jsonb NOT NULL)`,
  `CREATE TABLE rig (${KEPT}, name text NOT NULL, water_use text NOT NULL, tap_id uuid NOT NULL, flow double precision NOT NULL, stages jsonb NOT NULL,
    job_name text NOT NULL, litres_per_job double precision NOT NULL, meter_rolls_over_at double precision,
    ${reference("tap_id", "tap")})`,
  `CREATE TABLE charge (${KEPT}, vessel_id uuid NOT NULL, rig_id uuid NOT NULL, grade text NOT NULL, resin_litres double precision NOT NULL,
    packing text NOT NULL, stored jsonb, filled_at timestamptz(3) NOT NULL, start_total double precision, ended jsonb,
    ${reference("vessel_id", "vessel")}, ${reference("rig_id", "rig")})`,
  `CREATE TABLE visit (${KEPT}, rig_id uuid NOT NULL, tap_id uuid NOT NULL, at timestamptz(3) NOT NULL, water jsonb, note text,
    ${reference("rig_id", "rig")}, ${reference("tap_id", "tap")})`,
  `CREATE TABLE reading (crew_id uuid NOT NULL REFERENCES crew (id), id uuid NOT NULL, visit_id uuid NOT NULL, position integer NOT NULL, point text NOT NULL,
    meter_id uuid, scale jsonb, value double precision NOT NULL CHECK (value >= 0), temperature double precision,
    PRIMARY KEY (crew_id, id), ${reference("visit_id", "visit")}, ${reference("meter_id", "meter")})`,
  `CREATE TABLE record_version (crew_id uuid NOT NULL REFERENCES crew (id), kind text NOT NULL, id uuid NOT NULL, version integer NOT NULL,
    voided boolean NOT NULL, body jsonb NOT NULL, accepted_at timestamptz(3) NOT NULL DEFAULT now(),
    PRIMARY KEY (crew_id, kind, id, version))`,
  `CREATE INDEX visit_by_time ON visit (crew_id, rig_id, at)`,
  `CREATE INDEX reading_by_visit ON reading (crew_id, visit_id, position)`,
  `CREATE INDEX charge_by_rig ON charge (crew_id, rig_id, filled_at)`,
];

const OF_A_CREW = ["site", "tap", "meter", "vessel", "rig", "charge", "visit", "reading", "record_version"];

/** The first records, each table's key starting with the crew, and row-level security as the second wall between crews. */
export class FirstRecords1795000000001 implements MigrationInterface {
  readonly name = "FirstRecords1795000000001";

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of TABLES) await runner.query(statement);
    for (const table of OF_A_CREW)
      await guard(runner, table, table === "record_version" ? "SELECT, INSERT" : "SELECT, INSERT, UPDATE");
    await runner.query(`GRANT DELETE ON reading TO winter_bead_app`);
    await runner.query(`ALTER TABLE crew ENABLE ROW LEVEL SECURITY`);
    await runner.query(
      `CREATE POLICY own_crew ON crew USING (id = nullif(current_setting('winter_bead.crew', true), '')::uuid)`,
    );
    await runner.query(`GRANT SELECT ON crew TO winter_bead_app`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of [...OF_A_CREW].reverse()) await runner.query(`DROP TABLE ${table} CASCADE`);
    await runner.query(`DROP TABLE crew`);
  }
}
