import { mean, quantile, type RandomSource, seededRandom, standardDeviation } from '../statistics';
import type { Limit } from './judge';

/** Draws of the simulation, and the fewest results it is worth. */
const DRAWS = 2000;
const FEWEST = 5;

/**
 * Estimated share of cells truly on the wrong side of a limit, the measuring doubt taken in. What
 * scatters from result to result widens what is seen: values are drawn together about their mean
 * until their variance is that of the cells alone (T. A. Louis 1984, constrained Bayes). What the
 * meters have in common shifts all of them alike. Both, and what so many cells tell of a share, are
 * drawn 2 000 times from a seed.
 * @param results `exact` values; `conforming` further ones known to be on the right side.
 * @param doubt standard uncertainties: `scatter` of one result, `common` of all of them.
 * @returns null below five results.
 */
export function trueShare(
  results: { exact: readonly number[]; conforming: number },
  limit: Limit,
  doubt: { scatter: number; common: number },
): { share: number; low: number; high: number } | null {
  const { exact, conforming } = results;
  const n = exact.length;
  if (n < FEWEST) return null;
  const centre = mean(exact);
  const seen = standardDeviation(exact);
  const cells = Math.sqrt(Math.max(0, seen * seen - doubt.scatter * doubt.scatter));
  const draw = seen > 0 ? cells / seen : 0;
  const drawn = exact.map((value) => centre + draw * (value - centre));
  const sign = limit.direction === 'atLeast' ? 1 : -1;
  const margins = drawn.map((value) => sign * (value - limit.value)).sort((a, b) => a - b);
  const random = seededRandom(20_011);
  const total = n + conforming;
  const shares = Array.from({ length: DRAWS }, () => {
    // The middle of the cells is itself known only so well.
    const shift = doubt.common * random.normal() + (doubt.scatter / Math.sqrt(n)) * random.normal();
    const wrong = countBelow(margins, -sign * shift);
    // How well so many cells tell a share: Jeffreys’ prior, so that none of them is not never.
    return betaDraw(wrong + 0.5, total - wrong + 0.5, random);
  });
  return {
    share: quantile(shares, 0.5),
    low: quantile(shares, 0.025),
    high: quantile(shares, 0.975),
  };
}

/** How many of the ascending values lie below a limit. */
function countBelow(sorted: readonly number[], below: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! < below) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** A gamma deviate of shape above 0 and scale 1 (Marsaglia and Tsang 2000). */
function gammaDraw(shape: number, random: RandomSource): number {
  if (shape < 1) return gammaDraw(shape + 1, random) * random.uniform() ** (1 / shape);
  const d = shape - 1 / 3;
  const c = 1 / Math.sqrt(9 * d);
  for (;;) {
    const x = random.normal();
    const v = (1 + c * x) ** 3;
    if (v <= 0) continue;
    if (Math.log(1 - random.uniform()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v;
  }
}

/** A share drawn from a beta distribution. */
function betaDraw(a: number, b: number, random: RandomSource): number {
  const [x, y] = [gammaDraw(a, random), gammaDraw(b, random)];
  return x / (x + y);
}
