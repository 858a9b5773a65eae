const CHEBYSHEV = [
  -1.26551223, 1.00002368, 0.37409196, 0.09678418, -0.18628806, 0.27886807, -1.13520398, 1.48851587, -0.82215223,
  0.17087277,
] as const;

/** ln erfc(x) for x >= 0, fractional error of erfc below 1.2e-7 (Press et al. 2007, Numerical Recipes, section 6.2). */
function logErfcPositive(x: number): number {
  const t = 1 / (1 + 0.5 * x);
  let polynomial = 0;
  for (let i = CHEBYSHEV.length - 1; i >= 0; i -= 1) polynomial = polynomial * t + CHEBYSHEV[i]!;
  return Math.log(t) - x * x + polynomial;
}

/**
 * ln Φ(z) of the standard normal distribution; never -Infinity for a finite z.
 * @example logNormalCdf(0) // ln 0.5
 */
export function logNormalCdf(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  if (z <= 0) return Math.log(0.5) + logErfcPositive(x);
  return Math.log1p(-0.5 * Math.exp(logErfcPositive(x)));
}

/**
 * Deviate below which a share of a standard normal lies: the rational start of Abramowitz and Stegun 1964 (26.2.23), then
 * Newton's steps on Φ.
 *
 * @param share above 0, below 1
 * @example normalQuantile(0.9) // 1.2816
 */
export function normalQuantile(share: number): number {
  if (share === 0.5) return 0;
  const tail = Math.min(share, 1 - share);
  const t = Math.sqrt(-2 * Math.log(tail));
  let z = t - (2.515517 + t * (0.802853 + 0.010328 * t)) / (1 + t * (1.432788 + t * (0.189269 + 0.001308 * t)));
  for (let i = 0; i < 2; i += 1)
    z += (Math.exp(logNormalCdf(-z)) - tail) / (Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI));
  return share < 0.5 ? -z : z;
}
