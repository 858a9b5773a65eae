import type { MigrationInterface, QueryRunner } from "typeorm";
import { guard } from "./kept-table";
import { again, asId, asInstant, asJson, asText, create, NULLABLE, type NewTable } from "./new-table";

const TABLE: NewTable = {
  table: "refill_step",
  kind: "refill-steps",
  columns: [
    ...[asId("work_id", "workId"), asText("guided"), asId("rig_id", "rigId"), asId("vessel_id", "vesselId", NULLABLE)],
    ...[asText("step"), asText("outcome"), asInstant("at", "at"), asInstant("until", "until", NULLABLE)],
    ...[asJson("ways", "ways", NULLABLE), asJson("found", "found", NULLABLE), asText("note", "note", NULLABLE)],
  ],
  references: [
    ["rig_id", "rig"],
    ["vessel_id", "vessel"],
  ],
};

/** The done steps of guided refills. */
export class RefillSteps1796100000008 implements MigrationInterface {
  readonly name = "RefillSteps1796100000008";

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(create(TABLE));
    await runner.query(again(TABLE));
    await guard(runner, TABLE.table, "SELECT, INSERT, UPDATE");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE ${TABLE.table}`);
  }
}
