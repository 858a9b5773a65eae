import type { z } from "zod";

const KINDS: Readonly<Record<string, string>> = {
  string: "text",
  number: "a number",
  int: "a whole number",
  boolean: "true or false",
  array: "a list",
  object: "an object with named fields",
};

const listed = (values: readonly unknown[]) => values.map(String).join(", ");

/** How long or how large something may be, in words. */
function bound(origin: string, edge: "at least" | "at most", value: number | bigint): string {
  if (origin === "string") return `This must have ${edge} ${value} characters.`;
  if (origin === "array" || origin === "set") return `This must have ${edge} ${value} entries.`;
  return `This must be ${edge} ${value}.`;
}

/**
 * The sentence for a complaint that a field has no words of its own for.
 * @example sentenceOf({ code: "invalid_value", values: ["limit", "early"] }) // "Choose one of: limit, early."
 */
export function sentenceOf(issue: z.core.$ZodRawIssue): string {
  if (issue.input === undefined && issue.code !== "unrecognized_keys") return "This is missing.";
  switch (issue.code) {
    case "invalid_type":
      return `This must be ${KINDS[issue.expected] ?? "something else"}.`;
    case "invalid_value":
      return issue.values.length === 1
        ? `This must be ${listed(issue.values)}.`
        : `Choose one of: ${listed(issue.values)}.`;
    case "too_small":
      return bound(issue.origin, "at least", issue.minimum);
    case "too_big":
      return bound(issue.origin, "at most", issue.maximum);
    case "unrecognized_keys":
      return `Unknown here: ${listed(issue.keys)}.`;
    case "invalid_format":
      return "This is not written as it should be.";
    default:
      return "This is none of the forms it may have.";
  }
}
