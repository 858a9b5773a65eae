import { KINDS, type Kind } from "@winter-bead/core";
import type { Field, Fields, ListField } from "@winter-bead/core/src/descriptor/field";
import { EntitySchema, type EntitySchemaColumnOptions } from "typeorm";
import { FEEDS, SENT } from "./beside";

/** What every kept record has beside its own figures. */
export interface KeptRow {
  crewId: string;
  id: string;
  version: number;
  voided: boolean;
}

export type Row = KeptRow & { [column: string]: unknown };

/** A row of a list that stands in a table of its own. */
export interface ItemRow {
  crewId: string;
  id: string;
  parentId: string;
  position: number;
  [column: string]: unknown;
}

export interface Column {
  readonly field: string;
  readonly name: string;
  readonly type: "text" | "double precision" | "boolean" | "uuid" | "jsonb" | "date" | "timestamptz";
  readonly nullable: boolean;
}

/** A list of a kind whose rows stand in a table of their own. */
export interface ItemTable {
  readonly field: string;
  readonly table: string;
  readonly columns: readonly Column[];
  readonly entity: EntitySchema<ItemRow>;
}

/** A kind with its tables. */
export interface StoredKind {
  readonly kind: Kind;
  readonly columns: readonly Column[];
  readonly items: readonly ItemTable[];
  readonly entity: EntitySchema<Row>;
}

const key = {
  crewId: { name: "crew_id", type: "uuid", primary: true },
  id: { type: "uuid", primary: true },
} satisfies Record<string, EntitySchemaColumnOptions>;

const COLUMN_TYPES: { readonly [is in Field["is"]]: Column["type"] } = {
  text: "text",
  number: "double precision",
  flag: "boolean",
  instant: "timestamptz",
  date: "date",
  choice: "text",
  scale: "jsonb",
  currency: "text",
  id: "uuid",
  reference: "uuid",
  group: "jsonb",
  variants: "jsonb",
  list: "jsonb",
  shape: "jsonb",
};

const snakeCase = (name: string) => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

const hasTable = (field: Field): field is ListField & { readonly table: string } =>
  field.is === "list" && field.table !== undefined;

/** The columns of a kind's or a list's own fields, named after them. */
export const columnsOf = (fields: Fields): readonly Column[] =>
  Object.entries(fields)
    .filter(([name, field]) => name !== "id" && !hasTable(field))
    .map(([field, { is, optional }]) => ({
      field,
      name: snakeCase(field),
      type: COLUMN_TYPES[is],
      nullable: optional === true,
    }));

const columnOptions = (columns: readonly Column[]): Record<string, EntitySchemaColumnOptions> =>
  Object.fromEntries(
    columns.map(({ field, name, type, nullable }) => [
      field,
      { name, type, nullable, ...(type === "timestamptz" ? { precision: 3 } : {}) },
    ]),
  );

function itemTable(kind: Kind, field: string, { table, item }: ListField & { readonly table: string }): ItemTable {
  if (item.is !== "group") throw new Error(`Rows of ${table} must be a group.`);
  const columns = columnsOf(item.fields);
  return {
    field,
    table,
    columns,
    entity: new EntitySchema<ItemRow>({
      name: table,
      tableName: table,
      columns: {
        ...key,
        parentId: { name: `${kind.table}_id`, type: "uuid" },
        position: { type: "integer" },
        ...columnOptions(columns),
      },
    }),
  };
}

/** The tables that a kind's records stand in. */
export function stored(kind: Kind): StoredKind {
  const columns = columnsOf(kind.fields);
  return {
    kind,
    columns,
    items: Object.entries(kind.fields).flatMap(([name, field]) =>
      hasTable(field) ? [itemTable(kind, name, field)] : [],
    ),
    entity: new EntitySchema<Row>({
      name: kind.table,
      tableName: kind.table,
      columns: { ...key, version: { type: "integer" }, voided: { type: "boolean" }, ...columnOptions(columns) },
    }),
  };
}

export type StoredKinds = Readonly<Record<string, StoredKind>>;

/** @param kinds every kind there is, by name, each after those that it refers to */
export const storedKinds = (kinds: Readonly<Record<string, Kind>>): StoredKinds =>
  Object.fromEntries(Object.entries(kinds).map(([name, kind]) => [name, stored(kind)]));

export const STORED = storedKinds(KINDS);

export interface VersionRow {
  crewId: string;
  kind: string;
  id: string;
  version: number;
  /** The crew's number of this version: the order in which its versions were accepted. */
  seq: string;
  actId: string;
  voided: boolean;
  shape: number;
  /** As sent; a version that takes a record back has none. */
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
    seq: { type: "bigint" },
    actId: { name: "act_id", type: "uuid" },
    voided: { type: "boolean" },
    shape: { type: "integer" },
    body: { type: "jsonb", nullable: true },
    acceptedAt: { name: "accepted_at", type: "timestamptz", precision: 3 },
  },
});

export interface ActRow {
  crewId: string;
  id: string;
  at: Date;
  what: string;
  undoes: string | null;
  /** The device it was done on, until there are accounts; nothing where it did not say. */
  author: string | null;
  acceptedAt: Date;
}

/** What was done together. */
export const ACTS = new EntitySchema<ActRow>({
  name: "act",
  tableName: "act",
  columns: {
    ...key,
    at: { type: "timestamptz", precision: 3 },
    what: { type: "text" },
    undoes: { type: "uuid", nullable: true },
    author: { type: "text", nullable: true },
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

/** Every table that holds what a crew kept. */
export const tablesOf = (kinds: StoredKinds) => [
  ...Object.values(kinds).flatMap(({ entity, items }) => [entity, ...items.map((each) => each.entity)]),
  VERSIONS,
  ACTS,
];

export const ENTITIES = [CREWS, ...tablesOf(STORED), FEEDS, SENT];
