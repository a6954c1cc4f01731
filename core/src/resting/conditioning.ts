import { type Estimate, rootSumOfSquares } from '../units';

/** A capacity on the way of conditioning. */
export interface ConditionedTest {
  /** At the claim’s conditions, Ah. */
  estimate: Estimate;
  channelId: number | null;
  /** Part of the uncertainty that differs from run to run, Ah: what does not cancel on one channel. */
  scattersAh: number | null;
}

/** What conditioning did to a cell. */
export type ConditioningResult = 'improved' | 'unchanged' | 'worse';

/** The change of a capacity by conditioning. */
export interface ConditioningChange {
  /** Later less earlier, Ah. */
  changeAh: number;
  standardUncertainty: number;
  result: ConditioningResult;
}

/**
 * Change of capacity by conditioning: ΔQ = Q2 − Q1. What acts alike on both cancels on one channel
 * (gain, offset, leads); on different channels both uncertainties count whole. Decided against twice
 * the combined uncertainty (handbook, chapter 4).
 * @returns null where an uncertainty is not known, or a result is no more than a bound.
 */
export function conditioningChange(
  before: ConditionedTest,
  after: ConditionedTest,
): ConditioningChange | null {
  if (before.estimate.bound !== 'exact' || after.estimate.bound !== 'exact') return null;
  const isOneChannel = before.channelId !== null && before.channelId === after.channelId;
  const parts = [before, after].map(({ estimate, scattersAh }) =>
    isOneChannel ? scattersAh : estimate.standardUncertainty,
  );
  const [first, second] = parts;
  if (typeof first !== 'number' || typeof second !== 'number') return null;
  const changeAh = after.estimate.value - before.estimate.value;
  const standardUncertainty = rootSumOfSquares([first, second]);
  const isBeyond = Math.abs(changeAh) > 2 * standardUncertainty;
  return {
    changeAh,
    standardUncertainty,
    result: !isBeyond ? 'unchanged' : changeAh > 0 ? 'improved' : 'worse',
  };
}
