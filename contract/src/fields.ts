import { outOfRangeSentence, rangeInWords, RANGES, type Range, type Scale } from "@winter-bead/core";
import type { ChoiceField, Holds } from "@winter-bead/core/src/descriptor/field";
import { UNSEEN } from "@winter-bead/core/src/descriptor/one-line";
import { z } from "zod";
import { sentenceOf } from "./sentences";

/** What no field says for itself is said in plain words; the schema's own never come through. */
z.config({ customError: sentenceOf });

/** A number inside one of the core's ranges, its sentence the core's own. */
export function numberIn(range: Range) {
  const sentence = outOfRangeSentence(range);
  let schema = z.number({ error: `${range.name} must be a number${range.unit === "" ? "" : ` in ${range.unit}`}.` });
  if (range.from !== undefined) schema = schema.min(range.from, sentence);
  if (range.above !== undefined) schema = schema.gt(range.above, sentence);
  if (range.to !== undefined) schema = schema.max(range.to, sentence);
  if (range.below !== undefined) schema = schema.lt(range.below, sentence);
  return schema.describe(`${range.name}: ${rangeInWords(range)}`);
}

/** An object that refuses fields it does not know, by name. */
export const known = <S extends z.ZodRawShape>(shape: S) =>
  z.strictObject(shape, {
    error: (issue) =>
      issue.code === "unrecognized_keys"
        ? `Unknown here: ${(issue as { keys: string[] }).keys.join(", ")}.`
        : issue.input === undefined
          ? "This is missing."
          : "This must be an object with named fields.",
  });

/** PostgreSQL text holds anything but NUL and lone surrogates. */
const isPrintable = (value: string) => !value.includes("\u0000") && value.isWellFormed();

export const text = (name: string, most = 120) =>
  z
    .string({ error: `${name} must be text.` })
    .trim()
    .refine(isPrintable, `${name} holds a character that cannot be kept.`)
    .refine(
      (value) => !UNSEEN.test(value),
      `${name} holds a line break, or a mark that turns the direction of writing; type it on one line.`,
    )
    .min(1, `${name} is missing.`)
    .max(most, `${name} is longer than ${most} characters.`);

const MAIL = "Give a mail address such as crew@example.org.";

/** One mail address, and nothing beside it. */
export const mail = (name: string, most: number) =>
  text(name, most).refine((value) => z.email().safeParse(value).success, MAIL);

/** Text that may be empty and is kept as typed. */
export const free = (name: string, most: number) =>
  z
    .string({ error: `${name} must be text.` })
    .refine(isPrintable, `${name} holds a character that cannot be kept.`)
    .max(most, `${name} is longer than ${most.toLocaleString("en")} characters.`);

const CHOOSE_SCALE = "Choose the meter's scale: NaCl, 442, KCl, µS/cm (ec), or its own factor from 0.40 to 1.00.";

export const scale = z.union(
  [
    z.enum(["nacl", "442", "kcl", "ec"]),
    z.number().min(RANGES.scaleFactor.from, CHOOSE_SCALE).max(RANGES.scaleFactor.to, CHOOSE_SCALE),
  ],
  { error: CHOOSE_SCALE },
) satisfies z.ZodType<Scale>;

export const id = z.uuid({ error: "The id must be a UUID." });

/** Nobody logs before or after these; a clock that is far off is found here. */
const CENTURY = { from: Date.parse("2000-01-01T00:00:00Z"), to: Date.parse("2100-01-01T00:00:00Z") };

/** @param name what happened then: `The time of the visit` */
export const instant = (name: string) =>
  z.iso
    .datetime({ offset: true, abort: true, error: `${name} must be a time as ISO 8601, such as 2027-03-01T08:10:00Z.` })
    .refine(
      (text) => Date.parse(text) >= CENTURY.from && Date.parse(text) < CENTURY.to,
      `${name} must lie between 2000 and 2100; look at the device's clock.`,
    );
/** @param name what happened that day: `The day of the sample` */
export const date = (name: string) => z.iso.date({ error: `${name} must be a real date, such as 2027-03-01.` });

export const flag = z.boolean({ error: "This must be true or false." });

/** One of a field's choices. */
export const oneOf = <V extends string>({ of, fault }: ChoiceField & Holds<V>): z.ZodType<V> =>
  z.enum(Object.keys(of) as [V, ...V[]], { error: fault }) as unknown as z.ZodType<V>;
