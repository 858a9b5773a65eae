import { KEPT, reference } from "./kept-table";

/** A column with how it is read out of a version's body. */
type NewColumn = readonly [column: string, type: string, fromBody: string];

/** A table of a kind that is new, filled from what a database that once stood higher still knows of it. */
export interface NewTable {
  readonly table: string;
  readonly kind: string;
  readonly columns: readonly NewColumn[];
  readonly references?: readonly (readonly [column: string, table: string])[];
}

const textOf = (field: string) => `body->>'${field}'`;
export const asText = (column: string, field = column, needed = "NOT NULL"): NewColumn => [
  column,
  `text ${needed}`,
  textOf(field),
];
const of =
  (type: string, sql: string) =>
  (column: string, field: string, needed = "NOT NULL"): NewColumn => [
    column,
    `${type} ${needed}`.trim(),
    `(${textOf(field)})::${sql}`,
  ];
export const asId = of("uuid", "uuid");
export const asDate = of("date", "date");
export const asNumber = of("double precision", "double precision");
export const asFlag = of("boolean", "boolean");
export const asInstant = of("timestamptz(3)", "timestamptz");
export const asJson = (column: string, field: string, needed = "NOT NULL"): NewColumn => [
  column,
  `jsonb ${needed}`.trim(),
  `body->'${field}'`,
];
export const NULLABLE = "";

export const create = ({ table, columns, references = [] }: NewTable) =>
  `CREATE TABLE ${table} (${KEPT}, ${[
    ...columns.map(([column, type]) => `${column} ${type}`),
    ...references.map(([column, to]) => reference(column, to)),
  ].join(", ")})`;

/** A database that once stood higher and was taken back has these in its versions: nothing is lost on the way. */
export const again = ({ table, kind, columns }: NewTable) => `INSERT INTO ${table}
  (crew_id, id, version, voided, ${columns.map(([column]) => column).join(", ")})
  SELECT crew_id, id, newest, voided, ${columns.map(([, , from]) => from).join(", ")} FROM (
    SELECT DISTINCT ON (crew_id, id) crew_id, id, body,
      max(version) OVER whole AS newest,
      (SELECT last.voided FROM record_version AS last WHERE last.crew_id = known.crew_id AND last.kind = known.kind AND last.id = known.id
        ORDER BY last.version DESC LIMIT 1) AS voided
    FROM record_version AS known WHERE kind = '${kind}' WINDOW whole AS (PARTITION BY crew_id, id)
    ORDER BY crew_id, id, (body IS NULL), version DESC) AS kept`;
