import { mean, standardDeviation } from './mean';
import { oneHumpBic } from './one-hump';

/** One hump of a mixture. */
export interface Hump {
  share: number;
  mean: number;
  sd: number;
}

/** One hump against two, by the Bayesian information criterion. */
export interface TwoHumps {
  bicOne: number;
  bicTwo: number;
  /** Of the best single hump that is skew or even. */
  bicSkew: number;
  /** Fitted density at its lowest between the humps, over that of the lower of them. */
  dip: number;
  /** Lower hump first. */
  humps: [Hump, Hump];
  /**
   * Two humps are there: BIC falls by more than 10, 15 % or more are in the smaller, the density
   * dips below 0.8 of the lower peak, and no single skew or even hump explains it as well.
   */
  isMixed: boolean;
}

/** Limits of the rule (handbook, chapter 5, *Mixed lot*). */
const LEAST_GAIN = 10;
const LEAST_SHARE = 0.15;
const MOST_DIP = 0.8;
/** BIC by which two humps have to explain the values better than a single one that is skew. */
const LEAST_OVER_SKEW = 2;
const FEWEST = 8;
const MOST_ROUNDS = 500;
/** Of more values evenly spaced ones of their order stand for all. */
const MOST_VALUES = 1500;

/** ln of a normal density: what does not depend on x, less half its squared distance. */
const logScale = (sd: number): number => -0.5 * Math.log(2 * Math.PI) - Math.log(sd);
const logDensity = (x: number, centre: number, sd: number): number =>
  logScale(sd) - ((x - centre) / sd) ** 2 / 2;

/** Share, mean and spread of values under weights; the spread is no smaller than `least`. */
function humpOf(values: readonly number[], weights: ArrayLike<number>, least: number): Hump {
  let [total, sum] = [0, 0];
  for (let i = 0; i < values.length; i++) {
    total += weights[i]!;
    sum += weights[i]! * values[i]!;
  }
  const centre = sum / total;
  let squares = 0;
  for (let i = 0; i < values.length; i++) squares += weights[i]! * (values[i]! - centre) ** 2;
  return {
    share: total / values.length,
    mean: centre,
    sd: Math.max(least, Math.sqrt(squares / total)),
  };
}

/**
 * Expectation: how much of each value belongs to the lower hump, written into `lower` and, of the upper,
 * `upper`. @returns ln of the likelihood.
 */
function belonging(
  values: readonly number[],
  [a, b]: readonly [Hump, Hump],
  lower: Float64Array,
  upper: Float64Array,
): number {
  const [shareA, shareB] = [Math.log(a.share), Math.log(b.share)];
  const [scaleA, scaleB] = [logScale(a.sd), logScale(b.sd)];
  let log = 0;
  for (let i = 0; i < values.length; i++) {
    const x = values[i]!;
    const ofA = shareA + (scaleA - ((x - a.mean) / a.sd) ** 2 / 2);
    const ofB = shareB + (scaleB - ((x - b.mean) / b.sd) ** 2 / 2);
    const sum = Math.max(ofA, ofB) + Math.log(1 + Math.exp(-Math.abs(ofA - ofB)));
    log += sum;
    lower[i] = Math.exp(ofA - sum);
    upper[i] = 1 - lower[i]!;
  }
  return log;
}

/**
 * Whether values stand in two humps: Gaussian mixtures with unequal spread fitted by expectation
 * and maximisation from the lower and the upper half on; BIC = −2 ln L + p ln n with p = 2 and 5
 * (handbook, chapter 5).
 * @param resolution of the meter: no hump is narrower. @returns null below eight values.
 */
export function twoHumps(values: readonly number[], resolution: number): TwoHumps | null {
  const n = values.length;
  if (n < FEWEST) return null;
  const all = [...values].sort((a, b) => a - b);
  const sorted =
    n <= MOST_VALUES
      ? all
      : Array.from(
          { length: MOST_VALUES },
          (_, i) => all[Math.floor(((i + 0.5) * n) / MOST_VALUES)]!,
        );
  const weight = n / sorted.length;
  const least = Math.max(resolution, Number.MIN_VALUE);
  const centre = mean(sorted);
  const sd = Math.max(least, standardDeviation(sorted) * Math.sqrt(1 - 1 / sorted.length));
  const one = sorted.reduce((sum, x) => sum + logDensity(x, centre, sd), 0);
  const half = Math.floor(sorted.length / 2);
  const lower = Float64Array.from(sorted, (_, i) => (i < half ? 1 : 0));
  const upper = lower.map((weight) => 1 - weight);
  let humps: [Hump, Hump] = [humpOf(sorted, lower, least), humpOf(sorted, upper, least)];
  let two = -Infinity;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const log = belonging(sorted, humps, lower, upper);
    const next: [Hump, Hump] = [humpOf(sorted, lower, least), humpOf(sorted, upper, least)];
    // A hump that died out leaves one.
    if (next.some(({ share }) => !(share * sorted.length > 1e-6))) break;
    humps = next;
    const isSettled = log - two < 1e-10 * Math.abs(log);
    two = log;
    if (isSettled) break;
  }
  if (humps[0].mean > humps[1].mean) humps = [humps[1], humps[0]];
  const [bicOne, bicTwo] = [
    -2 * weight * one + 2 * Math.log(n),
    -2 * weight * two + 5 * Math.log(n),
  ];
  const hasSpread = sorted[sorted.length - 1]! > sorted[0]!;
  const bicSkew = hasSpread ? oneHumpBic(sorted, weight) : bicOne;
  const dip = dipBetween(humps);
  const isMixed =
    bicOne - bicTwo > LEAST_GAIN &&
    Math.min(humps[0].share, humps[1].share) >= LEAST_SHARE &&
    dip < MOST_DIP &&
    bicSkew - bicTwo > LEAST_OVER_SKEW;
  return { bicOne, bicTwo, bicSkew, dip, humps, isMixed };
}

/** Lowest density of a mixture between the means, over that at the lower peak. */
function dipBetween([a, b]: readonly [Hump, Hump]): number {
  const density = (x: number) =>
    a.share * Math.exp(logDensity(x, a.mean, a.sd)) +
    b.share * Math.exp(logDensity(x, b.mean, b.sd));
  let lowest = Infinity;
  for (let k = 0; k <= DIP_STEPS; k++)
    lowest = Math.min(lowest, density(a.mean + ((b.mean - a.mean) * k) / DIP_STEPS));
  return lowest / Math.min(density(a.mean), density(b.mean));
}

/** Places between two means at which the density is looked at. */
const DIP_STEPS = 60;
