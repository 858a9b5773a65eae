/**
 * Where a rising function crosses zero between two points that bracket it (Illinois form of regula falsi,
 * Dowell and Jarratt 1971), to a relative width of 1e-12 or 200 steps.
 *
 * @example risingRoot((x) => x * x - 2, 0, 2) // 1.41421356
 */
export function risingRoot(f: (x: number) => number, low: number, high: number): number {
  let [a, b] = [low, high];
  let [fa, fb] = [f(a), f(b)];
  if (fa >= 0) return a;
  if (fb <= 0) return b;
  let lastSide = 0;
  for (let step = 0; step < 200 && b - a > 1e-12 * (1 + Math.abs(b)); step += 1) {
    const guess = (a * fb - b * fa) / (fb - fa);
    const x = guess > a && guess < b ? guess : (a + b) / 2;
    const fx = f(x);
    if (fx === 0) return x;
    if (fx < 0) {
      [a, fa] = [x, fx];
      if (lastSide === -1) fb /= 2;
      lastSide = -1;
    } else {
      [b, fb] = [x, fx];
      if (lastSide === 1) fa /= 2;
      lastSide = 1;
    }
  }
  return (a + b) / 2;
}

export interface ValueAndSlope {
  readonly value: number;
  readonly slope: number;
}

/**
 * Where a rising function whose slope is known crosses zero, from a guess between two points that bracket it: Newton's
 * steps, halving where one would leave the bracket, to a relative width of 1e-12 or 200 steps.
 *
 * @example risingRootNear((x) => ({ value: x * x - 2, slope: 2 * x }), 1, 0, 2) // 1.41421356
 */
export function risingRootNear(f: (x: number) => ValueAndSlope, guess: number, low: number, high: number): number {
  let [a, b, x] = [low, high, guess];
  for (let step = 0; step < 200; step += 1) {
    const { value, slope } = f(x);
    if (value < 0) a = x;
    else b = x;
    const next = x - value / slope;
    if (Math.abs(next - x) <= 1e-12 * (1 + Math.abs(x))) return next;
    x = next > a && next < b ? next : (a + b) / 2;
  }
  return x;
}
