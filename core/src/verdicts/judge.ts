import type { Correction } from '../evidence';
import { normalCdf } from '../statistics';
import type { KnownEstimate } from '../units';

/** What a result says of a limit (handbook, chapter 5). */
export type Verdict = 'met' | 'notMet' | 'tooClose';

/** Words for a verdict, as shown. */
export const VERDICT_WORDS: Record<Verdict, string> = {
  met: 'met',
  notMet: 'not met',
  tooClose: 'too close to call',
};

/** A limit of a claim and the side of it that conforms. */
export interface Limit {
  value: number;
  direction: 'atLeast' | 'atMost';
}

/** Limits a value must lie within, ends included; null for an open end. */
export interface Range {
  low: number | null;
  high: number | null;
}

/** A result against a limit with its guard band (JCGM 106). */
export interface Judgement {
  verdict: Verdict;
  /** Probability that the true value conforms (JCGM 106), 0 to 1; null of a bound, which has none. */
  probability: number | null;
  /** Result minus limit, positive on the conforming side, in the unit of the figure. */
  margin: number;
}

/**
 * One figure against one limit with guard band w = g·U (handbook, chapter 5; ILAC-G8:09/2019).
 * A result known only from one side can be met or too close, never the verdict that its open
 * side could overturn.
 * @param result value and standard uncertainty u ≥ 0 in one unit; U = 2·u. Of a result whose
 *   uncertainty is not known no verdict can be given: ask `isKnown` first.
 * @param guardFactor g: 0 simple acceptance, 1 guard band U.
 * @example judge({ value: 101, standardUncertainty: 0.4, bound: 'exact' }, { value: 100, direction: 'atLeast' }, 1) // { verdict: 'met', probability: 0.9938, margin: 1 }
 */
export function judge(result: KnownEstimate, limit: Limit, guardFactor: number): Judgement {
  const sign = limit.direction === 'atLeast' ? 1 : -1;
  const margin = sign * (result.value - limit.value);
  const u = result.standardUncertainty;
  const guard = guardFactor * 2 * u;
  const certain = margin >= 0 ? 1 : 0;
  const probability = result.bound !== 'exact' ? null : u > 0 ? normalCdf(margin / u) : certain;
  let verdict: Verdict = margin - guard >= 0 ? 'met' : margin + guard < 0 ? 'notMet' : 'tooClose';
  const openSideConforms =
    (result.bound === 'atLeast' && sign === 1) || (result.bound === 'atMost' && sign === -1);
  if (openSideConforms && verdict === 'notMet') verdict = 'tooClose';
  if (result.bound !== 'exact' && !openSideConforms && verdict === 'met') verdict = 'tooClose';
  return { verdict, probability, margin };
}

/**
 * A carried capacity against its limit: as `judgeWithin`, but a shortfall that what nobody recorded
 * would explain (a cold room) is too close to call, not short (handbook, chapter 3).
 */
export function judgeCarried(
  result: KnownEstimate,
  limits: Range,
  { guardFactor, corrections }: { guardFactor: number; corrections: readonly Correction[] },
): Judgement {
  const judged = judgeWithin(result, limits, guardFactor);
  const share = corrections.reduce((sum, { mayHaveTaken = 0 }) => sum + mayHaveTaken, 0);
  if (judged.verdict !== 'notMet' || share === 0) return judged;
  const warm = judgeWithin({ ...result, value: result.value * (1 + share) }, limits, guardFactor);
  return warm.verdict === 'notMet' ? judged : { ...judged, verdict: 'tooClose' };
}

/**
 * One figure against a range, by the same rule: met where x ± g·U lies inside, not met where it
 * lies outside, too close otherwise. An open end of the result can only widen the doubt.
 * @throws RangeError for limits in the wrong order.
 * @example judgeWithin({ value: 2010, standardUncertainty: 0.5, bound: 'exact' }, { low: 1970, high: 2030 }, 1).verdict // 'met'
 */
export function judgeWithin(
  result: KnownEstimate,
  { low, high }: Range,
  guardFactor: number,
): Judgement {
  if (low !== null && high !== null && low > high)
    throw new RangeError(`Expected the lower limit first: ${low} is above ${high}.`);
  const sides = [
    low === null ? null : judge(result, { value: low, direction: 'atLeast' }, guardFactor),
    high === null ? null : judge(result, { value: high, direction: 'atMost' }, guardFactor),
  ].filter((side) => side !== null);
  const verdict: Verdict = sides.some((side) => side.verdict === 'notMet')
    ? 'notMet'
    : sides.every((side) => side.verdict === 'met')
      ? 'met'
      : 'tooClose';
  if (sides.length === 1) return sides[0]!;
  return {
    verdict,
    // Both ends are open: certain; else what is left between them.
    probability:
      result.bound !== 'exact'
        ? null
        : Math.max(
            0,
            sides.reduce((sum, side) => sum + (side.probability ?? 1) - 1, 1),
          ),
    margin: Math.min(Infinity, ...sides.map((side) => side.margin)),
  };
}
