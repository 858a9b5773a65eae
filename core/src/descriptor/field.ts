import type { Range } from "../ranges";
import type { Scale } from "../units/scale";
import type { Id, Instant } from "./identity";

declare const held: unique symbol;

/** What a field's values are, for the compiler alone. */
export interface Holds<T> {
  readonly [held]?: T;
}

interface Named {
  /** As a sentence begins: `The tap's name`. */
  readonly called: string;
  /** Above its box in a form; else the name without its article. */
  readonly label?: string;
  readonly optional?: boolean;
}

/** What a number is of, so that it can be shown in the user's own units. */
export type Quantity =
  | "volume"
  | "resinVolume"
  | "flow"
  | "length"
  | "weight"
  | "pressure"
  | "temperature"
  /** Shown in percent. */
  | "share"
  /** Money for a litre, of resin or of anything; and for a cubic metre. */
  | "perResinVolume"
  | "perVolume"
  | "perBulk";

export interface TextField extends Named {
  readonly is: "text";
  readonly most: number;
  /** May be kept empty, and is kept as typed. */
  readonly free: boolean;
  /** Read by a parser of what it is. */
  readonly format?: "mail";
}
export interface NumberField extends Named {
  readonly is: "number";
  readonly range: Range;
  readonly quantity?: Quantity;
}
export interface FlagField extends Named {
  readonly is: "flag";
}
export interface InstantField extends Named {
  readonly is: "instant";
}
export interface DateField extends Named {
  readonly is: "date";
}
export interface ChoiceField extends Named {
  readonly is: "choice";
  /** Each value with its word. */
  readonly of: Readonly<Record<string, string>>;
  /** The sentence where it is none of them. */
  readonly fault: string;
}
/** ISO 4217 code of the money that stands beside it. */
export interface CurrencyField extends Named {
  readonly is: "currency";
}
/** A meter's scale: a named one, or its own factor. */
export interface ScaleField extends Named {
  readonly is: "scale";
}
/** The id of a part that has one of its own. */
export interface IdField extends Named {
  readonly is: "id";
}
/** The id of another record of the crew. */
export interface ReferenceField extends Named {
  readonly is: "reference";
  /** Name of its kind. */
  readonly to: string;
}
export interface GroupField extends Named {
  readonly is: "group";
  readonly fields: Fields;
  readonly rules: readonly Rule<never>[];
}
/** One of several groups, told apart by the value of one field. */
export interface VariantsField extends Named {
  readonly is: "variants";
  readonly by: string;
  readonly of: Readonly<Record<string, Fields>>;
  readonly fault: string;
}
export interface ListField extends Named {
  readonly is: "list";
  readonly item: GroupField | VariantsField;
  readonly least: number;
  readonly most: number;
  readonly tooFew: string;
  readonly tooMany: string;
  /** Its rows stand in a table of their own, each with its id. */
  readonly table?: string;
}
/** A value that a calculation defines; the contract has its schema under this name. */
export interface ShapeField extends Named {
  readonly is: "shape";
  readonly shape: string;
}

export type Field =
  | TextField
  | NumberField
  | FlagField
  | InstantField
  | DateField
  | ChoiceField
  | ScaleField
  | CurrencyField
  | IdField
  | ReferenceField
  | GroupField
  | VariantsField
  | ListField
  | ShapeField;

export type Fields = { readonly [name: string]: Field & Holds<unknown> };

/** What must hold between fields. */
export interface Rule<B> {
  /** The field beside which the sentence stands. */
  readonly path: string;
  readonly fault: string;
  readonly holds: (body: B) => boolean;
}

type Simplify<T> = { [K in keyof T]: T[K] };
type Optional<Fs> = { [K in keyof Fs]: Fs[K] extends { readonly optional: true } ? K : never }[keyof Fs];

/** The values of a field. */
export type ValueOf<F> = F extends Holds<infer T> ? T : never;

/** The values of a group of fields. */
export type ValuesOf<Fs> = Simplify<
  { readonly [K in Exclude<keyof Fs, Optional<Fs>>]: ValueOf<Fs[K]> } & {
    readonly [K in Optional<Fs>]?: ValueOf<Fs[K]> | undefined;
  }
>;

type VariantsOf<By extends string, Of extends Readonly<Record<string, Fields>>> = {
  [V in keyof Of]: Simplify<{ readonly [K in By]: V } & ValuesOf<Of[V]>>;
}[keyof Of];

interface More {
  readonly label?: string;
}

/** @example text("The tap's name", { label: "Name" }) */
export const text = (
  called: string,
  more: More & { readonly most?: number; readonly format?: "mail" } = {},
): TextField & Holds<string> => ({
  is: "text",
  called,
  most: 120,
  free: false,
  ...more,
});

const LONGEST_NOTE = 2000;

/** Words of one's own, kept as typed; always optional. */
export const note = optional<TextField & Holds<string>>({
  is: "text",
  called: "The note",
  most: LONGEST_NOTE,
  free: true,
});

/** @param range one of `RANGES`; its name, or another, begins the sentence about a number outside it */
export function number(
  range: Range,
  { called, ...more }: More & { readonly called?: string; readonly quantity?: Quantity } = {},
): NumberField & Holds<number> {
  const named = called === undefined ? range : { ...range, name: called };
  return { is: "number", called: named.name, range: named, ...more };
}

export const flag = (called: string, more: More = {}): FlagField & Holds<boolean> => ({ is: "flag", called, ...more });

/** @param called what happened then: `The time of the visit` */
export const instant = (called: string, more: More = {}): InstantField & Holds<Instant> => ({
  is: "instant",
  called,
  ...more,
});

/** @param called what happened that day: `The day of the sample` */
export const date = (called: string, more: More = {}): DateField & Holds<string> => ({ is: "date", called, ...more });

/** @param of each value with its word */
export const choice = <const Of extends Readonly<Record<string, string>>>(
  called: string,
  of: Of,
  more: More & { readonly fault: string },
): ChoiceField & { readonly of: Of } & Holds<keyof Of & string> => ({ is: "choice", called, of, ...more });

export const currency = (): CurrencyField & Holds<string> => ({ is: "currency", called: "The currency" });

export const scale = (called = "The scale", more: More = {}): ScaleField & Holds<Scale> => ({
  is: "scale",
  called,
  ...more,
});

export const ownId = (called: string): IdField & Holds<Id> => ({ is: "id", called });

/** @param to the name of a kind, such as `taps` */
export const reference = (to: string, called: string, more: More = {}): ReferenceField & Holds<Id> => ({
  is: "reference",
  to,
  called,
  ...more,
});

export const group = <const Fs extends Fields>(
  called: string,
  fields: Fs,
  { rules = [], ...more }: More & { readonly rules?: readonly Rule<ValuesOf<Fs>>[] } = {},
): GroupField & { readonly fields: Fs } & Holds<ValuesOf<Fs>> => ({
  is: "group",
  called,
  fields,
  rules: rules as readonly Rule<never>[],
  ...more,
});

export const variants = <const By extends string, const Of extends Readonly<Record<string, Fields>>>(
  called: string,
  by: By,
  of: Of,
  more: More & { readonly fault: string },
): VariantsField & Holds<VariantsOf<By, Of>> => ({ is: "variants", called, by, of, ...more });

export const list = <I extends (GroupField | VariantsField) & Holds<unknown>>(
  called: string,
  item: I,
  more: Pick<ListField, "least" | "most" | "tooFew" | "tooMany" | "table"> & More,
): ListField & { readonly item: I } & Holds<readonly ValueOf<I>[]> => ({ is: "list", called, item, ...more });

/** @param shape the name under which the contract has its schema */
export const shape = <T>(called: string, shape: string): ShapeField & Holds<T> => ({ is: "shape", called, shape });

/** A field that may be left out. */
export function optional<F extends Field>(field: F): F & { readonly optional: true } {
  return { ...field, optional: true };
}

/** What stands above a field's box. @example labelOf(text("The tap's name")) // "Tap's name" */
export const labelOf = ({ label, called }: Field): string =>
  label ?? called.replace(/^The /, "").replace(/^./, (first) => first.toUpperCase());
