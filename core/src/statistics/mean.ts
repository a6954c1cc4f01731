/** Arithmetic mean; NaN for an empty list. */
export function mean(values: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i]!;
  return sum / values.length;
}

/** Sample standard deviation (n − 1); NaN below two values. */
export function standardDeviation(values: ArrayLike<number>): number {
  if (values.length < 2) return NaN;
  const centre = mean(values);
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += (values[i]! - centre) ** 2;
  return Math.sqrt(sum / (values.length - 1));
}
