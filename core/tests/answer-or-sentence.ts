import fc from "fast-check";
import type { Result } from "../src/index";

/** Numbers of every sort, those that are none among them. */
export const anyNumber = fc.oneof(
  fc.double(),
  fc.constantFrom(0, -0, 1e-320, 1e308, -1, Number.NaN, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY),
  fc.double({ min: 0, max: 1000, noNaN: true }),
);

/** An answer has finite numbers throughout; a fault has a sentence. */
export function expectAnswerOrSentence(result: Result<unknown>): void {
  if (result.ok) {
    expect(
      JSON.stringify(result.value, (_key, value: unknown) => (value === Infinity ? "Infinity" : value)),
    ).not.toMatch(/null|Infinity/);
    return;
  }
  expect(result.fault.message).toMatch(/^[A-Z].*\.$/);
  expect(result.fault.code).toMatch(/^[a-z0-9-]+$/);
}
