import { logGamma } from '../statistics';

/** What full tests so far say of a whole lot. */
export interface LotForecast {
  lotSize: number;
  tested: number;
  short: number;
  /** Share of the lot expected to be short, and between what, with 95 %. */
  share: number;
  low: number;
  high: number;
}

const logBeta = (a: number, b: number): number => logGamma(a) + logGamma(b) - logGamma(a + b);
const logChoose = (n: number, k: number): number =>
  logGamma(n + 1) - logGamma(k + 1) - logGamma(n - k + 1);

/**
 * Chance of each number of short cells among the rest of a lot, after so many tests of it: the lot's
 * number of short ones is taken as equally likely to be any before the first test, and the tested cells
 * as drawn at random. The rest is then beta-binomial, exactly.
 * @returns chances of 0, 1, … short ones among `lotSize − tested`.
 */
function restChances(lotSize: number, tested: number, short: number): number[] {
  const rest = lotSize - tested;
  const [a, b] = [short + 1, tested - short + 1];
  return Array.from({ length: rest + 1 }, (_, k) =>
    Math.exp(logChoose(rest, k) + logBeta(k + a, rest - k + b) - logBeta(a, b)),
  );
}

/** Smallest count whose summed chance reaches a share. */
function quantile(chances: readonly number[], share: number): number {
  let sum = 0;
  for (const [k, chance] of chances.entries()) {
    sum += chance;
    if (sum >= share - 1e-12) return k;
  }
  return chances.length - 1;
}

/**
 * Share of a lot that is expected to be short after some of its cells were tested, with its 95 %
 * interval; a point once all are. A result too close to call counts as short, a held one not at all.
 * @throws RangeError for counts that do not fit.
 * @example lotForecast(240, 240, 3).share // 0.0125
 */
export function lotForecast(lotSize: number, tested: number, short: number): LotForecast {
  if (!(lotSize >= 1 && tested >= 0 && tested <= lotSize && short >= 0 && short <= tested))
    throw new RangeError(
      `Expected short ≤ tested ≤ lot; found ${short}, ${tested} and ${lotSize}.`,
    );
  const rest = lotSize - tested;
  const chances = restChances(lotSize, tested, short);
  const at = (inRest: number) => (short + inRest) / lotSize;
  return {
    lotSize,
    tested,
    short,
    share: at((rest * (short + 1)) / (tested + 2)),
    low: at(quantile(chances, 0.025)),
    high: at(quantile(chances, 0.975)),
  };
}
