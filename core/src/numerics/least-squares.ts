type Three = readonly [number, number, number];

const determinant = ([a, b, c]: Three, [d, e, f]: Three, [g, h, i]: Three) =>
  a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);

const replaced = (row: Three, column: number, value: number): Three =>
  row.map((each, i) => (i === column ? value : each)) as unknown as Three;

/**
 * Three unknowns by least squares: normal equations, solved by Cramer's rule. A linear algebra package would do the same
 * at the price of a seventh of the first page.
 *
 * @returns undefined when the rows don't determine the unknowns
 * @example leastSquares3([[1, 0, 0], [1, 1, 0], [1, 0, 1]], [2, 3, 5]) // [2, 1, 3]
 */
export function leastSquares3(rows: readonly Three[], values: readonly number[]): Three | undefined {
  const dot = (i: number, j: number) => rows.reduce((sum, row) => sum + row[i]! * row[j]!, 0);
  const normal = [0, 1, 2].map((i) => [dot(i, 0), dot(i, 1), dot(i, 2)] as const) as unknown as [Three, Three, Three];
  const right = [0, 1, 2].map((i) => rows.reduce((sum, row, k) => sum + row[i]! * values[k]!, 0));
  const whole = determinant(...normal);
  const size = normal[0][0] * normal[1][1] * normal[2][2];
  if (!(Math.abs(whole) > 1e-9 * size)) return undefined;
  const solved = [0, 1, 2].map((column) => {
    const [a, b, c] = normal.map((row, i) => replaced(row, column, right[i]!)) as [Three, Three, Three];
    return determinant(a, b, c) / whole;
  });
  return solved as unknown as Three;
}
