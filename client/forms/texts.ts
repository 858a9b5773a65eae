import type { Field, Fields, Quantity } from "@winter-bead/core/src/descriptor/field";
import { format } from "date-fns/format";
import { toInternal, toShown, typedNumber, type Units } from "../ui/format";

/** What a form holds: text for each field, in the shape of the body. */
export interface Texts {
  [name: string]: string | Texts;
}

type Body = Readonly<Record<string, unknown>>;

const PERCENT = 100;
const DIGITS = 6;

/** What money is for: a litre becomes a gallon or a cubic foot, a cubic metre a thousand gallons. */
const PER = { perVolume: "volume", perBulk: "volume", perResinVolume: "resinVolume" } as const;
const isPer = (quantity: Quantity): quantity is keyof typeof PER => quantity in PER;

export const shownNumber = (quantity: Quantity | undefined, value: number, units: Units) => {
  if (quantity === undefined) return value;
  if (isPer(quantity)) return value / toShown(PER[quantity], 1, units);
  return quantity === "share" ? PERCENT * value : toShown(quantity, value, units);
};
export const internalNumber = (quantity: Quantity | undefined, value: number, units: Units) => {
  if (quantity === undefined) return value;
  if (isPer(quantity)) return value * toShown(PER[quantity], 1, units);
  return quantity === "share" ? value / PERCENT : toInternal(quantity, value, units);
};

/** A number as it stands in its box. @example numberText(13.99997) // "14" */
export const numberText = (value: number) => String(Number(value.toPrecision(DIGITS)));

/** A moment as the platform's picker has it, in the time of this device. */
export const momentText = (instant: string) => format(Date.parse(instant), "yyyy-MM-dd'T'HH:mm");

const asBody = (value: unknown) => (value ?? {}) as Body;

/** A value of a field as text, in the user's units; an absent one is empty. */
export function textOf(field: Field, value: unknown, units: Units): string | Texts {
  switch (field.is) {
    case "group":
      return textsOf(field.fields, asBody(value), units);
    case "variants": {
      const body = asBody(value);
      const every = Object.values(field.of).map((fields) => textsOf(fields, body, units));
      return Object.assign({ [field.by]: String(body[field.by] ?? "") }, ...every) as Texts;
    }
    case "number":
      return value === undefined ? "" : numberText(shownNumber(field.quantity, value as number, units));
    case "flag":
      return value === undefined ? "" : value ? "yes" : "no";
    case "instant":
      return value === undefined ? "" : momentText(value as string);
    default:
      return value === undefined ? "" : String(value);
  }
}

const isTyped = ({ is }: Field) => is !== "list" && is !== "shape" && is !== "id";

/** A body as texts; lists and what calculations define are not typed and stay out. */
export const textsOf = (fields: Fields, body: Body, units: Units): Texts =>
  Object.fromEntries(
    Object.entries(fields)
      .filter(([, field]) => isTyped(field))
      .map(([name, field]) => [name, textOf(field, body[name], units)]),
  );

const isEmpty = (text: string | Texts | undefined): boolean =>
  text === undefined || (typeof text === "string" ? text.trim() === "" : Object.values(text).every(isEmpty));

const NAMED_SCALES = ["nacl", "442", "kcl", "ec"];

function parsed(field: Field, text: string, units: Units): unknown {
  switch (field.is) {
    case "number":
      return internalNumber(field.quantity, typedNumber(text) ?? NaN, units);
    case "flag":
      return text === "yes";
    case "scale":
      return NAMED_SCALES.includes(text) ? text : (typedNumber(text) ?? NaN);
    case "instant": {
      const moment = new Date(text);
      return Number.isNaN(moment.getTime()) ? text : moment.toISOString();
    }
    case "currency":
      return text.trim().toUpperCase();
    default:
      return text;
  }
}

/** What a text stands for. What was not touched stays exactly as it was, whatever the units show of it. */
function valueOf(field: Field, text: string | Texts | undefined, before: unknown, units: Units): unknown {
  if (!isTyped(field)) return before;
  if (field.is === "group") {
    if (isEmpty(text) && field.optional) return undefined;
    return bodyFrom(field.fields, (text ?? {}) as Texts, asBody(before), units);
  }
  if (field.is === "variants") {
    const texts = (text ?? {}) as Texts;
    const chosen = String(texts[field.by] ?? "");
    if (chosen === "" && field.optional) return undefined;
    return { [field.by]: chosen, ...bodyFrom(field.of[chosen] ?? {}, texts, asBody(before), units) };
  }
  const typed = String(text ?? "");
  if (before !== undefined && typed === textOf(field, before, units)) return before;
  if (typed.trim() === "") return field.is === "text" && !field.optional ? "" : undefined;
  return parsed(field, typed, units);
}

/**
 * The body that texts stand for; what is no number is NaN, for the check to find.
 * @param before the body that the form started from
 */
export const bodyFrom = (fields: Fields, texts: Texts, before: Body, units: Units): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(fields)
      .map(([name, field]): [string, unknown] => [name, valueOf(field, texts[name], before[name], units)])
      .filter(([, value]) => value !== undefined),
  );

/** The field at a path such as `marks.limit`. */
export function fieldAt(fields: Fields, path: string): Field {
  const [name, ...rest] = path.split(".") as [string, ...string[]];
  const field = fields[name];
  if (!field) throw new Error(`There is no field ${path}.`);
  if (rest.length === 0) return field;
  if (field.is === "group") return fieldAt(field.fields, rest.join("."));
  if (field.is === "variants") {
    if (rest[0] === field.by)
      return {
        is: "choice",
        called: field.called,
        of: Object.fromEntries(Object.keys(field.of).map((key) => [key, key])),
        fault: field.fault,
      };
    const holding = Object.values(field.of).find((each) => rest[0]! in each);
    if (holding) return fieldAt(holding, rest.join("."));
  }
  throw new Error(`There is no field ${path}.`);
}

/** Text that stands for a number of a quantity, in other units; what is no number stays as it was typed. */
export function textIn(quantity: Quantity | undefined, text: string, from: Units, to: Units): string {
  const number = typedNumber(text);
  if (number === undefined || quantity === undefined || from === to) return text;
  return numberText(shownNumber(quantity, internalNumber(quantity, number, from), to));
}

/** Texts as they read in other units. */
export const textsIn = (fields: Fields, texts: Texts, from: Units, to: Units): Texts =>
  Object.fromEntries(
    Object.entries(texts).map(([name, text]) => {
      const field = fields[name];
      if (typeof text === "string")
        return [name, field?.is === "number" ? textIn(field.quantity, text, from, to) : text];
      if (field?.is === "group") return [name, textsIn(field.fields, text, from, to)];
      if (field?.is === "variants")
        return [name, textsIn(Object.assign({}, ...Object.values(field.of)) as Fields, text, from, to)];
      return [name, text];
    }),
  );

/** What of some texts differs from others; undefined where nothing does. */
export function differing(texts: Texts, from: Texts): Texts | undefined {
  const different = Object.entries(texts).flatMap(([name, text]): [string, string | Texts][] => {
    const other = from[name];
    // A box that is gone from the screen may leave nothing behind.
    if ((text as unknown) === undefined || (text as unknown) === null) return [];
    if (typeof text === "string") return text === (other ?? "") ? [] : [[name, text]];
    const below = differing(text, (typeof other === "object" ? other : {}) as Texts);
    return below ? [[name, below]] : [];
  });
  return different.length > 0 ? Object.fromEntries(different) : undefined;
}

/** Texts laid over others, as deep as they go. */
export const laidOver = (texts: Texts, over: Texts | undefined): Texts => {
  const laid: Texts = { ...texts };
  for (const [name, text] of Object.entries(over ?? {})) {
    const below = laid[name];
    laid[name] = typeof text === "object" ? laidOver(typeof below === "object" ? below : {}, text) : text;
  }
  return laid;
};
