import { describe, expect, it } from 'vitest';
import {
  caseName,
  RESISTANCE_CASES,
  resistanceCoverage,
  twoStepCoverage,
} from '../testing/resistance-coverage';

/** Fewer draws than `npm run bench -- coverage`; wider by their chance. */
const DRAWS = 120;
const LEAST = 0.93 - 3 * Math.sqrt((0.93 * 0.07) / DRAWS);

describe('±2u of a DC resistance holds the true one, or there is no figure', () => {
  it.each(RESISTANCE_CASES.map((one) => [caseName(one), one] as const))('%s', (_name, one) => {
    for (const delayS of [1, 10, 30] as const)
      for (const onBeat of [false, true]) {
        const { coverage, refused } = resistanceCoverage(one, delayS, DRAWS, { seed: 5, onBeat });
        if (refused === 1) continue;
        expect(refused).toBeLessThan(0.05);
        expect(coverage).toBeGreaterThan(LEAST);
      }
  });

  it('of two steps, too; rows half a second apart give none', () => {
    for (const intervalS of [0.05, 0.1, 0.2])
      for (const noiseV of [0.001, 0.005])
        expect(
          twoStepCoverage({ intervalS, noiseV, leadMohm: 0 }, DRAWS, 3).coverage,
        ).toBeGreaterThan(LEAST);
    expect(twoStepCoverage({ intervalS: 0.5, noiseV: 0.001, leadMohm: 0 }, 20).refused).toBe(1);
  });
});
