import { normalCdf } from '../statistics';
import type { KnownEstimate } from '../units';

export type Verdict = 'met' | 'notMet' | 'tooClose';

/** Words for a verdict, as shown. */
export const VERDICT_WORDS: Record<Verdict, string> = {
  met: 'met',
  notMet: 'not met',
  tooClose: 'too close to call',
};

export interface Limit {
  value: number;
  direction: 'atLeast' | 'atMost';
}

export interface Judgement {
  verdict: Verdict;
  /** Probability that the true value conforms (JCGM 106), 0 to 1. */
  probability: number;
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
 */
export function judge(result: KnownEstimate, limit: Limit, guardFactor: number): Judgement {
  const sign = limit.direction === 'atLeast' ? 1 : -1;
  const margin = sign * (result.value - limit.value);
  const u = result.standardUncertainty;
  const guard = guardFactor * 2 * u;
  const probability = u > 0 ? normalCdf(margin / u) : margin >= 0 ? 1 : 0;
  let verdict: Verdict = margin - guard >= 0 ? 'met' : margin + guard < 0 ? 'notMet' : 'tooClose';
  const openSideConforms =
    (result.bound === 'atLeast' && sign === 1) || (result.bound === 'atMost' && sign === -1);
  if (openSideConforms && verdict === 'notMet') verdict = 'tooClose';
  if (result.bound !== 'exact' && !openSideConforms && verdict === 'met') verdict = 'tooClose';
  return { verdict, probability, margin };
}
