import { mean, standardDeviation } from './mean';

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
  /** Lower hump first. */
  humps: [Hump, Hump];
  /** Two humps are there: BIC falls by more than 10, and 15 % or more are in the smaller. */
  isMixed: boolean;
}

/** Limits of the rule (handbook, chapter 5, *Mixed lot*). */
const LEAST_GAIN = 10;
const LEAST_SHARE = 0.15;
const FEWEST = 8;
const MOST_ROUNDS = 500;
/** Of more values evenly spaced ones of their order stand for all. */
const MOST_VALUES = 1500;

const logDensity = (x: number, centre: number, sd: number): number =>
  -0.5 * Math.log(2 * Math.PI) - Math.log(sd) - ((x - centre) / sd) ** 2 / 2;

/** Population standard deviation about a given centre with weights, no smaller than `least`. */
function spreadOf(
  values: readonly number[],
  weights: readonly number[],
  centre: number,
  least: number,
): number {
  let [sum, total] = [0, 0];
  values.forEach((value, i) => {
    sum += weights[i]! * (value - centre) ** 2;
    total += weights[i]!;
  });
  return Math.max(least, Math.sqrt(sum / total));
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
  const begin = (part: number[], share: number): Hump => {
    const own = mean(part);
    return {
      share,
      mean: own,
      sd: spreadOf(
        part,
        part.map(() => 1),
        own,
        least,
      ),
    };
  };
  let humps: [Hump, Hump] = [
    begin(sorted.slice(0, half), half / sorted.length),
    begin(sorted.slice(half), 1 - half / sorted.length),
  ];
  let two = -Infinity;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let log = 0;
    const lower = sorted.map((x) => {
      const [a, b] = humps.map((hump) => Math.log(hump.share) + logDensity(x, hump.mean, hump.sd));
      const most = Math.max(a!, b!);
      const sum = most + Math.log(Math.exp(a! - most) + Math.exp(b! - most));
      log += sum;
      return Math.exp(a! - sum);
    });
    const upper = lower.map((weight) => 1 - weight);
    const next = [lower, upper].map((weights): Hump => {
      const total = weights.reduce((a, b) => a + b, 0);
      const own = sorted.reduce((sum, x, i) => sum + weights[i]! * x, 0) / total;
      return { share: total / sorted.length, mean: own, sd: spreadOf(sorted, weights, own, least) };
    });
    // A hump that died out leaves one.
    if (next.some(({ share }) => !(share * sorted.length > 1e-6))) break;
    humps = next as [Hump, Hump];
    if (log - two < 1e-10 * Math.abs(log)) {
      two = log;
      break;
    }
    two = log;
  }
  if (humps[0].mean > humps[1].mean) humps = [humps[1], humps[0]];
  const [bicOne, bicTwo] = [
    -2 * weight * one + 2 * Math.log(n),
    -2 * weight * two + 5 * Math.log(n),
  ];
  const isMixed =
    bicOne - bicTwo > LEAST_GAIN && Math.min(humps[0].share, humps[1].share) >= LEAST_SHARE;
  return { bicOne, bicTwo, humps, isMixed };
}
