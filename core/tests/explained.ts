import type { Explanation } from "../src/index";
import { evaluateExplanation } from "./evaluate-formula";

/** Its number comes out of its own formula and inputs, down to the inputs of its inputs. */
export function expectTrue(explanation: Explanation): void {
  const again = evaluateExplanation(explanation);
  const given = explanation.median?.middleOfEach ?? explanation.value;
  expect(Math.abs(again - given)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(given)));
  for (const input of explanation.inputs) {
    if (!input.because) continue;
    expect(input.because.value).toBeCloseTo(input.value, 9);
    expectTrue(input.because);
  }
}
