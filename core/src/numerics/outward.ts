/** Figures by which a step may grow: 1, 2, 5, 10 ... */
const STEPS = [5, 2, 1] as const;

/**
 * A range rounded outward: to a step of 1, 2 or 5 at or below a tenth of its width, so that rounding never makes a claim.
 *
 * @param low 0 or more
 * @returns the same range where it has no width
 * @example roundedOutward(24.1, 57.3) // { low: 24, high: 58 }
 */
export function roundedOutward(low: number, high: number): { readonly low: number; readonly high: number } {
  const tenth = (high - low) / 10;
  if (!(tenth > 0)) return { low, high };
  const decade = 10 ** Math.floor(Math.log10(tenth));
  const multiple = STEPS.find((step) => step * decade <= tenth * (1 + 1e-12)) ?? 1;
  // Whole steps are counted and divided by whole numbers where the step is below 1, so that 0.3 stays 0.3.
  const [up, per] = decade >= 1 ? [multiple * decade, 1] : [multiple, Math.round(1 / decade)];
  const step = up / per;
  const count = (value: number, round: (value: number) => number) => (round(value / step) * up) / per;
  return {
    low: count(low + 1e-9 * step, Math.floor),
    high: count(high - 1e-9 * step, Math.ceil),
  };
}
