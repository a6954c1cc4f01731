import { mean } from './mean';
import { normalCdf, normalQuantile } from './normal';

const polynomial = (coefficients: readonly number[], x: number): number =>
  coefficients.reduceRight((sum, c) => sum * x + c, 0);

/**
 * Shapiro–Wilk test of normality (Royston 1995, AS R94), for 4 to 5 000 values.
 * @returns statistic W and its p-value; null for fewer or more values, or without spread.
 * @example shapiroWilk([148, 154, 158, 160, 161, 162, 166, 170, 182, 195, 236]).statistic // 0.789
 */
export function shapiroWilk(values: readonly number[]): { statistic: number; p: number } | null {
  const n = values.length;
  if (n < 4 || n > 5000) return null;
  const x = [...values].sort((a, b) => a - b);
  const centre = mean(x);
  const total = x.reduce((sum, value) => sum + (value - centre) ** 2, 0);
  if (!(total > 0)) return null;
  const m = x.map((_, i) => normalQuantile((i + 1 - 0.375) / (n + 0.25)));
  const mm = m.reduce((sum, value) => sum + value * value, 0);
  const u = 1 / Math.sqrt(n);
  const c = m.map((value) => value / Math.sqrt(mm));
  const last = polynomial([c[n - 1]!, 0.221157, -0.147981, -2.07119, 4.434685, -2.706056], u);
  const next = polynomial([c[n - 2]!, 0.042981, -0.293762, -1.752461, 5.682633, -3.582633], u);
  const ends = n > 5 ? 2 : 1;
  const phi =
    ends === 2
      ? (mm - 2 * m[n - 1]! ** 2 - 2 * m[n - 2]! ** 2) / (1 - 2 * last ** 2 - 2 * next ** 2)
      : (mm - 2 * m[n - 1]! ** 2) / (1 - 2 * last ** 2);
  const a = m.map((value) => value / Math.sqrt(phi));
  [a[0], a[n - 1]] = [-last, last];
  if (ends === 2) [a[1], a[n - 2]] = [-next, next];
  const w = Math.min(1, a.reduce((sum, weight, i) => sum + weight * x[i]!, 0) ** 2 / total);
  if (n <= 11) {
    const gamma = -2.273 + 0.459 * n;
    const inner = gamma - Math.log(1 - w);
    if (!(inner > 0)) return { statistic: w, p: 0 };
    const mu = polynomial([0.544, -0.39978, 0.025054, -0.0006714], n);
    const sigma = Math.exp(polynomial([1.3822, -0.77857, 0.062767, -0.0020322], n));
    return { statistic: w, p: normalCdf(-(-Math.log(inner) - mu) / sigma) };
  }
  const log = Math.log(n);
  const mu = polynomial([-1.5861, -0.31082, -0.083751, 0.0038915], log);
  const sigma = Math.exp(polynomial([-0.4803, -0.082676, 0.0030302], log));
  return { statistic: w, p: normalCdf(-(Math.log(1 - w) - mu) / sigma) };
}
