import type { Kind } from "@winter-bead/core";
import type { Field } from "@winter-bead/core/src/descriptor/field";
import { fieldNames, referencesIn } from "@winter-bead/core/src/descriptor/references";
import { In, type EntityManager } from "typeorm";
import type { Row, StoredKind } from "./tables";

/** What may be named: a record by its kind and id. */
export interface Named {
  readonly kind: string;
  readonly id: string;
}

/** Whether a body names a record. */
export const names = (kind: Kind, body: { readonly [field: string]: unknown }, named: Named): boolean =>
  referencesIn(kind, body).some(({ to, id }) => to === named.kind && id === named.id);

const isReference = (field: Field | undefined, to: string) => field?.is === "reference" && field.to === to;

/** Rows in use of a kind that name a record: by their own columns, in their lists' tables, or deep in what is kept as JSON. */
export async function rowsNaming(
  manager: EntityManager,
  crewId: string,
  { kind, entity, items, columns }: StoredKind,
  named: Named,
): Promise<readonly Row[]> {
  const inUse = { crewId, voided: false };
  const where: object[] = columns
    .filter(({ field }) => isReference(kind.fields[field], named.kind))
    .map(({ field }) => ({ ...inUse, [field]: named.id }));
  for (const list of items) {
    const { item } = kind.fields[list.field] as Field & { readonly is: "list" };
    const naming = list.columns.filter(
      ({ field }) => item.is === "group" && isReference(item.fields[field], named.kind),
    );
    if (naming.length === 0) continue;
    const found = await manager.findBy(
      list.entity,
      naming.map(({ field }) => ({ crewId, [field]: named.id })) as never,
    );
    where.push({ ...inUse, id: In(found.map((row) => row.parentId)) });
  }
  const rows = where.length === 0 ? [] : await manager.findBy(entity, where as never);
  const deep = columns.filter(({ field, type }) => type === "jsonb" && fieldNames(kind.fields[field]!, named.kind));
  if (deep.length === 0) return rows;
  const all = await manager.findBy(entity, inUse as never);
  return all.filter((row) => names(kind, row, named));
}
