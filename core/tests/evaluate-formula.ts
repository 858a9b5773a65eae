import { all, create } from "mathjs";
import type { Explanation } from "../src/index";

const math = create(all ?? {});

/** Works out a shown formula from its shown inputs, with a parser that knows nothing of Winter Bead. */
export function evaluateFormula(formula: string, inputs: Readonly<Record<string, number>>): number {
  const plain = formula.replaceAll("×", "*").replaceAll("−", "-");
  return math.evaluate(plain, { ...inputs, ln: Math.log }) as number;
}

export const evaluateExplanation = ({ formula, inputs }: Explanation) =>
  evaluateFormula(formula, Object.fromEntries(inputs.map(({ symbol, value }) => [symbol, value])));
