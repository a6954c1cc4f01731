import { regularisedBeta } from './beta';

/**
 * P(F > f) of Fisher's F with `d1` and `d2` degrees of freedom; 1 for f of 0 or less.
 * @example fUpperTail(4.9646, 1, 10) // 0.0500
 */
export function fUpperTail(f: number, d1: number, d2: number): number {
  if (!(f > 0)) return 1;
  if (f === Infinity) return 0;
  return regularisedBeta(d2 / (d2 + d1 * f), d2 / 2, d1 / 2);
}
