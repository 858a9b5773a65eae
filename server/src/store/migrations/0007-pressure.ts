import type { MigrationInterface, QueryRunner } from "typeorm";
import { guard } from "./kept-table";
import { again, asId, asInstant, asNumber, asText, create, NULLABLE, type NewTable } from "./new-table";

const TABLE: NewTable = {
  table: "pressure_check",
  kind: "pressure-checks",
  columns: [
    ...[asId("rig_id", "rigId"), asInstant("at", "at"), asNumber("before", "before"), asNumber("behind", "behind")],
    asText("note", "note", NULLABLE),
  ],
  references: [["rig_id", "rig"]],
};

/** The pressures before and behind a sediment cartridge. */
export class Pressure1796000000007 implements MigrationInterface {
  readonly name = "Pressure1796000000007";

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(create(TABLE));
    await runner.query(again(TABLE));
    await guard(runner, TABLE.table, "SELECT, INSERT, UPDATE");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE ${TABLE.table}`);
  }
}
