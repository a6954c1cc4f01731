import { describe, expect, it } from 'vitest';
import { memorySource, readString, stringFromBlocks, watchString } from '../src/evidence';
import { recordString, stringAsCsv, type StringPlan, typicalCell } from '../src/simulator';

const PLAN: StringPlan = {
  currentA: 30,
  highestV: 3.6,
  lowestV: 2.9,
  restS: 1200,
  cycles: 2,
  intervalS: 20,
  ambientC: 23,
  bleed: null,
  noiseV: 0.0004,
  wanderV: 0,
  seed: 7,
};

/** A string whose third cell is so much fuller than the others. */
const members = (ahead: number) =>
  Array.from({ length: 4 }, (_, c) => ({
    cell: typicalCell('LFP', 104),
    from: 0.3 + (c === 2 ? ahead : 0),
  }));

const watched = (ahead: number, plan: Partial<StringPlan> = {}) => {
  const csv = stringAsCsv(recordString(members(ahead), { ...PLAN, ...plan }), 1_775_200_000);
  const log = readString(memorySource(new TextEncoder().encode(csv)));
  return { log, watch: watchString(stringFromBlocks(log.blocks), { chemistry: 'LFP' }) };
};

describe('a simulated string', () => {
  it('is read back from its monitor’s log with its start, its cells and two charges', () => {
    const { log, watch } = watched(0.01);
    expect(log.startedAtMs).toBe(1_775_200_000_000);
    expect(log.cellHeaders).toHaveLength(4);
    expect(watch.fulls).toHaveLength(2);
  });

  it('names the cell that is fuller, as the one that leads near full', () => {
    expect(watched(0.01).watch.nearFull!.standOut[0]).toMatchObject({ cell: 2, side: 'highest' });
  });

  it('whose monitor bleeds comes together from charge to charge', () => {
    const bleed = { aboveV: 3.38, overV: 0.005, currentA: 2 };
    const spreads = [null, bleed].map(
      (one) => watched(0.01, { bleed: one, cycles: 3 }).watch.spread.medianMv,
    );
    expect(spreads[1]!).toBeLessThan(spreads[0]!);
  });
});
