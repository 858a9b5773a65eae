import type { Column } from "./tables";

type Body = { readonly [field: string]: unknown };

/** A body's fields as columns. */
export const toRow = (columns: readonly Column[], body: Body): Record<string, unknown> =>
  Object.fromEntries(
    columns.map(({ field, type }) => {
      const value = body[field];
      if (value === undefined) return [field, null];
      return [field, type === "timestamptz" ? new Date(value as string) : value];
    }),
  );

/** An item of a list as columns, its own id among them. */
export const toItemRow = (columns: readonly Column[], item: Body): Record<string, unknown> => ({
  id: item["id"],
  ...toRow(columns, item),
});

/** Columns as a body's fields; what was left out stays out. */
export const fromRow = (columns: readonly Column[], row: Body): Body =>
  Object.fromEntries(
    columns
      .map(({ field }): [string, unknown] => {
        const value = row[field];
        return [field, value instanceof Date ? value.toISOString() : value];
      })
      .filter(([, value]) => value !== null && value !== undefined),
  );
