import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  fitLinear,
  fUpperTail,
  identity,
  logGamma,
  meanInterval,
  median,
  medianAbsoluteDeviation,
  medianInterval,
  niceStep,
  quantile,
  regularisedGammaP,
  robustZ,
  seededRandom,
  solve,
} from '../src/statistics';

/** The same draws every time: what holds today holds tomorrow. */
const check = <T>(property: fc.IProperty<T>, numRuns = 100): void =>
  fc.assert(property, { seed: 28, numRuns });

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('gamma', () => {
  it('of whole numbers is a factorial, of halves a product of halves', () => {
    let factorial = 0;
    for (let n = 1; n < 120; n++) {
      factorial += Math.log(n);
      expect(logGamma(n + 1)).toBeCloseTo(factorial, 9);
    }
    expect(Math.exp(2 * logGamma(0.5))).toBeCloseTo(Math.PI, 12);
    expect(Math.exp(logGamma(4.5))).toBeCloseTo((105 / 16) * Math.sqrt(Math.PI), 10);
  });

  it('goes up by its argument: Γ(x + 1) = x·Γ(x)', () => {
    check(
      fc.property(real(0.01, 80), (x) => {
        expect(logGamma(x + 1)).toBeCloseTo(logGamma(x) + Math.log(x), 9);
      }),
    );
  });

  it('incomplete, of a whole number, is a sum of Poisson terms', () => {
    check(
      fc.property(fc.integer({ min: 1, max: 40 }), real(0.01, 60), (a, x) => {
        let [term, sum] = [Math.exp(-x), 0];
        for (let k = 0; k < a; k++) {
          sum += term;
          term *= x / (k + 1);
        }
        const { lower, upper } = regularisedGammaP(a, x);
        expect(upper).toBeCloseTo(sum, 10);
        expect(lower + upper).toBeCloseTo(1, 12);
      }),
    );
    expect(regularisedGammaP(3, 0)).toEqual({ lower: 0, upper: 1 });
  });

  it.each([
    [1, 3.8415],
    [5, 11.0705],
    [10, 18.307],
    [30, 43.773],
  ])('χ² with %i degrees of freedom is above %d in 5 of 100', (degrees, limit) => {
    expect(regularisedGammaP(degrees / 2, limit / 2).upper).toBeCloseTo(0.05, 5);
  });
});

describe('Fisher’s F', () => {
  it.each([
    [4.9646, 1, 10],
    [3.7083, 3, 10],
    [2.7109, 5, 20],
    [3.3158, 2, 30],
    [2.2899, 5, 120],
  ])('is above %d in 5 of 100 with %i and %i degrees of freedom', (limit, d1, d2) => {
    expect(fUpperTail(limit, d1, d2)).toBeCloseTo(0.05, 4);
  });

  it('turned over is the other tail', () => {
    const degrees = fc.integer({ min: 1, max: 60 });
    check(
      fc.property(real(0.01, 20), degrees, degrees, (f, d1, d2) => {
        expect(fUpperTail(f, d1, d2)).toBeCloseTo(1 - fUpperTail(1 / f, d2, d1), 10);
      }),
    );
    expect([0, -1, NaN].map((f) => fUpperTail(f, 2, 3))).toEqual([1, 1, 1]);
    expect(fUpperTail(Infinity, 2, 3)).toBe(0);
  });
});

describe('linear models', () => {
  const matrix = (k: number) =>
    fc.array(fc.array(real(-10, 10), { minLength: k, maxLength: k }), {
      minLength: k,
      maxLength: k,
    });

  it('a solution solves', () => {
    check(
      fc.property(matrix(4), fc.array(real(-10, 10), { minLength: 4, maxLength: 4 }), (a, b) => {
        const x = solve(
          a,
          b.map((value) => [value]),
        );
        if (!x || Math.max(...x.map(([v]) => Math.abs(v!))) > 1e4) return;
        a.forEach((row, i) => {
          const product = row.reduce((sum, value, j) => sum + value * x[j]![0]!, 0);
          expect(product).toBeCloseTo(b[i]!, 5);
        });
      }),
      200,
    );
    expect(solve(identity(3), identity(3))).toEqual(identity(3));
    expect(
      solve(
        [
          [1, 2],
          [2, 4],
        ],
        [[1], [2]],
      ),
    ).toBeNull();
  });

  it('a fit leaves residuals that no term explains, and knows its own scatter', () => {
    const data = fc.array(fc.tuple(real(-5, 5), real(-5, 5), real(-20, 20)), {
      minLength: 6,
      maxLength: 30,
    });
    check(
      fc.property(data, (some) => {
        const rows = some.map(([a, b]) => [1, a, b]);
        const ys = some.map(([, , y]) => y);
        const fit = fitLinear(rows, ys);
        if (!fit || Math.max(...fit.coefficients.map(Math.abs)) > 1e3) return;
        const residuals = rows.map(
          (row, i) => ys[i]! - row.reduce((sum, v, j) => sum + v * fit.coefficients[j]!, 0),
        );
        for (let j = 0; j < 3; j++)
          expect(rows.reduce((sum, row, i) => sum + row[j]! * residuals[i]!, 0)).toBeCloseTo(0, 4);
        const squares = residuals.reduce((sum, r) => sum + r * r, 0);
        expect(fit.degreesOfFreedom).toBe(some.length - 3);
        expect(fit.residualVariance).toBeCloseTo(squares / (some.length - 3), 6);
      }),
      200,
    );
  });

  it('of a straight line has the errors of the textbook', () => {
    const xs = [1, 2, 4, 7, 11];
    const ys = [2.1, 3.9, 8.3, 13.6, 22.4];
    const fit = fitLinear(
      xs.map((x) => [1, x]),
      ys,
    )!;
    const sxx = xs.reduce((sum, x) => sum + (x - 5) ** 2, 0);
    expect(fit.covariance[1]![1]).toBeCloseTo(fit.residualVariance / sxx, 12);
    expect(fit.covariance[0]![0]).toBeCloseTo(fit.residualVariance * (1 / 5 + 25 / sxx), 12);
    expect(fit.covariance[0]![1]).toBeCloseTo((-5 * fit.residualVariance) / sxx, 12);
    // Too few rows, and terms that are one and the same.
    expect(fitLinear([[1, 2]], [1])).toBeNull();
    expect(
      fitLinear(
        [
          [1, 1],
          [2, 2],
          [3, 3],
        ],
        [1, 2, 3],
      ),
    ).toBeNull();
  });
});

describe('order statistics', () => {
  const list = fc.array(real(-100, 100), { minLength: 1, maxLength: 40 });

  it('a quantile lies between its neighbours, and grows with its share', () => {
    check(
      fc.property(list, real(0, 1), real(0, 1), (values, p, q) => {
        const sorted = values.toSorted((a, b) => a - b);
        const at = p * (sorted.length - 1);
        expect(quantile(values, p)).toBeGreaterThanOrEqual(sorted[Math.floor(at)]! - 1e-9);
        expect(quantile(values, p)).toBeLessThanOrEqual(sorted[Math.ceil(at)]! + 1e-9);
        if (p <= q) expect(quantile(values, p)).toBeLessThanOrEqual(quantile(values, q) + 1e-9);
        expect([quantile(values, 0), quantile(values, 1)]).toEqual([sorted[0], sorted.at(-1)]);
      }),
    );
    expect(quantile([], 0.5)).toBeNaN();
  });

  it('robust z does not care for unit or zero', () => {
    const some = fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 5, maxLength: 30 });
    check(
      fc.property(some, fc.integer({ min: 1, max: 50 }), fc.integer(), (values, unit, zero) => {
        const moved = values.map((value) => unit * value + (zero % 1000));
        const z = robustZ(values[0]!, values);
        const other = robustZ(moved[0]!, moved);
        if (z === null) expect(other).toBeNull();
        else expect(other).toBeCloseTo(z, 9);
        expect(medianAbsoluteDeviation(moved)).toBeCloseTo(
          unit * medianAbsoluteDeviation(values),
          9,
        );
      }),
    );
  });

  it('the interval of a median is the narrowest that holds it often enough', () => {
    /** Chance that n coins show at most k heads, by adding up all of them. */
    const atMost = (n: number, k: number): number => {
      let [ways, sum] = [1, 0];
      for (let i = 0; i <= k; i++) {
        sum += ways;
        ways = (ways * (n - i)) / (i + 1);
      }
      return sum / 2 ** n;
    };
    for (let n = 1; n <= 50; n++) {
      const interval = medianInterval(Array.from({ length: n }, (_, i) => i + 1));
      if (n < 6) {
        expect(interval).toBeNull();
        continue;
      }
      const { low, high } = interval!;
      expect(low + high).toBe(n + 1);
      expect(1 - 2 * atMost(n, low - 1)).toBeGreaterThanOrEqual(0.95);
      if (low + 1 < high - 1) expect(1 - 2 * atMost(n, low)).toBeLessThan(0.95);
    }
    // As printed in tables.
    const ranks = (n: number) => medianInterval(Array.from({ length: n }, (_, i) => i + 1));
    expect(ranks(10)).toEqual({ low: 2, high: 9 });
    expect(ranks(20)).toEqual({ low: 6, high: 15 });
  });

  it('intervals of mean and median hold the truth as often as they say', () => {
    const { normal } = seededRandom(5);
    let [means, medians] = [0, 0];
    for (let draw = 0; draw < 2000; draw++) {
      const values = Array.from({ length: 12 }, () => 3 + normal());
      const [byMean, byMedian] = [meanInterval(values)!, medianInterval(values)!];
      if (byMean.low <= 3 && byMean.high >= 3) means++;
      if (byMedian.low <= 3 && byMedian.high >= 3) medians++;
    }
    expect(means / 2000).toBeGreaterThan(0.935);
    expect(means / 2000).toBeLessThan(0.965);
    expect(medians / 2000).toBeGreaterThan(0.945);
  });
});

describe('seeded randomness', () => {
  it('is even, normal, and the same again', () => {
    const [one, two] = [seededRandom(9), seededRandom(9)];
    const uniform = Array.from({ length: 20_000 }, () => one.uniform());
    expect(uniform.slice(0, 50)).toEqual(Array.from({ length: 50 }, () => two.uniform()));
    expect(Math.min(...uniform)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...uniform)).toBeLessThan(1);
    const tenths = Array.from({ length: 10 }, () => 0);
    for (const value of uniform) tenths[Math.floor(10 * value)]!++;
    for (const count of tenths) expect(Math.abs(count - 2000)).toBeLessThan(200);
    const { normal } = seededRandom(10);
    const normals = Array.from({ length: 20_000 }, () => normal());
    const moment = (k: number) => normals.reduce((sum, x) => sum + x ** k, 0) / normals.length;
    expect(moment(1)).toBeCloseTo(0, 1);
    expect(moment(2)).toBeCloseTo(1, 1);
    expect(Math.abs(moment(3))).toBeLessThan(0.1);
    expect(Math.abs(moment(4) - 3)).toBeLessThan(0.25);
    expect(Math.abs(median(normals))).toBeLessThan(0.03);
  });
});

describe('round steps', () => {
  it('are 1, 2 or 5 times a power of ten, and the next one not below', () => {
    check(
      fc.property(real(1e-6, 1e6), (rough) => {
        const step = niceStep(rough);
        expect(step).toBeGreaterThanOrEqual(rough * (1 - 1e-12));
        expect(step).toBeLessThanOrEqual(rough * 2.5 + 1e-12);
        const lead = step / 10 ** Math.floor(Math.log10(step * (1 + 1e-12)));
        expect([1, 2, 5].some((one) => Math.abs(one - lead) < 1e-9)).toBe(true);
      }),
    );
  });
});
