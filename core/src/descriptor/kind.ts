import type { Fields, Holds, Rule, ValueOf, ValuesOf } from "./field";
import type { Id, Instant } from "./identity";

type Every<T> = { readonly [K in keyof T]-?: NonNullable<T[K]> };

/** A body of an earlier shape as one of the next; a body that is of the next already stays as it is. */
export type Upcast = (body: Readonly<Record<string, unknown>>) => Readonly<Record<string, unknown>>;

/** What a body of an earlier shape said that is a record of its own now. */
export interface Beside {
  readonly kind: string;
  /** The same for the same record and version, wherever it is made. */
  readonly id: Id;
  readonly body: Readonly<Record<string, unknown>>;
  /** The field of the earlier shape that said it. */
  readonly saidBy: string;
}

/** A body of an earlier shape with what names it. */
export interface OldBody {
  readonly id: Id;
  /** The version that it is or becomes. */
  readonly version: number;
  readonly body: Readonly<Record<string, unknown>>;
  readonly shape: number;
  /** When it was kept. */
  readonly at: Instant;
}

/** Everything about one kind of record: the schema, the columns, the labels and the tests are made from it. */
export interface Kind {
  /** In the address: `feed-tests`. */
  readonly name: string;
  /** Its table: `feed_test`. */
  readonly table: string;
  /** Of one and of several, in the trade's words. */
  readonly one: string;
  readonly many: string;
  readonly fields: Fields;
  readonly rules: readonly Rule<never>[];
  /** From the first shape to the second, and so on: a kind with two of these is at its third shape. */
  readonly upcasts: readonly Upcast[];
  /** Of a body of an earlier shape: what the upcast leaves out, as a record of its own. */
  readonly beside?: ((old: OldBody) => Beside | undefined) | undefined;
  /** What it is a part of, by which field: taken back with that, and no reason against it. */
  readonly partOf?: { readonly kind: string; readonly by: string } | undefined;
  /** Logged where there may be no signal: kept also where what it names was taken back before it came in. */
  readonly logged?: boolean | undefined;
  /** A body with every field set, whose references are the samples of other kinds. */
  readonly sample: Readonly<Record<string, unknown>>;
  /** More bodies, so that each variant of a field is among them. */
  readonly further: readonly Readonly<Record<string, unknown>>[];
}

interface KindParts<Fs extends Fields> {
  readonly name: string;
  readonly table: string;
  readonly one: string;
  readonly many: string;
  readonly fields: Fs;
  readonly rules?: readonly Rule<ValuesOf<Fs>>[];
  readonly upcasts?: readonly Upcast[];
  readonly beside?: Kind["beside"];
  readonly partOf?: Kind["partOf"];
  readonly logged?: Kind["logged"];
  readonly sample: Every<ValuesOf<Fs>>;
  readonly further?: readonly ValuesOf<Fs>[];
}

/** Describes a kind of record; the compiler checks its sample and its rules against its fields. */
export const kind = <const Fs extends Fields>(parts: KindParts<Fs>): Kind & Holds<ValuesOf<Fs>> => ({
  upcasts: [],
  ...parts,
  rules: (parts.rules ?? []) as readonly Rule<never>[],
  further: (parts.further ?? []) as readonly Readonly<Record<string, unknown>>[],
});

/** A kind's record: its fields and its id. */
export type RecordOf<K> = { readonly id: Id } & ValueOf<K>;

/** Versions that a record may have: nobody changes one so often, and a number that is sent must have an end. */
export const MOST_VERSIONS = 4_095;

/** The number of the shape that bodies have now; the first is 1. */
export const currentShape = ({ upcasts }: Kind): number => upcasts.length + 1;

/**
 * A body of an earlier shape as one of today's.
 * @param shape what the body was written in; 1 where it does not say
 */
export const upcast = <B extends Readonly<Record<string, unknown>>>({ upcasts }: Kind, body: B, shape = 1): B =>
  upcasts.slice(shape - 1).reduce<Readonly<Record<string, unknown>>>((before, next) => next(before), body) as B;

/**
 * The id of a kind's sample, the same wherever it is asked for.
 * @example sampleId("taps") // "0194b000-0000-7000-8000-…"
 */
export function sampleId(name: string, nth = 0): Id {
  let sum = 7;
  for (const letter of name) sum = (sum * 31 + letter.charCodeAt(0)) % 0xffffffff;
  return `0194b000-0000-7000-8000-${nth.toString(16).padStart(4, "0")}${sum.toString(16).padStart(8, "0")}`;
}
