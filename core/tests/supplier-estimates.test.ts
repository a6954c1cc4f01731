import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  ALIKE,
  effectiveCount,
  estimatedAlike,
  expectedCost,
  expectedYield,
  type LotShare,
  PRIOR_STRENGTH,
  supplierShares,
  whatSamplesTell,
} from '../src/suppliers';

/** Student’s t for 97.5 %, from printed tables, by degrees of freedom. */
const T_975: Record<number, number> = { 2: 4.30265, 3: 3.18245, 4: 2.77645, 7: 2.36462 };

const meanOf = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
/** Sample standard deviation, by the pairs’ differences: no mean is needed. */
function spreadOf(values: readonly number[]): number {
  let sum = 0;
  for (const a of values) for (const b of values) sum += (a - b) ** 2;
  return Math.sqrt(sum / (2 * values.length * (values.length - 1)));
}

describe('what the next lot is to hold', () => {
  it('is worked out by hand: two lots of its own among three', () => {
    const next = expectedYield([0.9, 0.7], [0.9, 0.7, 0.5])!;
    // (2 · 0.8 + 2 · 0.7) / 4, ± t(2) · 0.2 · √(1 + 1/4).
    expect(next.good).toBeCloseTo(0.75, 12);
    expect(next.high - next.good).toBeCloseTo(T_975[2]! * 0.2 * Math.sqrt(1.25), 4);
    expect(next.low, 'no lot holds less than nothing').toBe(0);
    expect([next.ownLots, next.allLots]).toEqual([2, 3]);
  });

  it.each([4, 5, 8])('of %i lots has the interval of one more lot', (n) => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.5, max: 1, noNaN: true }), { minLength: n, maxLength: n }),
        fc.integer({ min: 0, max: 3 }),
        (all, ownCount) => {
          const own = all.slice(0, ownCount);
          const { good, high } = expectedYield(own, all)!;
          const weight = ownCount + 2;
          const center = ((ownCount > 0 ? meanOf(own) : 0) * ownCount + 2 * meanOf(all)) / weight;
          expect(good).toBeCloseTo(center, 10);
          const scatter = Math.max(spreadOf(all), 0.01);
          expect(high - good).toBeCloseTo(T_975[n - 1]! * scatter * Math.sqrt(1 + 1 / weight), 4);
        },
      ),
      { seed: 15, numRuns: 60 },
    );
  });

  it('of fewer than three goes by the usual scatter, and never by none at all', () => {
    const half = (all: number[]) => {
      const { good, high } = expectedYield([], all)!;
      return high - good;
    };
    expect(half([0.8])).toBeCloseTo(T_975[2]! * 0.15 * Math.sqrt(1.5), 4);
    expect(half([0.8, 0.4])).toBeCloseTo(T_975[2]! * 0.15 * Math.sqrt(1.5), 4);
    // From three on their own: lots that are all alike still differ by a hundredth.
    expect(half([0.8, 0.8, 0.8])).toBeCloseTo(T_975[2]! * 0.01 * Math.sqrt(1.5), 6);
    expect(half([0.8, 0.6, 0.7])).toBeCloseTo(T_975[2]! * 0.1 * Math.sqrt(1.5), 4);
    expect(expectedYield([], [])).toBeNull();
  });

  it('costs what it costs over what it holds, dearer the less it may hold', () => {
    const lot = { good: 0.5, low: 0.25, high: 1, ownLots: 0, allLots: 3 };
    expect(expectedCost(10_000, 10, lot)).toEqual({ cents: 2000, low: 1000, high: 4000 });
    expect(expectedCost(10_000, 10, { ...lot, low: 0 })!.high).toBeNull();
    expect(expectedCost(10_000, 10, { ...lot, good: 0 })).toBeNull();
    expect(() => expectedCost(10_000, 0, lot)).toThrow(/above 0 kWh/);
  });
});

describe('what a sample tells', () => {
  /** Wilson’s interval by the roots of its own equation: (p̂ − p)² = z²·p·(1 − p)/n. */
  function wilson(share: number, n: number): { low: number; high: number } {
    const z2 = 1.96 ** 2;
    const [a, b, c] = [1 + z2 / n, -(2 * share + z2 / n), share * share];
    const root = Math.sqrt(b * b - 4 * a * c);
    return { low: (-b - root) / (2 * a), high: (-b + root) / (2 * a) };
  }

  it('is half of Wilson’s interval, narrower by the cells that are left over', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 60, max: 2000 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (lot, share) => {
          for (const { sample, halfWidth } of whatSamplesTell(lot, share)) {
            const { low, high } = wilson(share, sample);
            const left = Math.sqrt((lot - sample) / (lot - 1));
            expect(halfWidth).toBeCloseTo(((high - low) / 2) * left, 9);
          }
        },
      ),
      { seed: 15, numRuns: 60 },
    );
  });

  it('names only samples that leave something untested', () => {
    expect(whatSamplesTell(20, 0.9).map(({ sample }) => sample)).toEqual([5, 8, 13]);
    expect(whatSamplesTell(5, 0.9)).toEqual([]);
    expect(whatSamplesTell(2, 0.5, [1])[0]).toMatchObject({ sample: 1, findsOneInTen: 0.5 });
  });
});

describe('how far cells of a lot go together', () => {
  /** The same analysis of variance from single cells, 1 for met and 0 for not. */
  function fromCells(suppliers: readonly (readonly LotShare[])[]): number {
    const cellsOf = ({ judged, met }: LotShare) =>
      Array.from({ length: judged }, (_, i) => Number(i < met));
    let [ofLots, ofCells, unequal, cells, lots] = [0, 0, 0, 0, 0];
    for (const own of suppliers) {
      const all = own.flatMap(cellsOf);
      for (const lot of own) {
        const values = cellsOf(lot);
        for (const value of values) {
          ofLots += (meanOf(values) - meanOf(all)) ** 2;
          ofCells += (value - meanOf(values)) ** 2;
        }
        unequal += values.length ** 2 / all.length;
        lots++;
      }
      cells += all.length;
    }
    const between = lots - suppliers.length;
    const [msb, msw] = [ofLots / between, ofCells / (cells - lots)];
    const size = (cells - unequal) / between;
    return Math.min(1, Math.max(0, (msb - msw) / (msb + (size - 1) * msw)));
  }
  const lot = fc
    .tuple(fc.integer({ min: 2, max: 60 }), fc.double({ min: 0, max: 1, noNaN: true }))
    .map(([judged, share]): LotShare => ({ judged, met: Math.round(judged * share) }));
  const suppliers = fc.array(fc.array(lot, { minLength: 2, maxLength: 4 }), {
    minLength: 4,
    maxLength: 6,
  });

  it('is what the single cells say, with lots of all sizes', () => {
    fc.assert(
      fc.property(suppliers, (some) => {
        const found = estimatedAlike(some);
        const known = fromCells(some);
        if (Number.isNaN(known)) return;
        expect(found).toBeCloseTo(known, 9);
      }),
      { seed: 15, numRuns: 150 },
    );
  });

  it('is not estimated from too little, and lots without a judged cell say nothing', () => {
    const one: LotShare = { judged: 10, met: 5 };
    expect(estimatedAlike(Array.from({ length: 8 }, () => [one]))).toBeNull();
    expect(estimatedAlike([Array.from({ length: 7 }, () => one)])).toBeNull();
    const eight = [Array.from({ length: 8 }, (_, i) => ({ judged: 10, met: i }))];
    expect(estimatedAlike(eight)).not.toBeNull();
    expect(estimatedAlike([[...eight[0]!, { judged: 0, met: 0 }], [{ judged: 0, met: 0 }]])).toBe(
      estimatedAlike(eight),
    );
  });
});

describe('how strongly the others weigh', () => {
  /** One lot each, so that nothing is said of how far cells go together. */
  const single = (shares: readonly number[], judged: number) =>
    supplierShares(shares.map((share) => [{ judged, met: Math.round(share * judged) }]));

  it('is two below eight suppliers, and by moments from eight on', () => {
    const seven = [0.1, 0.9, 0.2, 0.8, 0.3, 0.7, 0.5];
    expect(single(seven, 100).prior).toMatchObject({ strength: PRIOR_STRENGTH });
    const eight = [0.2, 0.8, 0.25, 0.75, 0.15, 0.85, 0.2, 0.8];
    const { prior } = single(eight, 400);
    // By hand: variance about 0.5, less what a lot of so many alike cells scatters by itself.
    const n = effectiveCount(400, ALIKE);
    const variance = eight.reduce((sum, share) => sum + (share - 0.5) ** 2, 0) / 7;
    const own = variance - 0.25 / (n + 1);
    expect(prior!.mean).toBeCloseTo(0.5, 12);
    expect(prior!.strength).toBeCloseTo(0.25 / own - 1, 9);
    expect(prior!.strength).toBeGreaterThan(PRIOR_STRENGTH);
    expect(prior!.strength).toBeLessThan(20);
  });

  it('is most where all are alike, and least where they could not differ more', () => {
    expect(
      single(
        Array.from({ length: 8 }, () => 0.5),
        100,
      ).prior!.strength,
    ).toBe(20);
    expect(single([0, 0, 0, 0, 1, 1, 1, 1], 100).prior!.strength).toBe(PRIOR_STRENGTH);
  });

  it('counts what was judged and met as it was, whatever it weighs', () => {
    const { shares } = supplierShares([
      [
        { judged: 8, met: 8 },
        { judged: 0, met: 0 },
        { judged: 40, met: 10 },
      ],
      [],
    ]);
    expect(shares[0]).toMatchObject({ lots: 2, judged: 48, met: 18 });
    expect(shares[0]!.effective).toBeCloseTo(effectiveCount(8) + effectiveCount(40), 12);
    expect(shares[1], 'one nobody bought from stands at the mean of all').toMatchObject({
      lots: 0,
      judged: 0,
      met: 0,
      effective: 0,
    });
  });
});
