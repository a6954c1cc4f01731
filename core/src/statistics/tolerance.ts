import { logGamma } from './gamma';
import { mean, standardDeviation } from './mean';
import { normalCdf, normalQuantile } from './normal';
import { shapiroWilk } from './shapiro-wilk';

/** Steps of Simpson’s rule over the chi distribution. */
const STEPS = 2000;

/**
 * Distribution function of the noncentral t: P((Z + δ) / √(χ²ν / ν) ≤ t), by Simpson’s rule over
 * the scaled chi distribution. Absolute error below 1e-9 for ν from 1 to 10 000.
 * @example noncentralTCdf(0, 10, 1) // 0.15866
 */
export function noncentralTCdf(t: number, degrees: number, delta: number): number {
  const logScale = Math.LN2 + (degrees / 2) * Math.log(degrees / 2) - logGamma(degrees / 2);
  const width = 9 / Math.sqrt(2 * degrees);
  const [low, high] = [Math.max(0, 1 - width), 1 + width];
  const step = (high - low) / STEPS;
  let sum = 0;
  for (let i = 0; i <= STEPS; i++) {
    const x = low + i * step;
    const density =
      x > 0
        ? Math.exp(logScale + (degrees - 1) * Math.log(x) - (degrees * x * x) / 2)
        : degrees === 1
          ? Math.exp(logScale)
          : 0;
    const weight = i === 0 || i === STEPS ? 1 : i % 2 === 1 ? 4 : 2;
    sum += weight * density * normalCdf(t * x - delta);
  }
  return (sum * step) / 3;
}

/**
 * Factor k of a one-sided tolerance limit x̄ − k·s of a normal sample: the noncentral-t quantile
 * over √n (ISO 16269-6; handbook, chapter 5).
 * @param n sample size, at least 2. @param share of the population beyond the limit.
 * @param confidence that it is. @throws RangeError below two values.
 * @example toleranceFactor(10, 0.95, 0.95) // 2.911
 */
export function toleranceFactor(n: number, share = 0.95, confidence = 0.95): number {
  if (n < 2) throw new RangeError(`Expected at least 2 values; found ${n}.`);
  const key = `${n} ${share} ${confidence}`;
  const known = factors.get(key) ?? searchFactor(n, share, confidence);
  if (factors.size >= MOST_FACTORS) factors.clear();
  factors.set(key, known);
  return known;
}

/** Factors found so far: lots of the same size ask for the same again and again. */
const factors = new Map<string, number>();
const MOST_FACTORS = 1000;

function searchFactor(n: number, share: number, confidence: number): number {
  const delta = normalQuantile(share) * Math.sqrt(n);
  let [low, high] = [0, 1];
  while (noncentralTCdf(high, n - 1, delta) < confidence) high *= 2;
  for (let i = 0; i < 60 && high - low > 1e-9 * high; i++) {
    const middle = (low + high) / 2;
    if (noncentralTCdf(middle, n - 1, delta) < confidence) low = middle;
    else high = middle;
  }
  return (low + high) / 2 / Math.sqrt(n);
}

/**
 * Anderson–Darling test of normality with mean and deviation from the sample (D’Agostino and
 * Stephens 1986, case 3). p is 0 where it is too small to matter.
 * @returns statistic A*² and its p-value; null below eight values or without spread.
 */
export function andersonDarling(
  values: readonly number[],
): { statistic: number; p: number } | null {
  const n = values.length;
  if (n < 8) return null;
  const [centre, spread] = [mean(values), standardDeviation(values)];
  if (!(spread > 0)) return null;
  const least = Number.MIN_VALUE;
  const cdf = [...values].sort((a, b) => a - b).map((value) => (value - centre) / spread);
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const below = Math.max(least, normalCdf(cdf[i]!));
    const above = Math.max(least, normalCdf(-cdf[n - 1 - i]!));
    sum += (2 * i + 1) * (Math.log(below) + Math.log(above));
  }
  const a = (-n - sum / n) * (1 + 0.75 / n + 2.25 / (n * n));
  // The published polynomial turns up again far out, where nothing is left of the chance.
  if (a > LARGEST_STATISTIC) return { statistic: a, p: 0 };
  const p =
    a >= 0.6
      ? Math.exp(1.2937 - 5.709 * a + 0.0186 * a * a)
      : a >= 0.34
        ? Math.exp(0.9177 - 4.279 * a - 1.38 * a * a)
        : a >= 0.2
          ? 1 - Math.exp(-8.318 + 42.796 * a - 59.938 * a * a)
          : 1 - Math.exp(-13.436 + 101.14 * a - 223.73 * a * a);
  return { statistic: a, p: Math.min(1, Math.max(0, p)) };
}

/** Beyond it the p-value is below 1e-23, and the polynomial for it no longer holds. */
const LARGEST_STATISTIC = 10;

/** A one-sided lower tolerance limit, and how it was come by. */
export interface ToleranceLimit {
  value: number;
  by: 'normal' | 'order statistic';
  /** k of x̄ − k·s, or the rank of the value counted from the lowest. */
  factor: number;
  /** p-value of the test of normality; null where it could not be made. */
  normalP: number | null;
  /** It holds if the cells are spread normally, which so few results cannot show. */
  isAssumed: boolean;
}

/** Fewer values say nothing of a limit. */
const FEWEST = 5;
/** Below this p-value a normal distribution is not assumed. */
const LEAST_P = 0.05;

/**
 * The value that `share` of all cells exceed with the given confidence: x̄ − k·s where normality
 * is not rejected, else the lowest value of at least 59 (handbook, chapter 5). What all values have
 * in common in their doubt is subtracted, too: x̄ − z·s − √(((k − z)·s)² + (1.645·u)²).
 * @param known.common that doubt, as a standard uncertainty u.
 * @returns a reason instead where neither is sound.
 */
export function lowerToleranceLimit(
  values: readonly number[],
  { share = 0.95, confidence = 0.95, common = 0 } = {},
): { limit: ToleranceLimit; reason?: undefined } | { limit: null; reason: string } {
  const n = values.length;
  const test = n < 8 ? (n < FEWEST ? null : shapiroWilk(values)) : andersonDarling(values);
  if (test && test.p >= LEAST_P) {
    const factor = toleranceFactor(n, share, confidence);
    const spread = standardDeviation(values);
    // The share itself lies z·s below the mean; what is not known of it is the rest of k·s, and beside
    // it what all values have in common. √((k·s)² + (2·u)²) would hold 80 % with many values.
    const z = normalQuantile(share);
    const unknown = Math.hypot((factor - z) * spread, normalQuantile(confidence) * common);
    return {
      limit: {
        value: mean(values) - z * spread - unknown,
        by: 'normal',
        factor,
        normalP: test.p,
        isAssumed: n < neededFor(share, confidence),
      },
    };
  }
  const rank = orderRank(n, share, confidence);
  if (rank > 0)
    return {
      limit: {
        value: [...values].sort((a, b) => a - b)[rank - 1]! - 2 * common,
        by: 'order statistic',
        factor: rank,
        normalP: test?.p ?? null,
        isAssumed: false,
      },
    };
  const needed = neededFor(share, confidence);
  if (test)
    return {
      limit: null,
      reason: `The values are not normally spread (${pText(test.p)}), and without that ${needed} results are needed; there are ${n}.`,
    };
  return {
    limit: null,
    reason:
      n >= FEWEST
        ? `All ${n} results are equal: their spread is below what the meter shows, and without it ${needed} are needed.`
        : `Too few results to say how they are spread: ${n}, at least ${FEWEST} are needed.`,
  };
}

/** Fewest values whose lowest is a limit whatever they are spread like. */
const neededFor = (share: number, confidence: number): number =>
  Math.ceil(Math.log(1 - confidence) / Math.log(share));

/** A p-value as it is written. */
export const pText = (p: number): string => (p < 0.001 ? 'p < 0.001' : `p = ${p.toFixed(3)}`);

/** Largest rank whose value is below the tolerance point with the confidence; 0 for none. */
function orderRank(n: number, share: number, confidence: number): number {
  // P(at most r − 1 of n beyond) has to stay within 1 − confidence.
  let rank = 0;
  let below = 0;
  let term = share ** n;
  for (let k = 0; k < n; k++) {
    below += term;
    if (below > 1 - confidence) break;
    rank = k + 1;
    term *= ((n - k) / (k + 1)) * ((1 - share) / share);
  }
  return rank;
}
