import { betaQuantile } from './beta';

/**
 * Exact two-sided confidence interval of a share (Clopper and Pearson 1934).
 * @param successes 0 to `trials`. @param trials at least 1. @param confidence e.g. 0.95.
 * @throws RangeError when the counts make no sense.
 * @example clopperPearson(2, 20, 0.95) // { low: 0.0123, high: 0.3170 }
 */
export function clopperPearson(
  successes: number,
  trials: number,
  confidence = 0.95,
): { low: number; high: number } {
  if (!(trials >= 1) || successes < 0 || successes > trials) {
    throw new RangeError(
      `Expected 0 ≤ successes ≤ trials, trials ≥ 1; found ${successes} of ${trials}.`,
    );
  }
  const tail = (1 - confidence) / 2;
  return {
    low: successes === 0 ? 0 : betaQuantile(tail, successes, trials - successes + 1),
    high: successes === trials ? 1 : betaQuantile(1 - tail, successes + 1, trials - successes),
  };
}
