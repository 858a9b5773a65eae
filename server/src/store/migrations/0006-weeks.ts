import type { MigrationInterface, QueryRunner } from "typeorm";
import { guard } from "./kept-table";
import {
  again,
  asDate,
  asFlag,
  asId,
  asInstant,
  asJson,
  asNumber,
  asText,
  create,
  NULLABLE,
  type NewTable,
} from "./new-table";

const TABLES: readonly NewTable[] = [
  {
    table: "bag",
    kind: "bags",
    columns: [
      ...[
        asText("name"),
        asText("form"),
        asText("grade"),
        asNumber("litres", "litres"),
        asText("lot", "lot", NULLABLE),
      ],
      ...[asNumber("price", "price", NULLABLE), asText("currency", "currency", NULLABLE)],
      ...[
        asDate("made_on", "madeOn", NULLABLE),
        asDate("bought_on", "boughtOn"),
        asDate("opened_on", "openedOn", NULLABLE),
      ],
      ...[
        asText("packing"),
        asText("closed", "closed", NULLABLE),
        asFlag("warm", "warm"),
        asText("place", "place", NULLABLE),
      ],
      ...[asJson("counted", "counted", NULLABLE), asJson("gone", "gone", NULLABLE), asText("note", "note", NULLABLE)],
    ],
  },
  {
    table: "booking",
    kind: "bookings",
    columns: [
      ...[asId("rig_id", "rigId"), asDate(`"on"`, "on"), asJson("booked", "booked"), asText("name", "name", NULLABLE)],
      ...[asText("from_calendar", "fromCalendar", NULLABLE), asText("note", "note", NULLABLE)],
    ],
    references: [["rig_id", "rig"]],
  },
  {
    table: "usual_week",
    kind: "usual-weeks",
    columns: [
      ...[asId("rig_id", "rigId"), asText("name", "name", NULLABLE), asDate(`"from"`, "from")],
      ...[asDate("until", "until", NULLABLE), asJson("jobs", "jobs")],
    ],
    references: [["rig_id", "rig"]],
  },
  {
    table: "day_off",
    kind: "days-off",
    columns: [
      ...[asId("rig_id", "rigId", NULLABLE), asDate(`"from"`, "from"), asDate("until", "until")],
      asText("name", "name", NULLABLE),
    ],
    references: [["rig_id", "rig"]],
  },
  {
    table: "disposal",
    kind: "disposals",
    columns: [
      ...[asDate(`"on"`, "on"), asNumber("litres", "litres"), asText(`"to"`, "to"), asText("note", "note", NULLABLE)],
    ],
  },
  {
    table: "service",
    kind: "services",
    columns: [
      ...[asId("rig_id", "rigId"), asText("part"), asInstant("at", "at")],
      ...[asNumber("every_months", "everyMonths", NULLABLE), asNumber("chlorine_grams", "chlorineGrams", NULLABLE)],
      asText("note", "note", NULLABLE),
    ],
    references: [["rig_id", "rig"]],
  },
  {
    table: "appointment",
    kind: "appointments",
    columns: [
      ...[
        asText("task"),
        asId("rig_id", "rigId", NULLABLE),
        asId("meter_id", "meterId", NULLABLE),
        asDate(`"on"`, "on"),
      ],
      ...[asText("answer"), asInstant("answered_at", "answeredAt"), asNumber("minutes", "minutes", NULLABLE)],
      asText("note", "note", NULLABLE),
    ],
    references: [
      ["rig_id", "rig"],
      ["meter_id", "meter"],
    ],
  },
  {
    table: "reminder",
    kind: "reminders",
    columns: [
      ...[asText(`"to"`, "to"), asFlag(`"on"`, "on"), asNumber("days_before", "daysBefore")],
      ...[asNumber("quiet_from", "quietFrom"), asNumber("quiet_until", "quietUntil"), asText("time_zone", "timeZone")],
    ],
  },
];

const OF_CHARGES = [
  `ALTER TABLE charge ADD COLUMN "from" jsonb, ADD COLUMN minutes double precision`,
  `UPDATE charge AS kept SET "from" = body->'from', minutes = (body->>'minutes')::double precision FROM record_version AS known
    WHERE known.kind = 'charges' AND known.crew_id = kept.crew_id AND known.id = kept.id AND known.version = kept.version AND known.body IS NOT NULL`,
];

/** No kept records: an address under which a calendar may be read, of which only the hash is known, and what was mailed. */
const BESIDE = [
  `CREATE TABLE calendar_feed (crew_id uuid NOT NULL REFERENCES crew (id), id uuid NOT NULL, name text NOT NULL, secret_hash bytea NOT NULL,
    made_at timestamptz(3) NOT NULL DEFAULT now(), revoked_at timestamptz(3), read_at timestamptz(3), PRIMARY KEY (crew_id, id))`,
  `CREATE TABLE reminder_sent (crew_id uuid NOT NULL REFERENCES crew (id), about text NOT NULL, sent_at timestamptz(3) NOT NULL DEFAULT now(),
    PRIMARY KEY (crew_id, about))`,
];

/** What the weeks are made of: bookings, usual weeks, days off, bags, disposals, services, appointments and reminders. */
export class Weeks1795900000006 implements MigrationInterface {
  readonly name = "Weeks1795900000006";

  async up(runner: QueryRunner): Promise<void> {
    for (const table of TABLES) {
      await runner.query(create(table));
      await runner.query(again(table));
    }
    for (const statement of [...OF_CHARGES, ...BESIDE]) await runner.query(statement);
    for (const { table } of TABLES) await guard(runner, table, "SELECT, INSERT, UPDATE");
    await guard(runner, "calendar_feed", "SELECT, INSERT, UPDATE");
    await guard(runner, "reminder_sent", "SELECT, INSERT, DELETE");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE reminder_sent`);
    await runner.query(`DROP TABLE calendar_feed`);
    await runner.query(`ALTER TABLE charge DROP COLUMN "from", DROP COLUMN minutes`);
    for (const { table } of [...TABLES].reverse()) await runner.query(`DROP TABLE ${table}`);
  }
}
