import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../src/statistics';
import {
  effectiveCount,
  estimatedAlike,
  expectedCost,
  expectedYield,
  type LotShare,
  rankedSuppliers,
  supplierShares,
  whatSamplesTell,
  worthPaying,
} from '../src/suppliers';

const lot = (met: number, judged: number): LotShare => ({ met, judged });
const P = [lot(8, 8)];
const Q = [lot(236, 240), lot(5, 60), lot(3, 32)];
const R = [lot(77, 96), lot(118, 120)];

describe('the record of suppliers (handbook, chapter 5)', () => {
  const { prior, alike, isEstimated, shares } = supplierShares([P, Q, R]);
  it('draws shares toward the mean of all: the handbook’s three', () => {
    expect(alike).toBe(0.3);
    expect(isEstimated).toBe(false);
    expect(prior!.mean).toBeCloseTo(0.7629, 4);
    expect(prior!.strength).toBe(2);
    const expected = [
      [0.897, 0.532, 1.0],
      [0.459, 0.197, 0.735],
      [0.862, 0.58, 0.994],
    ];
    shares.forEach((one, i) => {
      const [share, low, high] = expected[i]!;
      // The handbook’s 0.897 is 0.8965, rounded twice.
      expect(Math.abs(one!.share - share!)).toBeLessThan(0.0006);
      expect(one!.low).toBeCloseTo(low!, 3);
      expect(one!.high).toBeCloseTo(high!, 3);
    });
  });

  it('agrees to four digits with a Beta distribution summed by hand', () => {
    for (const one of shares) {
      const { alpha, beta, low, high, share } = one!;
      // The density on a fine grid in the logit, where both ends are tame.
      let [all, below, above, first] = [0, 0, 0, 0];
      for (let t = -40; t <= 40; t += 0.0005) {
        const x = 1 / (1 + Math.exp(-t));
        const density = Math.exp(alpha * Math.log(x) + beta * Math.log1p(-x));
        all += density;
        first += density * x;
        if (x < low) below += density;
        if (x > high) above += density;
      }
      expect(first / all).toBeCloseTo(share, 4);
      expect(below / all).toBeCloseTo(0.025, 4);
      expect(above / all).toBeCloseTo(0.025, 4);
    }
  });

  it('crowns nobody for one good lot', () => {
    const ranked = rankedSuppliers(shares);
    expect(ranked.map(({ index }) => index)).toEqual([0, 2, 1]);
    expect(ranked[0]!.alikeTo).toEqual([1, 2]);
  });

  it('is not certain of anybody while only few are known', () => {
    for (const lots of [[lot(2, 2)], [lot(240, 240)], [lot(0, 240)]]) {
      const { share, low, high } = supplierShares([lots]).shares[0]!;
      expect(high - low).toBeGreaterThan(0.3);
      expect(Math.abs(share - 0.5)).toBeLessThan(0.45);
    }
    // Many that met all make the next one likely, not certain.
    const { prior } = supplierShares(Array.from({ length: 20 }, () => [lot(30, 30)]));
    expect(prior!.mean).toBeCloseTo(1 - 0.5 / 21, 10);
  });

  it('a lot of many alike cells is worth few', () => {
    expect(effectiveCount(8)).toBeCloseTo(2.5806, 4);
    expect(effectiveCount(1)).toBe(1);
    expect(effectiveCount(0)).toBe(0);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000 }), (n) => {
        expect(effectiveCount(n, 0)).toBe(n);
        expect(effectiveCount(n)).toBeLessThanOrEqual(Math.min(n, 1 / 0.3));
        expect(effectiveCount(n + 1)).toBeGreaterThan(effectiveCount(n));
      }),
    );
  });

  it('shrinks, and shrinks less the more is known', () => {
    const shares = fc.array(
      fc
        .integer({ min: 1, max: 300 })
        .chain((judged) =>
          fc.integer({ min: 0, max: judged }).map((met): LotShare => ({ judged, met })),
        ),
      { minLength: 1, maxLength: 5 },
    );
    fc.assert(
      fc.property(fc.array(shares, { minLength: 1, maxLength: 6 }), (suppliers) => {
        const told = supplierShares(suppliers);
        told.shares.forEach((one, i) => {
          const lots = suppliers[i]!;
          const weights = lots.map(({ judged }) => effectiveCount(judged, told.alike));
          const raw =
            lots.reduce((sum, { met, judged }, k) => sum + (weights[k]! * met) / judged, 0) /
            weights.reduce((sum, w) => sum + w, 0);
          const { mean } = told.prior!;
          expect(one!.share).toBeGreaterThanOrEqual(Math.min(raw, mean) - 1e-9);
          expect(one!.share).toBeLessThanOrEqual(Math.max(raw, mean) + 1e-9);
          expect(one!.low).toBeLessThanOrEqual(one!.share);
          expect(one!.high).toBeGreaterThanOrEqual(one!.share);
        });
      }),
      { numRuns: 200 },
    );
  });

  it('says of an unknown supplier what all the others say', () => {
    const { shares, prior } = supplierShares([P, []]);
    expect(shares[1]!.share).toBeCloseTo(prior!.mean, 2);
    expect(shares[1]).toMatchObject({ lots: 0, judged: 0, effective: 0 });
    expect(supplierShares([[], []])).toMatchObject({ prior: null, shares: [null, null] });
    expect(() => supplierShares([[lot(9, 8)]])).toThrow(RangeError);
  });

  it('finds how far cells of a lot go together, from eight lots on', () => {
    expect(estimatedAlike([P, Q, R])).toBeNull();
    const random = seededRandom(1128);
    // Lots that are all good or all bad: cells go together wholly; lots alike: not at all.
    const whole = Array.from({ length: 4 }, (_, i) => [
      lot(20, 20),
      lot(i % 2 ? 0 : 20, 20),
      lot(0, 20),
    ]);
    expect(estimatedAlike(whole)).toBeGreaterThan(0.95);
    const alone = Array.from({ length: 10 }, () =>
      Array.from({ length: 4 }, () =>
        lot(Array.from({ length: 60 }).filter(() => random.uniform() < 0.8).length, 60),
      ),
    );
    expect(estimatedAlike(alone)).toBeLessThan(0.03);
    expect(supplierShares(alone).isEstimated).toBe(true);
  });

  it('finds a known likeness within lots again', () => {
    const random = seededRandom(7);
    // Share of each lot Beta(1.4, 0.6): ρ = 1 / (1 + 2) = 0.333.
    const gamma = (shape: number): number => {
      // Marsaglia and Tsang, with the boost for shapes below 1.
      const d = (shape < 1 ? shape + 1 : shape) - 1 / 3;
      for (;;) {
        const x = random.normal();
        const v = (1 + x / Math.sqrt(9 * d)) ** 3;
        if (v <= 0 || Math.log(random.uniform()) >= 0.5 * x * x + d - d * v + d * Math.log(v))
          continue;
        return d * v * (shape < 1 ? random.uniform() ** (1 / shape) : 1);
      }
    };
    const lots = Array.from({ length: 400 }, () => {
      const [a, b] = [gamma(1.4), gamma(0.6)];
      const share = a / (a + b);
      return lot(Array.from({ length: 40 }).filter(() => random.uniform() < share).length, 40);
    });
    expect(estimatedAlike([lots])).toBeCloseTo(1 / 3, 1);
  });
});

describe('what the next lot is worth', () => {
  it('goes by the supplier’s own lots the more there are', () => {
    const all = [0.9, 0.8, 0.85, 0.4, 0.95];
    expect(expectedYield([], [])).toBeNull();
    expect(expectedYield([], all)!.good).toBeCloseTo(0.78, 10);
    expect(expectedYield([0.4], all)!.good).toBeCloseTo((0.4 + 2 * 0.78) / 3, 10);
    const many = expectedYield(
      Array.from({ length: 18 }, () => 0.4),
      all,
    )!;
    expect(many.good).toBeCloseTo((18 * 0.4 + 2 * 0.78) / 20, 10);
    expect(many.low).toBeLessThan(many.good);
    expect(many.high).toBeGreaterThan(many.good);
  });

  it('what we would pay is where the expected cost meets the target', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 50_000 }),
        fc.double({ min: 0.1, max: 1000, noNaN: true }),
        fc.double({ min: 0.05, max: 1.1, noNaN: true }),
        fc.integer({ min: 0, max: 100_000 }),
        (target, kwh, good, beside) => {
          const price = worthPaying(target, kwh, good, beside);
          const cost = (cents: number) =>
            expectedCost(cents + beside, kwh, {
              good,
              low: good,
              high: good,
              ownLots: 1,
              allLots: 1,
            })!.cents;
          if (price > 0) {
            expect(cost(price - 1)).toBeLessThanOrEqual(target + 1e-6);
            expect(cost(price + 1)).toBeGreaterThanOrEqual(target - 1e-6);
          } else expect(cost(1)).toBeGreaterThanOrEqual(target - 1 / (kwh * good) - 1e-6);
        },
      ),
    );
    expect(() => expectedCost(1, 0, { good: 1, low: 1, high: 1, ownLots: 0, allLots: 1 })).toThrow(
      RangeError,
    );
  });

  it('a sample finds a fault with the chance of drawing without putting back', () => {
    const [five] = whatSamplesTell(20, 0.9, [5]);
    // Two of twenty are short: C(18,5) / C(20,5) = 0.5526 miss them.
    expect(five!.findsOneInTen).toBeCloseTo(1 - 8568 / 15_504, 10);
    expect(whatSamplesTell(8, 0.9)).toHaveLength(1);
    const told = whatSamplesTell(240, 0.9);
    for (let i = 1; i < told.length; i++) {
      expect(told[i]!.findsOneInTen).toBeGreaterThan(told[i - 1]!.findsOneInTen);
      expect(told[i]!.halfWidth).toBeLessThan(told[i - 1]!.halfWidth);
    }
  });
});
