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

/** How a shown number came about: evaluating `formula` with the inputs gives `value`. */
export interface Explanation {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  /** Symbols of the inputs with + − × / ( ) ^, min, ln, exp. */
  readonly formula: string;
  /** The same in the words of the trade. */
  readonly words: string;
  readonly inputs: readonly ExplanationInput[];
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
  return {
    ...explanation,
    unit,
    value: explanation.value / per.value,
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
