import { randomUUID } from "node:crypto";
import type { MigrationInterface, QueryRunner } from "typeorm";
import { guard } from "./kept-table";
import { again, asId, asInstant, asJson, asText, create, NULLABLE, type NewTable } from "./new-table";

const TABLE: NewTable = {
  table: "arrangement",
  kind: "arrangements",
  columns: [
    ...[asId("rig_id", "rigId"), asInstant("at", "at"), asText("did", "did", NULLABLE), asJson("places", "places")],
    asText("note", "note", NULLABLE),
  ],
  references: [["rig_id", "rig"]],
};

const STAGE_IDS = "0194b000-0000-7000-8000-57a9e00000";

interface OldStage {
  readonly id?: string;
  readonly kind: string;
  readonly vesselId?: string;
}

interface OldRig {
  readonly crew_id: string;
  readonly id: string;
  readonly version: number;
  readonly stages: readonly OldStage[];
  readonly voided: boolean;
  readonly since: Date;
}

/** Rigs with the first moment that anything is known of them. */
const RIGS = `SELECT rig.crew_id, rig.id, rig.version, rig.stages, rig.voided, least(
    (SELECT min(accepted_at) FROM record_version AS known WHERE known.crew_id = rig.crew_id AND known.kind = 'rigs' AND known.id = rig.id),
    (SELECT min(filled_at) FROM charge WHERE charge.crew_id = rig.crew_id AND charge.rig_id = rig.id),
    (SELECT min(at) FROM visit WHERE visit.crew_id = rig.crew_id AND visit.rig_id = rig.id)) AS since
  FROM rig`;

const stageId = (place: number) => STAGE_IDS + (place + 1).toString(16).padStart(2, "0");

/** The id that every device makes for the arrangement of a rig of the first shape. */
function arrangementId(rigId: string, version: number): string {
  const digits = (Number.parseInt(rigId.slice(15, 18), 16) ^ version) % 4096;
  return `${rigId.slice(0, 14)}8${digits.toString(16).padStart(3, "0")}${rigId.slice(18)}`;
}

/** Gives the stages of a rig their ids. @returns where its vessels stood */
async function withIds(runner: QueryRunner, rig: OldRig) {
  const stages = rig.stages.map(({ vesselId: _named, ...stage }, i) => ({ id: stageId(i), ...stage }));
  await runner.query(`UPDATE rig SET stages = $3 WHERE crew_id = $1 AND id = $2`, [
    ...[rig.crew_id, rig.id],
    JSON.stringify(stages),
  ]);
  return rig.stages.flatMap(({ kind, vesselId }, i) =>
    kind === "resin" && vesselId !== undefined ? [{ stageId: stages[i]!.id, vesselId }] : [],
  );
}

/** Keeps an arrangement with its version, under the crew's next number and an act of its own. */
async function keepArrangement(runner: QueryRunner, rig: OldRig, places: readonly object[]): Promise<void> {
  const { crew_id: crew, id: rigId, since } = rig;
  const id = arrangementId(rigId, rig.version);
  const body = { rigId, at: since.toISOString(), places };
  const [{ last }] = (await runner.query(
    `INSERT INTO crew_counter (crew_id, last) VALUES ($1, 1)
      ON CONFLICT (crew_id) DO UPDATE SET last = crew_counter.last + 1 RETURNING last`,
    [crew],
  )) as [{ last: string }];
  const act = randomUUID();
  await runner.query(
    `INSERT INTO act (crew_id, id, at, what) VALUES ($1, $2, $3, 'Vessels of a rig, noted by their day')`,
    [...[crew, act, since]],
  );
  await runner.query(
    `INSERT INTO arrangement (crew_id, id, version, voided, rig_id, at, places) VALUES ($1, $2, 1, false, $3, $4, $5)`,
    [crew, id, rigId, since, JSON.stringify(places)],
  );
  await runner.query(
    `INSERT INTO record_version (crew_id, kind, id, version, voided, body, seq, act_id, shape)
      VALUES ($1, 'arrangements', $2, 1, false, $3, $4, $5, 1)`,
    [crew, id, JSON.stringify(body), last, act],
  );
}

const FIGURES = ["feed", "product", "temperature", "pressure", "product_flow", "waste_flow"];

/** Checks keep whatever was read; what a version says that a column did not hold yet is there again. */
const WHATEVER_WAS_READ = [
  `ALTER TABLE membrane_check ${FIGURES.map((each) => `ALTER COLUMN ${each} DROP NOT NULL`).join(", ")}, ADD COLUMN standing_pressure double precision`,
  `ALTER TABLE pressure_check ALTER COLUMN before DROP NOT NULL, ALTER COLUMN behind DROP NOT NULL,
    ADD COLUMN standing double precision, ADD COLUMN chlorine double precision`,
  `UPDATE membrane_check AS kept SET standing_pressure = (body->>'standingPressure')::double precision FROM record_version AS known
    WHERE known.kind = 'membrane-checks' AND known.crew_id = kept.crew_id AND known.id = kept.id AND known.version = kept.version`,
  `UPDATE pressure_check AS kept SET standing = (body->>'standing')::double precision, chlorine = (body->>'chlorine')::double precision
    FROM record_version AS known
    WHERE known.kind = 'pressure-checks' AND known.crew_id = kept.crew_id AND known.id = kept.id AND known.version = kept.version`,
];

/** Where the newest arrangement of a rig has its vessels: as a rig of the first shape says it. */
const FIRST_SHAPE = `UPDATE rig SET stages = (
    SELECT jsonb_agg((stage - 'id') || coalesce(
      (SELECT jsonb_build_object('vesselId', place->>'vesselId') FROM arrangement, jsonb_array_elements(arrangement.places) AS place
        WHERE arrangement.crew_id = rig.crew_id AND arrangement.rig_id = rig.id AND NOT arrangement.voided
          AND place->>'stageId' = stage->>'id' AND place ? 'vesselId'
        ORDER BY arrangement.at DESC LIMIT 1), '{}'::jsonb) ORDER BY position)
    FROM jsonb_array_elements(rig.stages) WITH ORDINALITY AS of (stage, position))`;

/** Who stands where in a rig's train, told by its day; readings name their stage, charges their beads. */
export class Arrangements1796200000009 implements MigrationInterface {
  readonly name = "Arrangements1796200000009";

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(create(TABLE));
    await runner.query(again(TABLE));
    await runner.query(`CREATE INDEX arrangement_by_rig ON arrangement (crew_id, rig_id, at)`);
    await guard(runner, TABLE.table, "SELECT, INSERT, UPDATE");
    await runner.query(`ALTER TABLE reading ADD COLUMN stage_id uuid`);
    await runner.query(`ALTER TABLE charge ADD COLUMN beads text`);
    for (const statement of WHATEVER_WAS_READ) await runner.query(statement);
    await runner.query(`UPDATE charge AS kept SET beads = body->>'beads' FROM record_version AS known
      WHERE known.kind = 'charges' AND known.crew_id = kept.crew_id AND known.id = kept.id AND known.version = kept.version AND known.body ? 'beads'`);
    await runner.query(`UPDATE reading AS kept SET stage_id = (seen->>'stageId')::uuid
      FROM record_version AS known, visit, jsonb_array_elements(known.body->'readings') AS seen
      WHERE known.kind = 'visits' AND known.crew_id = kept.crew_id AND known.id = kept.visit_id AND visit.crew_id = kept.crew_id
        AND visit.id = kept.visit_id AND known.version = visit.version AND seen->>'id' = kept.id::text AND seen ? 'stageId'`);
    for (const rig of (await runner.query(RIGS)) as readonly OldRig[]) {
      const isOld = rig.stages.some(({ id }) => id === undefined);
      const places = isOld ? await withIds(runner, rig) : [];
      const known: readonly object[] = await runner.query(
        `SELECT 1 FROM arrangement WHERE crew_id = $1 AND rig_id = $2 LIMIT 1`,
        [rig.crew_id, rig.id],
      );
      if (places.length > 0 && known.length === 0 && !rig.voided) await keepArrangement(runner, rig, places);
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(FIRST_SHAPE);
    await runner.query(`ALTER TABLE membrane_check DROP COLUMN standing_pressure`);
    await runner.query(`ALTER TABLE pressure_check DROP COLUMN standing, DROP COLUMN chlorine`);
    await runner.query(`ALTER TABLE charge DROP COLUMN beads`);
    await runner.query(`ALTER TABLE reading DROP COLUMN stage_id`);
    await runner.query(`DROP TABLE arrangement`);
  }
}
