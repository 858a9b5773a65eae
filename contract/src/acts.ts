import type { Id, Instant, Kind } from "@winter-bead/core";
import { z } from "zod";
import { id, instant, known, text } from "./fields";
import { shapeNumber } from "./from-descriptor";
import { fieldErrorsOf, type FieldError } from "./problem";
import { readBody, replaces } from "./records";

/** One record kept, changed or taken back by an act. */
export type Put = {
  readonly kind: string;
  readonly id: Id;
  /** The version it started from; absent for a new record. */
  readonly replaces?: number | undefined;
} & (
  | {
      readonly body: Readonly<Record<string, unknown>>;
      readonly shape?: number | undefined;
      /** The body as it was sent, where it was of an earlier shape; never sent itself. */
      readonly old?: Readonly<Record<string, unknown>> | undefined;
    }
  | { readonly voided: true }
);

/** What belongs together: all of it is kept, or none. */
export interface Act {
  /** When it was done, by the clock of whoever did it. */
  readonly at: Instant;
  /** In the trade's words: `Refill of Van`. */
  readonly what: string;
  /** The act that this one undoes. */
  readonly undoes?: Id | undefined;
  readonly puts: readonly Put[];
}

/** By this header a device says which it is, a UUID: the author of what it keeps. */
export const DEVICE_HEADER = "Winter-Bead-Device";

export const MOST_PUTS = 500;

const ONE_OR_OTHER =
  "Each of an act's puts has a body, or is taken back with voided: true and the version it replaces.";

const head = { kind: z.string({ error: "Name the kind of record." }), id };
const put = z.union(
  [
    known({
      ...head,
      replaces: replaces.optional(),
      shape: shapeNumber.optional(),
      body: z.record(z.string(), z.unknown(), { error: "A body is an object with named fields." }),
    }),
    known({ ...head, replaces, voided: z.literal(true) }),
  ],
  { error: ONE_OR_OTHER },
);

/** What the body of an act must be; the bodies in it are checked by their kinds. */
export const act = known({
  at: instant("The time of the act"),
  what: text("What was done", 200),
  undoes: id.optional(),
  puts: z
    .array(put, { error: "An act is a list of puts." })
    .min(1, "An act keeps, changes or takes back at least one record.")
    .max(MOST_PUTS, `At most ${MOST_PUTS} records in one act.`)
    .refine((puts) => new Set(puts.map((each) => `${each.kind} ${each.id.toLowerCase()}`)).size === puts.length, {
      message: "A record stands in an act once.",
    }),
}) satisfies z.ZodType<Act>;

export type ReadAct =
  { readonly act: Act } | { readonly errors: readonly FieldError[] } | { readonly newer: readonly string[] };

const lowerCase = <P extends Put>(each: P): P => ({ ...each, id: each.id.toLowerCase() });

/** An act as sent, its bodies as ones of today's shapes. */
export function readAct(kinds: Readonly<Record<string, Kind>>, sent: unknown): ReadAct {
  const checked = act.safeParse(sent);
  if (!checked.success) return { errors: fieldErrorsOf(checked.error) };
  const errors: FieldError[] = [];
  const newer: string[] = [];
  const puts = checked.data.puts.map((each, i): Put => {
    const kind = Object.hasOwn(kinds, each.kind) ? kinds[each.kind] : undefined;
    if (!kind) errors.push({ path: `puts.${i}.kind`, message: `There is no kind of record called ${each.kind}.` });
    if (!kind || "voided" in each) return lowerCase(each as Put);
    const read = readBody(kind, each.body, each.shape);
    if ("newer" in read) newer.push(kind.many);
    if ("errors" in read)
      errors.push(
        ...read.errors.map(({ path, message }) => ({
          path: `puts.${i}.body${path === "" ? "" : `.${path}`}`,
          message,
        })),
      );
    return lowerCase({
      ...each,
      ...("body" in read ? { body: read.body, shape: each.shape, old: read.old } : {}),
    } as Put);
  });
  if (newer.length > 0) return { newer };
  return errors.length > 0 ? { errors } : { act: { ...checked.data, puts } };
}
