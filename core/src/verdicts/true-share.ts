import { mean, quantile, type RandomSource, seededRandom, standardDeviation } from '../statistics';
import type { Limit } from './judge';

/** Draws of the simulation, and the fewest results it is worth. */
const DRAWS = 2000;
const FEWEST = 5;

/**
 * Estimated share of cells truly on the wrong side of a limit, the measuring doubt taken in. What
 * scatters from result to result widens what is seen: values are drawn together about their mean
 * until their variance is that of the cells alone (T. A. Louis 1984, constrained Bayes). What the
 * meters have in common shifts all of them alike. Both, and which cells were there, are drawn
 * 2 000 times from a seed.
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
    return binomial(total, countBelow(margins, -sign * shift) / total, random) / total;
  });
  return {
    share: mean(shares),
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

/** Above so many trials a binomial count is drawn as a normal one. */
const DRAWN_SINGLY = 300;

function binomial(trials: number, share: number, random: RandomSource): number {
  if (trials > DRAWN_SINGLY) {
    const count = trials * share + Math.sqrt(trials * share * (1 - share)) * random.normal();
    return Math.min(trials, Math.max(0, Math.round(count)));
  }
  let count = 0;
  for (let i = 0; i < trials; i++) if (random.uniform() < share) count++;
  return count;
}
