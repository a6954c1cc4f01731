import { studentQuantile } from './beta';
import { mean, standardDeviation } from './mean';

/**
 * Confidence interval of a mean by Student's t; null below two values.
 * @example meanInterval([1, 2, 3, 4, 5]) // { low: 1.0368, high: 4.9632 }
 */
export function meanInterval(
  values: ArrayLike<number>,
  confidence = 0.95,
): { low: number; high: number } | null {
  if (values.length < 2) return null;
  const half =
    (studentQuantile(0.5 + confidence / 2, values.length - 1) * standardDeviation(values)) /
    Math.sqrt(values.length);
  const centre = mean(values);
  return { low: centre - half, high: centre + half };
}
