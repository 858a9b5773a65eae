import type { RecordKind } from "@winter-bead/contract";
import { EntitySchema, type EntitySchemaColumnOptions } from "typeorm";

/** What every kept record has beside its own figures. */
export interface KeptRow {
  crewId: string;
  id: string;
  version: number;
  voided: boolean;
}

export type Row = KeptRow & { [column: string]: unknown };

const key = {
  crewId: { name: "crew_id", type: "uuid", primary: true },
  id: { type: "uuid", primary: true },
} satisfies Record<string, EntitySchemaColumnOptions>;

const revision = {
  version: { type: "integer" },
  voided: { type: "boolean" },
} satisfies Record<string, EntitySchemaColumnOptions>;

const plain = (
  type: "text" | "integer" | "double precision" | "uuid" | "boolean" | "jsonb" | "date",
): EntitySchemaColumnOptions => ({ type, nullable: true });
const named = (name: string, column: EntitySchemaColumnOptions): EntitySchemaColumnOptions => ({ ...column, name });
const number = plain("double precision");
const moment = (name: string): EntitySchemaColumnOptions => ({
  name,
  type: "timestamptz",
  precision: 3,
  nullable: true,
});

const table = (name: string, columns: Record<string, EntitySchemaColumnOptions>) =>
  new EntitySchema<Row>({ name, tableName: name, columns: { ...key, ...revision, ...columns } });

/** The table of each kind of record; column names follow the field names. */
export const TABLES: Readonly<Record<RecordKind, EntitySchema<Row>>> = {
  sites: table("site", { name: plain("text"), note: plain("text") }),
  taps: table("tap", {
    siteId: named("site_id", plain("uuid")),
    name: plain("text"),
    low: number,
    typical: number,
    high: number,
    scale: plain("jsonb"),
    temperature: number,
    ph: number,
    alkalinity: number,
    silica: number,
  }),
  meters: table("meter", {
    name: plain("text"),
    scale: plain("jsonb"),
    compensated: plain("boolean"),
    checkedOn: named("checked_on", plain("date")),
    check: named("standard_check", plain("jsonb")),
    offset: named("pure_water_offset", number),
  }),
  vessels: table("vessel", {
    name: plain("text"),
    kind: plain("text"),
    grossVolume: named("gross_volume", number),
    diameter: number,
    emptyWeight: named("empty_weight", number),
    fillFraction: named("fill_fraction", number),
    marks: plain("jsonb"),
  }),
  rigs: table("rig", {
    name: plain("text"),
    use: named("water_use", plain("text")),
    tapId: named("tap_id", plain("uuid")),
    flow: number,
    stages: plain("jsonb"),
    jobName: named("job_name", plain("text")),
    litresPerJob: named("litres_per_job", number),
    jobsPerWeek: named("jobs_per_week", number),
    meterRollsOverAt: named("meter_rolls_over_at", number),
  }),
  charges: table("charge", {
    vesselId: named("vessel_id", plain("uuid")),
    rigId: named("rig_id", plain("uuid")),
    grade: plain("text"),
    resinLitres: named("resin_litres", number),
    packing: plain("text"),
    stored: plain("jsonb"),
    filledAt: moment("filled_at"),
    startTotal: named("start_total", number),
    ended: plain("jsonb"),
  }),
  visits: table("visit", {
    rigId: named("rig_id", plain("uuid")),
    tapId: named("tap_id", plain("uuid")),
    at: moment("at"),
    water: plain("jsonb"),
    note: plain("text"),
  }),
  "feed-tests": table("feed_test", {
    tapId: named("tap_id", plain("uuid")),
    at: moment("at"),
    meterId: named("meter_id", plain("uuid")),
    scale: plain("jsonb"),
    value: number,
    temperature: number,
    confirmed: plain("boolean"),
    note: plain("text"),
  }),
  "water-reports": table("water_report", {
    tapId: named("tap_id", plain("uuid")),
    sampledOn: named("sampled_on", plain("date")),
    source: plain("text"),
    origin: plain("text"),
    values: named("figures", plain("jsonb")),
    note: plain("text"),
  }),
  "membrane-checks": table("membrane_check", {
    rigId: named("rig_id", plain("uuid")),
    at: moment("at"),
    meterId: named("meter_id", plain("uuid")),
    scale: plain("jsonb"),
    feed: number,
    product: number,
    temperature: number,
    pressure: number,
    permeatePressure: named("permeate_pressure", number),
    productFlow: named("product_flow", number),
    wasteFlow: named("waste_flow", number),
    clean: plain("boolean"),
    seen: plain("jsonb"),
    note: plain("text"),
  }),
  plans: table("plan", {
    name: plain("text"),
    keptAt: moment("kept_at"),
    use: named("water_use", plain("text")),
    tapId: named("tap_id", plain("uuid")),
    jobName: named("job_name", plain("text")),
    work: plain("jsonb"),
    option: named("chosen_option", plain("jsonb")),
    expected: plain("jsonb"),
    currency: plain("text"),
    rigId: named("rig_id", plain("uuid")),
    inUseSince: moment("in_use_since"),
    note: plain("text"),
  }),
  "price-lists": table("price_list", {
    setOn: named("set_on", plain("date")),
    currency: plain("text"),
    prices: plain("jsonb"),
  }),
};

export interface ReadingRow {
  crewId: string;
  id: string;
  visitId: string;
  position: number;
  point: string;
  meterId: string | null;
  scale: unknown;
  value: number;
  temperature: number | null;
  confirmed: boolean | null;
}

export const READINGS = new EntitySchema<ReadingRow>({
  name: "reading",
  tableName: "reading",
  columns: {
    ...key,
    visitId: { name: "visit_id", type: "uuid" },
    position: { type: "integer" },
    point: { type: "text" },
    meterId: named("meter_id", plain("uuid")),
    scale: plain("jsonb"),
    value: { type: "double precision" },
    temperature: number,
    confirmed: plain("boolean"),
  },
});

export interface VersionRow {
  crewId: string;
  kind: RecordKind;
  id: string;
  version: number;
  voided: boolean;
  body: unknown;
  acceptedAt: Date;
}

/** Every accepted version of every record, appended and never changed: history explains itself. */
export const VERSIONS = new EntitySchema<VersionRow>({
  name: "record_version",
  tableName: "record_version",
  columns: {
    crewId: key.crewId,
    kind: { type: "text", primary: true },
    id: key.id,
    version: { type: "integer", primary: true },
    voided: { type: "boolean" },
    body: { type: "jsonb" },
    acceptedAt: { name: "accepted_at", type: "timestamptz", precision: 3 },
  },
});

export interface CrewRow {
  id: string;
  name: string;
}

export const CREWS = new EntitySchema<CrewRow>({
  name: "crew",
  tableName: "crew",
  columns: { id: { type: "uuid", primary: true }, name: { type: "text" } },
});

export const ENTITIES = [CREWS, ...Object.values(TABLES), READINGS, VERSIONS];
