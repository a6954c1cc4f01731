import { describe, expect, it } from 'vitest';
import { figuresOfLog, readLog } from '../src/evidence';
import { recordDischarge, rowsAsCsv, typicalCell } from '../src/simulator';

describe('gaps of a few intervals', () => {
  /** 1 It, a row a minute, the load off for so many intervals in the middle. */
  const gapped = (intervals: number, isOff: boolean) => {
    const rows = recordDischarge(typicalCell('LFP', 12), {
      currentA: 12,
      cutoffV: 2.5,
      intervalS: 60,
      restBeforeS: 600,
      restAfterS: 120,
      ambientC: 23,
      seed: 4,
    });
    const fromS = 2000;
    const longS = 60 * (intervals - 1);
    const kept = rows
      .filter(({ timeS }) => isOff || timeS <= fromS || timeS > fromS + longS)
      .map((row) => ({
        ...row,
        timeS: isOff && row.timeS > fromS ? row.timeS + longS : row.timeS,
      }));
    const log = readLog(new TextEncoder().encode(rowsAsCsv(kept)));
    const { capacities } = figuresOfLog(log, { cutoffsV: [2.5], accuracy: null });
    let trueAh = 0;
    rows.forEach((row, i) => {
      if (i > 0) trueAh += (Math.abs(row.currentA) * (row.timeS - rows[i - 1]!.timeS)) / 3600;
    });
    return { capacity: capacities![0]!.capacity, trueAh };
  };

  it.each([4, 5, 6, 7, 8, 9])('%i intervals with the load off add nothing', (intervals) => {
    const { capacity, trueAh } = gapped(intervals, true);
    expect(capacity.bound).toBe('atLeast');
    expect(capacity.value).toBeLessThan(trueAh * 1.01);
  });

  it.each([2, 2.9])('%f intervals own up to what may have flowed beyond the usual one', (n) => {
    for (const isOff of [true, false]) {
      const { capacity, trueAh } = gapped(n, isOff);
      expect(capacity.bound).toBe('exact');
      expect(Math.abs(capacity.value - trueAh)).toBeLessThan(2 * capacity.standardUncertainty!);
      expect(capacity.budget.map(({ kind }) => kind)).toContain('longInterval');
    }
  });
});
