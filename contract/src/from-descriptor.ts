import type { Kind } from "@winter-bead/core";
import {
  labelOf,
  type Field,
  type Fields,
  type Holds,
  type Rule,
  type ValueOf,
} from "@winter-bead/core/src/descriptor/field";
import { z } from "zod";
import { date, flag, free, id, instant, known, mail, numberIn, oneOf, scale, text } from "./fields";

/** Schemas of the values that calculations define, by the name that a descriptor gives them; filled by the records. */
export const SHAPES = new Map<string, z.ZodType>();

function shapeNamed(name: string): z.ZodType {
  const schema = SHAPES.get(name);
  if (!schema) throw new Error(`There is no schema for the shape ${name}.`);
  return schema;
}

const CURRENCY = "Give the currency by its three letters, such as EUR.";
const currency = z.string({ error: CURRENCY }).regex(/^[A-Z]{3}$/, CURRENCY);

function ruled<S extends z.ZodType>(schema: S, rules: readonly Rule<never>[]): S {
  return rules.reduce<S>(
    (before, { path, fault, holds }) =>
      before.refine((value) => holds(value as never), {
        path: path === "" ? [] : path.split("."),
        message: fault,
      }) as S,
    schema,
  );
}

const shapeOfFields = (fields: Fields): z.ZodRawShape =>
  Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, schemaOfField(field)]));

type Schemas = { readonly [F in Field as F["is"]]: (field: F) => z.ZodType };

const SCHEMAS: Schemas = {
  text: ({ called, most, free: asTyped, format }) =>
    asTyped ? free(called, most) : format === "mail" ? mail(called, most) : text(called, most),
  number: ({ range }) => numberIn(range),
  flag: () => flag,
  instant: ({ called }) => instant(called),
  date: ({ called }) => date(called),
  choice: oneOf,
  scale: () => scale,
  currency: () => currency,
  id: () => id,
  reference: () => id,
  group: ({ fields, rules }) => ruled(known(shapeOfFields(fields)), rules),
  variants: ({ by, of, fault }) =>
    z.discriminatedUnion(
      by,
      Object.entries(of).map(([value, fields]) => known({ [by]: z.literal(value), ...shapeOfFields(fields) })) as never,
      { error: fault },
    ),
  list: ({ called, item, least, most, tooFew, tooMany }) =>
    z
      .array(schemaOfField(item), { error: `${called} must be a list.` })
      .min(least, tooFew)
      .max(most, tooMany),
  shape: ({ shape }) => z.lazy(() => shapeNamed(shape)),
};

/** What a field takes, with its sentences. */
export function schemaOfField<F extends Field & Holds<unknown>>(field: F): z.ZodType<ValueOf<F>> {
  const schema = (SCHEMAS[field.is] as (field: Field) => z.ZodType)(field);
  const described = schema.description === undefined ? schema.describe(labelOf(field)) : schema;
  return (field.optional ? described.optional() : described) as z.ZodType<ValueOf<F>>;
}

/**
 * What a body of a kind must be.
 * @param more what stands beside the kind's own fields
 */
export const schemaOfKind = <K extends Kind & Holds<unknown>, More extends z.ZodRawShape = Record<never, never>>(
  { fields, rules }: K,
  more?: More,
) =>
  ruled(known({ ...shapeOfFields(fields), ...more }), rules) as unknown as z.ZodType<
    ValueOf<K> & z.output<z.ZodObject<More>>
  >;

/** The number of a body's shape. */
export const shapeNumber = z
  .int({ error: "shape is the number of the body's shape." })
  .min(1, "The first shape is 1.")
  .describe("The shape of the body; 1 where it is left out");
