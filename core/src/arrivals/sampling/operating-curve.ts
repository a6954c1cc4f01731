import { hypergeometricAtMost } from './hypergeometric';

/** One point of an operating characteristic: how likely a lot with so many short cells passes. */
export interface OperatingPoint {
  /** Short cells in the lot, and their share in percent. */
  marked: number;
  percentShort: number;
  /** Probability that the lot is accepted. */
  accept: number;
}

/**
 * Operating characteristic of a plan: probability of acceptance against percent short, exact for
 * the lot size.
 * @param points how many at most; it ends where acceptance is below one in a thousand.
 * @example operatingCurve({ lotSize: 10, sampleSize: 3, acceptance: 0 }).find((p) => p.marked === 2).accept // 0.4667
 */
export function operatingCurve(
  plan: { lotSize: number; sampleSize: number; acceptance: number },
  points = 160,
): OperatingPoint[] {
  const { lotSize, acceptance } = plan;
  const sample = Math.min(plan.sampleSize, lotSize);
  const at = (marked: number): OperatingPoint => ({
    marked,
    percentShort: (100 * marked) / lotSize,
    accept: hypergeometricAtMost(acceptance, { population: lotSize, marked, sample }),
  });
  let last = lotSize;
  let low = 0;
  while (low < last) {
    const middle = (low + last) >> 1;
    if (at(middle).accept < 0.001) last = middle;
    else low = middle + 1;
  }
  const step = Math.max(1, Math.ceil(last / points));
  const curve: OperatingPoint[] = [];
  for (let marked = 0; marked < last; marked += step) curve.push(at(marked));
  curve.push(at(last));
  return curve;
}
