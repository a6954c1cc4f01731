/**
 * Quantile by linear interpolation of order statistics (Hyndman and Fan type 7).
 * @param p 0 to 1. @returns NaN for an empty list.
 * @example quantile([1, 2, 3, 4], 0.25) // 1.75
 */
export function quantile(values: ArrayLike<number>, p: number): number {
  const sorted = Float64Array.from(values).sort();
  if (sorted.length === 0) return NaN;
  const position = p * (sorted.length - 1);
  const below = Math.floor(position);
  const low = sorted[below]!;
  const high = sorted[Math.min(below + 1, sorted.length - 1)]!;
  return low + (high - low) * (position - below);
}

/**
 * Middle value, the mean of the two middle ones for an even count.
 * @example median([3, 1, 2, 10]) // 2.5
 */
export function median(values: ArrayLike<number>): number {
  return quantile(values, 0.5);
}

/**
 * Median absolute deviation from the median, not scaled.
 * @example medianAbsoluteDeviation([1, 1, 2, 2, 4, 6, 9]) // 1
 */
export function medianAbsoluteDeviation(values: ArrayLike<number>): number {
  const centre = median(values);
  return median(Float64Array.from(values, (value) => Math.abs(value - centre)));
}

/**
 * Robust z = 0.6745·(x − median)/MAD of any value among the same others, which are looked at once
 * (handbook, chapter 3).
 * @returns a function that is null when the spread is zero or there are fewer than five values.
 * @example [1, 9].map(robustScores([1, 1, 2, 2, 4, 6, 9])) // [-0.6745, 4.7215]
 */
export function robustScores(values: ArrayLike<number>): (value: number) => number | null {
  const spread = values.length < 5 ? 0 : medianAbsoluteDeviation(values);
  const centre = median(values);
  return (value) => (spread > 0 ? (0.6745 * (value - centre)) / spread : null);
}

/**
 * Robust z of one value (`robustScores`).
 * @returns null when the spread is zero or there are fewer than five values.
 * @example robustZ(9, [1, 1, 2, 2, 4, 6, 9]) // 4.7215: 0.6745 × 7 over 1
 */
export const robustZ = (value: number, values: ArrayLike<number>): number | null =>
  robustScores(values)(value);
