import { hypergeometricAtMost } from './hypergeometric';

/** The two risks a plan must keep: of refusing a good lot and of taking a bad one. */
export interface RiskRequest {
  lotSize: number;
  /** Share short that should pass, and the chance that it does not. */
  goodShare: number;
  producerRisk: number;
  /** Share short that should not pass, and the chance that it does. */
  badShare: number;
  consumerRisk: number;
}

/** The smallest plan that keeps both risks, with what it makes of them. */
export interface RiskPlan {
  sampleSize: number;
  acceptance: number;
  /** Short cells of the worst good and the best bad lot. */
  goodMarked: number;
  badMarked: number;
  /** Exact chances of this plan. */
  producerRisk: number;
  consumerRisk: number;
  testAll: boolean;
}

/**
 * Smallest sample, then smallest acceptance number, that keeps both risks, with exact
 * hypergeometric probabilities for the lot (handbook, chapter 1, "Sampling by risk").
 *
 * For a fixed acceptance number the chance to accept falls with the sample, so the samples that
 * keep the consumer's risk begin at one size and those that keep the producer's end at one; both
 * ends grow with the acceptance number, so the first number with a sample between them has the
 * smallest.
 * @throws RangeError for shares or risks outside 0 to 1, or a bad share not above the good one.
 */
export function planByRisk(request: RiskRequest): RiskPlan {
  const { lotSize, goodShare, badShare, producerRisk, consumerRisk } = request;
  if (!Number.isInteger(lotSize) || lotSize < 1)
    throw new RangeError(`Expected a lot of at least one cell; found ${lotSize}.`);
  for (const [name, value] of Object.entries({ producerRisk, consumerRisk }))
    if (!(value > 0 && value < 1))
      throw new RangeError(
        `Expected a ${name === 'producerRisk' ? 'producer’s' : 'consumer’s'} risk between 0 and 100 %.`,
      );
  if (!(goodShare >= 0 && badShare <= 1 && goodShare < badShare))
    throw new RangeError('Expected the bad share above the good one, both between 0 and 100 %.');
  const goodMarked = Math.floor(lotSize * goodShare + 1e-9);
  const badMarked = Math.ceil(lotSize * badShare - 1e-9);
  if (badMarked <= goodMarked)
    throw new RangeError(
      `In a lot of ${lotSize} both shares mean ${goodMarked} cells; they cannot be told apart.`,
    );
  const accept = (marked: number, sample: number, c: number): number =>
    hypergeometricAtMost(c, { population: lotSize, marked, sample });
  for (let c = 0; c <= goodMarked; c++) {
    const sample = smallest(1, lotSize, (n) => kept(accept(badMarked, n, c), consumerRisk));
    const wrongly = 1 - accept(goodMarked, sample, c);
    if (kept(wrongly, producerRisk))
      return {
        sampleSize: sample,
        acceptance: c,
        goodMarked,
        badMarked,
        producerRisk: wrongly,
        consumerRisk: accept(badMarked, sample, c),
        testAll: sample >= lotSize,
      };
  }
  // At c = goodMarked the whole lot tells both apart, so the loop has returned before.
  throw new RangeError('No plan keeps both risks.');
}

/** Whether a risk is kept; one that equals its limit but for rounding is. */
const kept = (risk: number, limit: number): boolean => risk <= limit + 1e-12;

/** Smallest whole number in a range for which a test holds that, once true, stays true. */
function smallest(low: number, high: number, holds: (n: number) => boolean): number {
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
