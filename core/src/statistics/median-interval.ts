/** Logarithm of n over k. */
function logChoose(n: number, k: number): number {
  let sum = 0;
  for (let i = 1; i <= k; i++) sum += Math.log((n - k + i) / i);
  return sum;
}

/**
 * Distribution-free confidence interval of a median between two values of the sample: the
 * narrowest pair of ranks r and n + 1 − r whose coverage reaches the confidence (binomial with ½).
 * @returns null where so few values cannot reach it; six are the fewest for 95 %.
 * @example medianInterval([1, 2, 3, 4, 5, 6]) // { low: 1, high: 6 }
 */
export function medianInterval(
  values: ArrayLike<number>,
  confidence = 0.95,
): { low: number; high: number } | null {
  const n = values.length;
  const sorted = Float64Array.from(values).sort();
  let tail = 0;
  let rank = 0;
  for (let below = 0; below < n / 2; below++) {
    tail += Math.exp(logChoose(n, below) - n * Math.LN2);
    if (2 * tail > 1 - confidence) break;
    rank = below + 1;
  }
  return rank === 0 ? null : { low: sorted[rank - 1]!, high: sorted[n - rank]! };
}
