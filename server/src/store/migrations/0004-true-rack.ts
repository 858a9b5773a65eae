import type { MigrationInterface, QueryRunner } from "typeorm";

/** Jobs a week as stated for a rig, and readings that were looked at again and are right. */
export class TrueRack1795700000004 implements MigrationInterface {
  readonly name = "TrueRack1795700000004";

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE rig ADD COLUMN jobs_per_week double precision`);
    await runner.query(`ALTER TABLE reading ADD COLUMN confirmed boolean`);
    await runner.query(`ALTER TABLE feed_test ADD COLUMN confirmed boolean`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE feed_test DROP COLUMN confirmed`);
    await runner.query(`ALTER TABLE reading DROP COLUMN confirmed`);
    await runner.query(`ALTER TABLE rig DROP COLUMN jobs_per_week`);
  }
}
