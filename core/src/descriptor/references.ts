import type { Field, Fields } from "./field";
import type { Id } from "./identity";
import type { Kind } from "./kind";

/** Another record that a body names. */
export interface Reference {
  /** Name of its kind. */
  readonly to: string;
  readonly id: Id;
  /** Where in the body: `readings.2.meterId`. */
  readonly path: string;
  /** What it is called there: `The meter`. */
  readonly called: string;
}

type Body = Readonly<Record<string, unknown>>;

function inField(field: Field, value: unknown, path: string): readonly Reference[] {
  if (value === undefined || value === null) return [];
  switch (field.is) {
    case "reference":
      return [{ to: field.to, id: (value as Id).toLowerCase(), path, called: field.called }];
    case "group":
      return inFields(field.fields, value as Body, `${path}.`);
    case "variants":
      return inFields(field.of[String((value as Body)[field.by])] ?? {}, value as Body, `${path}.`);
    case "list":
      return (value as readonly unknown[]).flatMap((item, i) => inField(field.item, item, `${path}.${i}`));
    default:
      return [];
  }
}

const inFields = (fields: Fields, body: Body, path = ""): readonly Reference[] =>
  Object.entries(fields).flatMap(([name, field]) => inField(field, body[name], path + name));

/**
 * Every other record that a body names, wherever in it.
 * @example referencesIn(TAP, { siteId: "0194…", … }) // [{ to: "sites", id: "0194…", path: "siteId", called: "The tap's site" }]
 */
export const referencesIn = ({ fields }: Kind, body: Body): readonly Reference[] => inFields(fields, body);

/** Whether a field may name records of a kind. */
export const fieldNames = (field: Field, to: string): boolean => {
  switch (field.is) {
    case "reference":
      return field.to === to;
    case "group":
      return fieldsName(field.fields, to);
    case "variants":
      return Object.values(field.of).some((fields) => fieldsName(fields, to));
    case "list":
      return fieldNames(field.item, to);
    default:
      return false;
  }
};

const fieldsName = (fields: Fields, to: string) => Object.values(fields).some((field) => fieldNames(field, to));

/** Whether records of a kind may name records of another. */
export const mayName = ({ fields }: Kind, to: string): boolean => fieldsName(fields, to);
