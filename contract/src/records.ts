import { currentShape, KINDS, upcast, type Kind, type RecordKind, type RecordTypes } from "@winter-bead/core";
import { MOST_VERSIONS } from "@winter-bead/core/src/descriptor/kind";
import { z } from "zod";
import { flag } from "./fields";
import { schemaOfKind, shapeNumber, SHAPES } from "./from-descriptor";
import { fieldErrorsOf, type FieldError } from "./problem";
import { CALCULATED } from "./shapes";

export { RECORD_KINDS, type RecordKind, type RecordTypes } from "@winter-bead/core";

/** A record without its id, which stands in the path. */
export type Body<K extends RecordKind = RecordKind> = Omit<RecordTypes[K], "id">;

for (const [name, schema] of Object.entries(CALCULATED)) SHAPES.set(name, schema);

/** What a request body must be for each kind of record, made from its descriptor. */
export const RECORDS = Object.fromEntries(Object.entries(KINDS).map(([name, kind]) => [name, schemaOfKind(kind)])) as {
  readonly [K in RecordKind]: z.ZodType<Body<K>>;
};

const STARTED_FROM =
  "replaces must be the version that this edit started from, 1 or more; a new record goes without it.";

const CHANGED_TOO_OFTEN = `A record is changed ${MOST_VERSIONS.toLocaleString("en")} times at most; begin a new one.`;

export const replaces = z
  .int({ error: STARTED_FROM })
  .min(1, STARTED_FROM)
  .max(MOST_VERSIONS - 1, CHANGED_TOO_OFTEN);

/** The version an edit started from, whether this version takes the record back, and the shape of its body. */
export const revision = z.object({
  replaces: replaces.optional(),
  voided: flag.optional(),
  shape: shapeNumber.optional(),
});

const schemas = new WeakMap<Kind, z.ZodType>();

function schemaFor(kind: Kind): z.ZodType {
  const known = schemas.get(kind);
  if (known) return known;
  const schema = schemaOfKind(kind);
  schemas.set(kind, schema);
  return schema;
}

export type ReadBody =
  /** `old`: as it was sent, where it was of an earlier shape. */
  | { readonly body: Readonly<Record<string, unknown>>; readonly old?: Readonly<Record<string, unknown>> }
  | { readonly errors: readonly FieldError[] }
  /** Its shape is a later one than this program knows. */
  | { readonly newer: number };

/** A body as sent, in whatever shape it was ever shipped, as one of today's. */
export function readBody(kind: Kind, sent: Readonly<Record<string, unknown>>, shape = 1): ReadBody {
  if (shape > currentShape(kind)) return { newer: shape };
  const checked = schemaFor(kind).safeParse(upcast(kind, sent, shape));
  return checked.success
    ? {
        body: checked.data as Readonly<Record<string, unknown>>,
        ...(shape < currentShape(kind) && kind.beside ? { old: sent } : {}),
      }
    : { errors: fieldErrorsOf(checked.error) };
}

/** A record as the server keeps it. */
export type Stored<T> = T & { readonly version: number; readonly voided: boolean };

export interface Page<T> {
  readonly items: readonly T[];
  /** The shape of their bodies: one that is later than a program knows it must not read. */
  readonly shape: number;
  /** Give it back as `after` for the next page; absent on the last. */
  readonly next?: string;
}
