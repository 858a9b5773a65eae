import { isWithin, outOfRangeSentence, type Range } from "@winter-bead/core";
import type { Field, NumberField } from "@winter-bead/core/src/descriptor/field";
import { typedNumber, unitOf, type Units } from "../ui/format";
import { internalNumber, shownNumber } from "./texts";

/** What stands beside a number's box, in the user's units. */
export function unitShown(field: Field, units: Units): string | undefined {
  if (field.is !== "number") return undefined;
  const { quantity, range } = field;
  if (quantity === "share") return "%";
  return quantity && !quantity.startsWith("per") ? unitOf(quantity as "volume", units) : range.unit || undefined;
}

/** Bounds as the user reads them, near enough to say. */
function shownRange(field: NumberField, units: Units): Range {
  const { quantity, range } = field;
  if (quantity === undefined) return range;
  const bound = (value: number | undefined) =>
    value === undefined ? undefined : Number(shownNumber(quantity, value, units).toPrecision(4));
  const bounds = { from: bound(range.from), above: bound(range.above), to: bound(range.to), below: bound(range.below) };
  const stated = Object.fromEntries(Object.entries(bounds).filter(([, value]) => value !== undefined));
  return { name: range.name, unit: unitShown(field, units) ?? range.unit, ...stated };
}

/** What is wrong with a number as it is typed, in the user's own units; nothing where the box is empty. */
export function liveFault(field: Field, text: string, units: Units): string | undefined {
  if (field.is !== "number" || text.trim() === "") return undefined;
  const number = typedNumber(text);
  if (number === undefined) return `${field.range.name} is not a number yet.`;
  const internal = internalNumber(field.quantity, number, units);
  return isWithin(internal, field.range) ? undefined : outOfRangeSentence(shownRange(field, units));
}
