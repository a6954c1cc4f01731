import { chargeStepAh } from './charge-steps';
import { CounterWitness } from './counter-witness';
import { holeRowsOf } from './holes';
import { GAP_TIMES, type Trace, usualOfTrace } from './trace';

/**
 * Intervals longer than 1.5 usual ones that are no holes, and whose charge no counter confirms: what may
 * have flowed beyond the usual time in each, Ah, by the row after it (handbook, chapter 3).
 * @param holeRows rows that follow a hole.
 */
export function longIntervals(
  trace: Trace,
  ranges: readonly { from: number; to: number }[],
  holeRows: ReadonlySet<number>,
): { row: number; ah: number }[] {
  if (!trace.currentA || trace.sums) return [];
  const usualS = usualOfTrace(trace);
  const witness = trace.counterAh
    ? CounterWitness.of(trace, ranges, holeRowsOf(trace, ranges))
    : null;
  const found: { row: number; ah: number }[] = [];
  for (const { from, to } of ranges)
    for (let row = from + 1; row <= to; row++) {
      const seconds = trace.timeS[row]! - trace.timeS[row - 1]!;
      if (!(seconds > GAP_TIMES * usualS) || holeRows.has(row)) continue;
      const step = chargeStepAh(trace, row);
      const counted = witness?.between(row - 1, row, 1.05 * step) ?? null;
      const room = counted === null ? 0 : 2 * witness!.resolutionAh + 0.02 * step;
      if (counted !== null && Math.abs(counted - step) <= room && room < step / 4) continue;
      found.push({ row, ah: (step * (seconds - usualS)) / seconds });
    }
  return found;
}
