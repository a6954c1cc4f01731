import { regularisedGammaP } from './gamma';

/**
 * Standard normal distribution function Φ(z), by Φ(z) = ½·(1 ± P(½, z²/2)).
 * Absolute error below 1e-13.
 * @example normalCdf(1.959964) // 0.9750
 */
export function normalCdf(z: number): number {
  if (Number.isNaN(z)) return NaN;
  if (Math.abs(z) > 40) return z > 0 ? 1 : 0;
  const { lower, upper } = regularisedGammaP(0.5, (z * z) / 2);
  return z >= 0 ? 0.5 + lower / 2 : upper / 2;
}

/**
 * z with Φ(z) = p, by bisection; p between 0 and 1.
 * @example normalQuantile(0.975) // 1.959964
 */
export function normalQuantile(p: number): number {
  let [low, high] = [-10, 10];
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2;
    if (normalCdf(middle) < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
