import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  betaQuantile,
  clopperPearson,
  fitAt,
  histogram,
  lineAt,
  meanInterval,
  median,
  normalCdf,
  quantile,
  regularisedBeta,
  robustZ,
  seededRandom,
  standardDeviation,
  studentQuantile,
} from '../src/statistics';

describe('normal distribution', () => {
  // Abramowitz and Stegun, table 26.1.
  it.each([
    [0, 0.5],
    [1, 0.841344746068543],
    [1.96, 0.97500210485178],
    [-3, 0.00134989803163],
    [6, 0.999999999013412],
  ])('Φ(%d)', (z, p) => expect(normalCdf(z)).toBeCloseTo(p, 13));
  it('is symmetric and monotone', () => {
    fc.assert(
      fc.property(fc.double({ min: -8, max: 8, noNaN: true }), (z) => {
        expect(normalCdf(z) + normalCdf(-z)).toBeCloseTo(1, 12);
        expect(normalCdf(z + 0.01)).toBeGreaterThanOrEqual(normalCdf(z));
      }),
    );
  });
});

describe('beta and t', () => {
  it('inverts itself', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        fc.integer({ min: 1, max: 300 }),
        fc.integer({ min: 1, max: 300 }),
        (p, a, b) => {
          expect(regularisedBeta(betaQuantile(p, a, b), a, b)).toBeCloseTo(p, 8);
        },
      ),
    );
  });
  it('I_x(a, b) for whole a, b is a binomial tail', () => {
    // I_0.3(3, 5) = P(Bin(7, 0.3) ≥ 3), summed directly.
    let tail = 0;
    const choose = [1, 7, 21, 35, 35, 21, 7, 1];
    for (let k = 3; k <= 7; k++) tail += choose[k]! * 0.3 ** k * 0.7 ** (7 - k);
    expect(regularisedBeta(0.3, 3, 5)).toBeCloseTo(tail, 12);
  });
  // Student's t, two-sided 95 %: published tables.
  it.each([
    [1, 12.7062],
    [4, 2.7764],
    [10, 2.2281],
    [120, 1.9799],
  ])('t at %d degrees', (degrees, t) => {
    expect(studentQuantile(0.975, degrees)).toBeCloseTo(t, 4);
    expect(studentQuantile(0.025, degrees)).toBeCloseTo(-t, 4);
  });
});

describe('Clopper–Pearson', () => {
  it('2 of 20 gives 1.23 % to 31.70 %', () => {
    const { low, high } = clopperPearson(2, 20);
    expect(100 * low).toBeCloseTo(1.23, 2);
    expect(100 * high).toBeCloseTo(31.7, 2);
  });
  it('none of n has the closed form 1 − (α/2)^(1/n)', () => {
    expect(clopperPearson(0, 10)).toEqual({ low: 0, high: expect.closeTo(1 - 0.025 ** 0.1, 10) });
    expect(clopperPearson(10, 10).low).toBeCloseTo(0.025 ** 0.1, 10);
  });
  it('covers the observed share and refuses nonsense', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 400 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (n, share) => {
          const k = Math.round(n * share);
          const { low, high } = clopperPearson(k, n);
          expect(low).toBeLessThanOrEqual(k / n);
          expect(high).toBeGreaterThanOrEqual(k / n);
        },
      ),
    );
    expect(() => clopperPearson(3, 2)).toThrow(/0 ≤ successes/);
  });
});

describe('order statistics', () => {
  it('quantile interpolates', () => {
    expect(quantile([4, 1, 3, 2], 0.5)).toBe(2.5);
    expect(quantile([1, 2, 3, 4, 5], 0.05)).toBeCloseTo(1.2, 12);
    expect(median([])).toBeNaN();
  });
  it('robust z marks an outlier and stays silent without spread', () => {
    expect(robustZ(10, [1, 2, 3, 4, 5])).toBeCloseTo((0.6745 * 7) / 1, 10);
    expect(robustZ(10, [3, 3, 3, 3, 3])).toBeNull();
  });
  it('mean interval by t', () => {
    const values = [9.8, 10.1, 10.0, 10.3, 9.9];
    const half = (2.7764451 * standardDeviation(values)) / Math.sqrt(5);
    expect(meanInterval(values)!.high).toBeCloseTo(10.02 + half, 6);
    expect(meanInterval([1])).toBeNull();
  });
});

describe('histogram', () => {
  it('counts every value once, in bins that touch', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.1, max: 200, noNaN: true }), { minLength: 1, maxLength: 300 }),
        (values) => {
          const bins = histogram(values);
          expect(bins.reduce((sum, bin) => sum + bin.count, 0)).toBe(values.length);
          expect(bins.length).toBeLessThanOrEqual(41);
          for (let i = 1; i < bins.length; i++)
            expect(bins[i]!.from).toBeCloseTo(bins[i - 1]!.to, 9);
        },
      ),
    );
  });
});

describe('least squares', () => {
  it('goes through a line and a √t law exactly', () => {
    expect(lineAt([0, 1, 2, 3], [1, 3, 5, 7], 10).value).toBeCloseTo(21, 9);
    const ts = [0, 5, 10, 15, 20, 25, 30];
    const basis = ts.map((t) => [1, Math.sqrt(t), t]);
    const fit = fitAt(
      basis,
      ts.map((t) => 3 - 0.2 * Math.sqrt(t) + 0.01 * t),
      [1, Math.sqrt(10), 10],
    );
    expect(fit.value).toBeCloseTo(3 - 0.2 * Math.sqrt(10) + 0.1, 9);
    expect(fit.error).toBeLessThan(1e-8);
  });
  it('states an error that matches the scatter', () => {
    const random = seededRandom(7);
    const offs = Array.from({ length: 400 }, () => {
      const xs = Array.from({ length: 12 }, (_, i) => i);
      const fit = lineAt(
        xs,
        xs.map((x) => 2 + x + random.normal()),
        6,
      );
      return { off: fit.value - 8, error: fit.error };
    });
    const within = offs.filter(({ off, error }) => Math.abs(off) < 2 * error).length / offs.length;
    expect(within).toBeGreaterThan(0.88);
    expect(within).toBeLessThan(0.99);
  });
});
