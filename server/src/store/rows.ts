import type { Column } from "./tables";

type Body = { readonly [field: string]: unknown };

/** A row as the database gives and takes it as JSON, by the names of its columns. */
export type JsonRow = { readonly [column: string]: unknown };

const asInstant = (value: unknown) => new Date(value as string).toISOString();

/** A body's fields by their columns. */
export const toRow = (columns: readonly Column[], body: Body): JsonRow =>
  Object.fromEntries(
    columns.map(({ field, name, type }) => {
      const value = body[field] ?? null;
      return [name, value !== null && type === "timestamptz" ? asInstant(value) : value];
    }),
  );

/** Columns as a body's fields; what was left out stays out. */
export const fromRow = (columns: readonly Column[], row: JsonRow): Body =>
  Object.fromEntries(
    columns.flatMap(({ field, name, type }): [string, unknown][] => {
      const value = row[name] ?? null;
      return value === null ? [] : [[field, type === "timestamptz" ? asInstant(value) : value]];
    }),
  );
