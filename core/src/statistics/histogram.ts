import { quantile } from './quantile';

/** One bar: values from `from` up to, not with, `to`; the last one with it. */
export interface Bin {
  from: number;
  to: number;
  count: number;
}

/**
 * A step of 1, 2 or 5 times a power of ten, not below `rough`.
 * @example niceStep(0.37) // 0.5
 */
export function niceStep(rough: number): number {
  const power = 10 ** Math.floor(Math.log10(rough));
  const lead = rough / power;
  return power * (lead <= 1 ? 1 : lead <= 2 ? 2 : lead <= 5 ? 5 : 10);
}

/**
 * Histogram with a width after Freedman and Diaconis (2·IQR/∛n), rounded up to a step
 * of 1, 2 or 5 and aligned to it, so that edges are round numbers. From 20 values on it has at
 * least about ten bins, so that two humps do not melt into one. At most `mostBins` bins.
 */
export function histogram(values: ArrayLike<number>, mostBins = 40): Bin[] {
  if (values.length === 0) return [];
  const sorted = Float64Array.from(values).sort();
  const low = sorted[0]!;
  const high = sorted[sorted.length - 1]!;
  const range = high - low;
  if (range === 0) {
    const half = Math.max(Math.abs(low) * 0.005, 1e-6);
    return [{ from: low - half, to: low + half, count: sorted.length }];
  }
  const spread = quantile(sorted, 0.75) - quantile(sorted, 0.25);
  const rough = spread > 0 ? (2 * spread) / Math.cbrt(sorted.length) : range / 8;
  const widest = sorted.length >= 20 ? range / 10 : Infinity;
  let step = niceStep(Math.max(Math.min(rough, widest), range / mostBins));
  while (Math.floor(high / step) - Math.floor(low / step) + 1 > mostBins)
    step = niceStep(step * 1.5);
  const first = Math.floor(low / step);
  const bins: Bin[] = Array.from({ length: Math.floor(high / step) - first + 1 }, (_, i) => ({
    from: (first + i) * step,
    to: (first + i + 1) * step,
    count: 0,
  }));
  for (const value of sorted) bins[Math.floor(value / step) - first]!.count++;
  return bins;
}
