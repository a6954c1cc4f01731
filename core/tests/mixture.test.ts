import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  robustScores,
  robustZ,
  seededRandom,
  toleranceFactor,
  twoHumps,
  type TwoHumps,
} from '../src/statistics';

const RESOLUTION = 0.001;

/** Capacities of two makes, the lower one first, to the milliampere-hour. */
function lotOf(sizes: readonly [number, number], apart: number, seed: number): number[] {
  const random = seededRandom(seed);
  return sizes.flatMap((n, hump) =>
    Array.from(
      { length: n },
      () => Math.round((100 + hump * apart + 0.4 * random.normal()) * 1000) / 1000,
    ),
  );
}

/** −2 ln L of values under two humps, summed straight from the density of a normal. */
function deviance(values: readonly number[], { humps }: Pick<TwoHumps, 'humps'>): number {
  const density = (x: number) =>
    humps.reduce(
      (sum, { share, mean, sd }) =>
        sum +
        (share * Math.exp(-((x - mean) ** 2) / (2 * sd * sd))) / (sd * Math.sqrt(2 * Math.PI)),
      0,
    );
  return -2 * values.reduce((sum, x) => sum + Math.log(density(x)), 0);
}

describe('two humps', () => {
  it.each([
    [[30, 70], 4],
    [[50, 50], 2],
    [[100, 20], 3],
    [[240, 0], 0],
  ] as const)('BIC of %j, %d Ah apart, is what the humps themselves come to', (sizes, apart) => {
    const values = lotOf(sizes, apart, 11);
    const found = twoHumps(values, RESOLUTION)!;
    expect(found.bicTwo - 5 * Math.log(values.length)).toBeCloseTo(deviance(values, found), 3);
  });

  it('no other humps near those found are more likely', () => {
    const values = lotOf([40, 80], 2, 3);
    const { humps } = twoHumps(values, RESOLUTION)!;
    const best = deviance(values, { humps });
    for (const hump of [0, 1] as const)
      for (const change of [{ mean: 0.02 }, { mean: -0.02 }, { sd: 0.02 }, { sd: -0.02 }]) {
        const moved = humps.map((own) => ({ ...own })) as TwoHumps['humps'];
        moved[hump].mean += change.mean ?? 0;
        moved[hump].sd += change.sd ?? 0;
        expect(deviance(values, { humps: moved })).toBeGreaterThan(best);
      }
  });

  it('shares are one together, the lower stands first, and their mean is the mean', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 5, max: 60 }),
        fc.integer({ min: 5, max: 60 }),
        fc.integer({ min: 0, max: 6 }),
        fc.integer({ min: 1, max: 1000 }),
        (low, high, apart, seed) => {
          const values = lotOf([low, high], apart, seed);
          const [lower, upper] = twoHumps(values, RESOLUTION)!.humps;
          expect(lower.share + upper.share).toBeCloseTo(1, 9);
          expect(lower.mean).toBeLessThanOrEqual(upper.mean);
          const mean = values.reduce((sum, x) => sum + x, 0) / values.length;
          expect(lower.share * lower.mean + upper.share * upper.mean).toBeCloseTo(mean, 6);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('in other units, moved, or turned round it is the same lot', () => {
    const values = lotOf([40, 60], 3, 5);
    const found = twoHumps(values, RESOLUTION)!;
    const gain = ({ bicOne, bicTwo }: TwoHumps) => bicOne - bicTwo;
    for (const [changed, resolution] of [
      [values.map((x) => 1000 * x), 1],
      [values.map((x) => x - 90), RESOLUTION],
      [values.map((x) => 200 - x), RESOLUTION],
      [[...values].reverse(), RESOLUTION],
    ] as const) {
      const again = twoHumps(changed, resolution)!;
      expect(gain(again)).toBeCloseTo(gain(found), 4);
      expect(again.isMixed).toBe(found.isMixed);
    }
  });

  it('of ten thousand values evenly spaced ones stand for all', () => {
    const values = lotOf([3000, 7000], 4, 2);
    const { humps, isMixed } = twoHumps(values, RESOLUTION)!;
    expect(isMixed).toBe(true);
    expect(humps[0].share).toBeCloseTo(0.3, 2);
    expect(humps[1].mean - humps[0].mean).toBeCloseTo(4, 1);
  });
});

describe('robust scores', () => {
  const lot = fc.array(fc.integer({ min: 1, max: 5000 }), { minLength: 5, maxLength: 60 });
  it('are those of each value by itself', () => {
    fc.assert(
      fc.property(lot, (values) => {
        const score = robustScores(values);
        for (const value of values) expect(score(value)).toBe(robustZ(value, values));
      }),
    );
  });
  it('do not change with the unit or the zero, and turn with the sign', () => {
    fc.assert(
      fc.property(lot, fc.integer({ min: 1, max: 5000 }), (values, value) => {
        const z = robustScores(values)(value);
        const moved = robustScores(values.map((x) => 8 * x + 4096))(8 * value + 4096);
        const turned = robustScores(values.map((x) => -x))(-value);
        if (z === null) return expect([moved, turned]).toEqual([null, null]);
        expect(moved).toBeCloseTo(z, 9);
        expect(turned).toBeCloseTo(-z, 9);
      }),
    );
  });
  it('of fewer than five, or of values all alike, there are none', () => {
    expect(robustScores([1, 2, 3, 4])(2)).toBeNull();
    expect(robustScores([7, 7, 7, 7, 7, 9])(9)).toBeNull();
  });
});

describe('factor of a tolerance limit', () => {
  it('asked for again, and after many others, is the same', () => {
    const first = toleranceFactor(10);
    expect(first).toBeCloseTo(2.911, 3);
    for (let n = 2; n < 40; n++) toleranceFactor(n, 0.9, 0.9);
    expect(toleranceFactor(10)).toBe(first);
    expect(toleranceFactor(10, 0.9, 0.95)).not.toBe(first);
    expect(toleranceFactor(10, 0.95, 0.9)).toBeLessThan(first);
  });
});
