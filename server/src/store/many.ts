import type { Put } from "@winter-bead/contract";
import { currentShape } from "@winter-bead/core";
import type { Field, Fields } from "@winter-bead/core/src/descriptor/field";
import { fieldNames } from "@winter-bead/core/src/descriptor/references";
import type { EntityManager } from "typeorm";
import { toRow, type JsonRow } from "./rows";
import type { Column, StoredKind, StoredKinds } from "./tables";

/*
 * Reads and writes of many records of many kinds, each in one statement, so that an act costs the same few statements
 * however much it brings. Rows go over as JSON: the database itself turns each field into its column's type.
 */

/** A record by its kind and id. */
export interface Named {
  readonly kind: string;
  readonly id: string;
}

export const keyOf = ({ kind, id }: Named) => `${kind} ${id}`;

const quoted = (name: string) => `"${name}"`;
const tableOf = ({ kind }: StoredKind) => quoted(kind.table);

/** The newest version of a record: which, and whether it takes the record back. */
export interface Newest extends Named {
  readonly version: number;
  readonly voided: boolean;
  readonly actId: string;
}

/** The newest version of each of these that is known here, by `keyOf`. */
export async function newestOf(
  manager: EntityManager,
  crewId: string,
  named: readonly Named[],
): Promise<ReadonlyMap<string, Newest>> {
  if (named.length === 0) return new Map();
  const rows: readonly Newest[] = await manager.query(
    `SELECT DISTINCT ON (known.kind, known.id) known.kind, known.id, version, voided, act_id AS "actId"
     FROM unnest($2::text[], $3::uuid[]) AS asked (kind, id)
     JOIN record_version AS known ON known.crew_id = $1 AND known.kind = asked.kind AND known.id = asked.id
     ORDER BY known.kind, known.id, version DESC`,
    [crewId, named.map(({ kind }) => kind), named.map(({ id }) => id)],
  );
  return new Map(rows.map((row) => [keyOf(row), row]));
}

/** One version of a record, as it was sent. */
export interface KnownVersion extends Named {
  readonly voided: boolean;
  readonly shape: number;
  readonly body: JsonRow | null;
}

/** These versions of these records, as far as they are known here, by `keyOf`; each record at most once. */
export async function versionsOf(
  manager: EntityManager,
  crewId: string,
  asked: readonly (Named & { readonly version: number })[],
): Promise<ReadonlyMap<string, KnownVersion>> {
  const rows: readonly KnownVersion[] = await manager.query(
    `SELECT known.kind, known.id, voided, shape, body
     FROM unnest($2::text[], $3::uuid[], $4::integer[]) AS asked (kind, id, version)
     JOIN record_version AS known ON known.crew_id = $1 AND known.kind = asked.kind
       AND known.id = asked.id AND known.version = asked.version`,
    [crewId, asked.map(({ kind }) => kind), asked.map(({ id }) => id), asked.map(({ version }) => version)],
  );
  return new Map(rows.map((row) => [keyOf(row), row]));
}

/** The columns that every row of a kind starts with, and its own. */
const KEPT = ["crew_id", "id", "version", "voided"];
const columnsIn = (columns: readonly Column[]) => columns.map(({ name }) => quoted(name));

function upsert(stored: StoredKind, name: string): string {
  const columns = [...KEPT, ...columnsIn(stored.columns)];
  const changed = ["version", "voided", ...columnsIn(stored.columns)].map((each) => `${each} = excluded.${each}`);
  return `INSERT INTO ${tableOf(stored)} (${columns.join(", ")})
    SELECT ${columns.join(", ")} FROM jsonb_populate_recordset(NULL::${tableOf(stored)}, $1::jsonb -> '${name}')
    ON CONFLICT (crew_id, id) DO UPDATE SET ${changed.join(", ")}`;
}

const takeBack = (stored: StoredKind, name: string) =>
  `UPDATE ${tableOf(stored)} AS kept SET version = gone.version, voided = true
   FROM jsonb_to_recordset($1::jsonb -> '${name}') AS gone (id uuid, version integer)
   WHERE kept.crew_id = $2 AND kept.id = gone.id`;

/** A put with the version that it becomes and the crew's number of it. */
export interface Numbered {
  readonly put: Put;
  readonly version: number;
  readonly seq: number;
}

/** Writes records, new, changed or taken back, as they stand in their tables. */
async function writeRows(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  puts: readonly Numbered[],
): Promise<void> {
  const rows: Record<string, JsonRow[]> = {};
  const parts: string[] = [];
  for (const [name, stored] of Object.entries(kinds)) {
    const own = puts.filter(({ put }) => put.kind === name);
    const kept = own.flatMap(({ put, version }) =>
      "voided" in put
        ? []
        : [{ crew_id: crewId, id: put.id, version, voided: false, ...toRow(stored.columns, put.body) }],
    );
    const gone = own.flatMap(({ put, version }) => ("voided" in put ? [{ id: put.id, version }] : []));
    if (kept.length > 0) parts.push(upsert(stored, name));
    if (gone.length > 0) parts.push(takeBack(stored, `${name} gone`));
    rows[name] = kept;
    rows[`${name} gone`] = gone;
  }
  // Every part reads the crew, so that the statement has the same two values whatever it writes.
  const named = parts.map((part, i) => `part_${i} AS (${part})`);
  await manager.query(`WITH ${named.join(", ")} SELECT $1::jsonb IS NULL, $2::uuid`, [JSON.stringify(rows), crewId]);
}

/** Writes the rows of lists that stand in tables of their own. */
async function writeItems(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  puts: readonly Numbered[],
): Promise<void> {
  for (const [name, { items, kind }] of Object.entries(kinds)) {
    const own = puts.flatMap(({ put }) => (put.kind === name && !("voided" in put) ? [put] : []));
    if (own.length === 0) continue;
    for (const { columns, field, table } of items) {
      const parent = `${kind.table}_id`;
      await manager.query(`DELETE FROM ${quoted(table)} WHERE crew_id = $1 AND ${quoted(parent)} = ANY($2::uuid[])`, [
        crewId,
        own.map(({ id }) => id),
      ]);
      const rows = own.flatMap(({ id, body }) =>
        ((body[field] as readonly JsonRow[] | undefined) ?? []).map((item, position) => ({
          ...{ crew_id: crewId, id: item["id"], [parent]: id, position },
          ...toRow(columns, item),
        })),
      );
      const all = ["crew_id", "id", quoted(parent), "position", ...columnsIn(columns)].join(", ");
      if (rows.length > 0)
        await manager.query(
          `INSERT INTO ${quoted(table)} (${all}) SELECT ${all} FROM jsonb_populate_recordset(NULL::${quoted(table)}, $1::jsonb)`,
          [JSON.stringify(rows)],
        );
    }
  }
}

/** Keeps what an act asks for: rows as they stand now, and every version for good. */
export async function writeAll(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  actId: string,
  puts: readonly Numbered[],
): Promise<void> {
  await writeRows(manager, crewId, kinds, puts);
  await writeItems(manager, crewId, kinds, puts);
  const versions = puts.map(({ put, version, seq }) => ({
    ...{ crew_id: crewId, kind: put.kind, id: put.id, version, seq, act_id: actId, voided: "voided" in put },
    ...{ shape: currentShape(kinds[put.kind]!.kind), body: "voided" in put ? null : put.body },
    accepted_at: new Date().toISOString(),
  }));
  const columns = "crew_id, kind, id, version, seq, act_id, voided, shape, body, accepted_at";
  await manager.query(
    `INSERT INTO record_version (${columns})
     SELECT ${columns} FROM jsonb_populate_recordset(NULL::record_version, $1::jsonb)`,
    [JSON.stringify(versions)],
  );
}

/** A row with the name of its kind. */
export interface FoundRow {
  readonly kind: string;
  readonly row: JsonRow;
}

/** Rows of these records, of whatever kinds. */
export async function rowsOf(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  named: readonly Named[],
): Promise<readonly FoundRow[]> {
  const wanted = [...new Set(named.map(({ kind }) => kind))];
  const ids = Object.fromEntries(
    wanted.map((name) => [name, named.filter(({ kind }) => kind === name).map(({ id }) => id)]),
  );
  if (wanted.length === 0) return [];
  const parts = wanted.map(
    (name) => `SELECT '${name}' AS kind, to_jsonb(kept) AS row FROM ${tableOf(kinds[name]!)} AS kept
      WHERE kept.crew_id = $2 AND kept.id IN (SELECT jsonb_array_elements_text($1::jsonb -> '${name}')::uuid)`,
  );
  return manager.query(parts.join(" UNION ALL "), [JSON.stringify(ids), crewId]);
}

/** A record in use that names one of those asked about. */
export interface Naming {
  readonly kind: string;
  readonly id: string;
  /** What it is called, where it has a name. */
  readonly name: string | null;
  /** The record that it names; of a kind that its row tells where that is JSON. */
  readonly target: string;
  readonly to: string | null;
  /** Found by its letters alone, deep in what is kept as JSON: its row says whether it is so. */
  readonly row: JsonRow | null;
}

const namesAny = (field: Field, to: ReadonlySet<string>) => [...to].some((each) => fieldNames(field, each));

/** The ways in which rows of a kind may name records of others: by a column, in a list's table, or deep in JSON. */
function namingParts(name: string, stored: StoredKind, to: ReadonlySet<string>): readonly string[] {
  const { kind, columns, items } = stored;
  const called = "name" in kind.fields ? "kept.name" : "NULL";
  const from = `FROM unnest($2::uuid[]) AS gone (id)`;
  const inUse = `JOIN ${tableOf(stored)} AS kept ON kept.crew_id = $1 AND NOT kept.voided`;
  const select = (what: string | undefined, row: string) =>
    `SELECT '${name}' AS kind, kept.id, ${called}::text AS name, gone.id AS target, ${what ? `'${what}'` : "NULL"}::text AS "to", ${row} AS row ${from}`;
  /** Columns that hold the id of a record of one of these kinds. */
  const plain = (of: readonly Column[], fields: Fields) =>
    of.flatMap((each) => {
      const field = fields[each.field];
      return field?.is === "reference" && to.has(field.to) ? [{ column: quoted(each.name), of: field.to }] : [];
    });
  const deep = columns.filter(({ field, type }) => type === "jsonb" && namesAny(kind.fields[field]!, to));
  return [
    ...plain(columns, kind.fields).map(
      ({ column, of }) => `${select(of, "NULL::jsonb")} ${inUse} AND kept.${column} = gone.id`,
    ),
    ...items.flatMap(({ table, field, columns: own }) => {
      const { item } = kind.fields[field] as Field & { readonly is: "list" };
      return plain(own, item.is === "group" ? item.fields : {}).map(
        ({ column, of }) => `${select(of, "NULL::jsonb")}
          JOIN ${quoted(table)} AS item ON item.crew_id = $1 AND item.${column} = gone.id
          ${inUse} AND kept.id = item.${quoted(`${kind.table}_id`)}`,
      );
    }),
    ...deep.map(
      ({ name: column }) =>
        `${select(undefined, "to_jsonb(kept)")} ${inUse} AND strpos(lower(kept.${quoted(column)}::text), gone.id::text) > 0`,
    ),
  ];
}

/** Records in use, of any kind, that may name one of these. */
export async function namingAny(
  manager: EntityManager,
  crewId: string,
  kinds: StoredKinds,
  named: readonly Named[],
): Promise<readonly Naming[]> {
  const to = new Set(named.map(({ kind }) => kind));
  const parts = Object.entries(kinds).flatMap(([name, stored]) => namingParts(name, stored, to));
  if (parts.length === 0) return [];
  return manager.query(parts.join(" UNION ALL "), [crewId, named.map(({ id }) => id)]);
}
