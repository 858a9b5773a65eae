/** One number that a formula rests on. */
export interface ExplanationInput {
  /** As it stands in the formula. */
  readonly symbol: string;
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  /** Where it comes from: typed, the tap's readings, a planning assumption. */
  readonly from: string;
  /** An assumption can be changed by the user. */
  readonly assumption?: boolean;
  /** How this input was itself worked out. */
  readonly because?: Explanation;
}

/** One stage on the way to a number that is drawn from a distribution. */
export interface ExplanationStep {
  readonly words: string;
  readonly value: number;
  readonly unit: string;
}

/** A number that is the median of a distribution, not a formula's value. */
export interface MedianOf {
  /** What the formula gives with the middle of each input: near the median, not the same. */
  readonly middleOfEach: number;
  /** How the belief moved, each a median of its own. */
  readonly steps: readonly ExplanationStep[];
}

/** How a shown number came about: evaluating `formula` with the inputs gives `value`, or `median.middleOfEach`. */
export interface Explanation {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  /** Symbols of the inputs with + − × / ( ) ^, min, ln, exp. */
  readonly formula: string;
  /** The same in the words of the trade. */
  readonly words: string;
  readonly inputs: readonly ExplanationInput[];
  readonly median?: MedianOf;
  readonly school: string;
  /** Open literature or standard. */
  readonly source: string;
}

/** The same number in another unit, with the conversion as one more input. */
export function convertExplanation(
  explanation: Explanation,
  unit: string,
  per: { readonly symbol: string; readonly name: string; readonly value: number; readonly unit: string },
): Explanation {
  const { median } = explanation;
  const converted = (value: number, from: string) => (from === explanation.unit ? value / per.value : value);
  return {
    ...explanation,
    unit,
    value: explanation.value / per.value,
    ...(median
      ? {
          median: {
            middleOfEach: median.middleOfEach / per.value,
            steps: median.steps.map((step) => ({
              words: step.words,
              value: converted(step.value, step.unit),
              unit: step.unit === explanation.unit ? unit : step.unit,
            })),
          },
        }
      : {}),
    formula: `(${explanation.formula}) / ${per.symbol}`,
    inputs: [...explanation.inputs, { ...per, from: "exact by definition" }],
  };
}

/** The same number for so many vessels at once; for one it is what it was. */
export function explainTimes(explanation: Explanation, vessels: number): Explanation {
  if (vessels === 1) return explanation;
  return {
    ...explanation,
    value: vessels * explanation.value,
    formula: `n × v`,
    words: "what one vessel gives, for all that are filled",
    inputs: [
      { symbol: "n", name: "Vessels filled at a refill", value: vessels, unit: "", from: "the train" },
      {
        symbol: "v",
        name: explanation.name,
        value: explanation.value,
        unit: explanation.unit,
        from: "its own working",
        because: explanation,
      },
    ],
  };
}

/** One input of a formula, in the order that a page reads it. */
export const given = (
  symbol: string,
  name: string,
  value: number,
  unit: string,
  from: string,
  because?: Explanation,
): ExplanationInput => ({ symbol, name, value, unit, from, ...(because ? { because } : {}) });

/** An input that the user may change, because nobody measured it. */
export const planningAssumption = (symbol: string, name: string, value: number, unit: string): ExplanationInput => ({
  ...given(symbol, name, value, unit, "planning assumption"),
  assumption: true,
});
