import Papa from "papaparse";

/**
 * What a spreadsheet would run instead of show: a cell that begins with one of its signs, wide ones and blanks before them
 * among these, and is no number.
 */
const FORMULA = /^(?!\s*[-+]?(?:\d+[.,]?\d*|[.,]\d+)(?:[eE][-+]?\d+)?\s*$)\s*[=+\-@\t\r\uff1d\uff0b\uff0d\uff20]/;

/** Rows as CSV, one header line first; what would be a formula is made text, numbers stay numbers. */
export const csvOf = (rows: readonly object[]): string =>
  `${Papa.unparse(rows as object[], { newline: "\n", escapeFormulae: FORMULA })}\n`;

/** Words on a line of their own above the rows; no part of them becomes a cell that is run. */
export const csvComment = (name: string, words: string): string =>
  `# ${name}: ${words.replaceAll(/[\r\n]+/g, " ").replaceAll(/([,;\t]\s*"?\s*)(?=[=+\-@\uff1d\uff0b\uff0d\uff20])/g, "$1'")}\n`;
