import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../src/statistics';
import { lotForecast } from '../src/verdicts';

const counts = fc.integer({ min: 1, max: 300 }).chain((lot) =>
  fc.tuple(
    fc.constant(lot),
    fc
      .integer({ min: 0, max: lot })
      .chain((tested) => fc.tuple(fc.constant(tested), fc.integer({ min: 0, max: tested }))),
  ),
);

describe('what tests so far say of a lot', () => {
  it('holds its own expectation, within what is still possible, and is a point once all are tested', () => {
    fc.assert(
      fc.property(counts, ([lot, [tested, short]]) => {
        const { share, low, high } = lotForecast(lot, tested, short);
        expect(low).toBeLessThanOrEqual(share + 1e-9 + 1 / lot);
        expect(high).toBeGreaterThanOrEqual(share - 1e-9 - 1 / lot);
        expect(low).toBeGreaterThanOrEqual(short / lot - 1e-12);
        expect(high).toBeLessThanOrEqual((short + lot - tested) / lot + 1e-12);
        if (tested === lot) expect([share, low, high]).toEqual(Array(3).fill(short / lot));
      }),
      { seed: 5, numRuns: 300 },
    );
  });

  it('by hand: 2 cells, 1 tested and short: the other is short with two chances of three', () => {
    expect(lotForecast(2, 1, 1).share).toBeCloseTo((1 + 2 / 3) / 2, 12);
  });

  it('narrows as tests come', () => {
    const width = (tested: number) => {
      const { low, high } = lotForecast(240, tested, Math.round(tested / 10));
      return high - low;
    };
    expect(width(40)).toBeLessThan(width(10));
    expect(width(160)).toBeLessThan(width(40));
    expect(width(239)).toBeLessThanOrEqual(1 / 240 + 1e-12);
  });

  it('its interval holds the truth in 95 of 100 lots whose short cells are as many as any', () => {
    const random = seededRandom(9);
    let held = 0;
    const lots = 2000;
    for (let i = 0; i < lots; i++) {
      const lot = 120;
      const marked = Math.floor(random.uniform() * (lot + 1));
      let [short, left] = [0, marked];
      for (let k = 0; k < 15; k++)
        if (random.uniform() < left / (lot - k)) {
          short++;
          left--;
        }
      const { low, high } = lotForecast(lot, 15, short);
      if (marked / lot >= low - 1e-12 && marked / lot <= high + 1e-12) held++;
    }
    expect(held / lots).toBeGreaterThan(0.94);
  });

  it('refuses counts that do not fit', () => {
    expect(() => lotForecast(10, 11, 0)).toThrow(/Expected short ≤ tested ≤ lot/);
    expect(() => lotForecast(10, 5, 6)).toThrow(RangeError);
  });
});
