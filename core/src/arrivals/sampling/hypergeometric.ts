/**
 * Probability of at most `c` marked items in a sample drawn without replacement: exact
 * hypergeometric sum, built from its largest term outwards so that nothing underflows.
 * @param population items in all. @param marked marked ones among them. @param sample drawn.
 * @throws RangeError when the counts are not whole or do not fit each other.
 * @example hypergeometricAtMost(0, { population: 10, marked: 2, sample: 3 }) // 0.4667
 */
export function hypergeometricAtMost(
  c: number,
  { population, marked, sample }: { population: number; marked: number; sample: number },
): number {
  for (const [name, value] of Object.entries({ population, marked, sample }))
    if (!Number.isInteger(value) || value < 0)
      throw new RangeError(`Expected a whole ${name} of 0 or more; found ${value}.`);
  if (marked > population || sample > population)
    throw new RangeError('Expected no more marked or drawn items than there are.');
  const lowest = Math.max(0, sample + marked - population);
  const highest = Math.min(sample, marked);
  if (c < lowest) return 0;
  if (c >= highest) return 1;
  const mode = Math.min(
    highest,
    Math.max(lowest, Math.floor(((sample + 1) * (marked + 1)) / (population + 2))),
  );
  // Ratio of neighbouring terms P(k) / P(k − 1).
  const ratio = (k: number): number =>
    ((marked - k + 1) * (sample - k + 1)) / (k * (population - marked - sample + k));
  let all = 1;
  let within = mode <= c ? 1 : 0;
  let term = 1;
  for (let k = mode + 1; k <= highest && term > 0; k++) {
    term *= ratio(k);
    all += term;
    if (k <= c) within += term;
  }
  term = 1;
  for (let k = mode; k > lowest && term > 0; k--) {
    term /= ratio(k);
    all += term;
    if (k - 1 <= c) within += term;
  }
  return Math.min(1, within / all);
}
