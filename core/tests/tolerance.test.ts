import { describe, expect, it } from 'vitest';
import {
  andersonDarling,
  clopperPearson,
  lowerToleranceLimit,
  noncentralTCdf,
  seededRandom,
  studentQuantile,
  toleranceFactor,
} from '../src/statistics';

describe('tolerance factors', () => {
  // Published: handbook, chapter 5; the same figures stand in ISO 16269-6, table D.4.
  it.each([
    [5, 4.203],
    [10, 2.911],
    [20, 2.396],
    [50, 2.065],
    [100, 1.927],
  ])('n = %i: k = %f for 95 %% of cells with 95 %% confidence', (n, k) => {
    expect(Math.abs(toleranceFactor(n) - k)).toBeLessThan(0.0006);
  });
  it.each([
    [10, 0.9, 0.95, 2.355],
    [30, 0.99, 0.95, 3.064],
    [20, 0.95, 0.99, 2.808],
  ])('n = %i, share %f, confidence %f: k = %f', (n, share, confidence, k) => {
    expect(Math.abs(toleranceFactor(n, share, confidence) - k)).toBeLessThan(0.001);
  });
  it('without noncentrality it is Student’s t', () => {
    for (const [p, degrees] of [
      [0.975, 4],
      [0.9, 1],
      [0.99, 30],
    ] as const)
      expect(noncentralTCdf(studentQuantile(p, degrees), degrees, 0)).toBeCloseTo(p, 6);
  });
  it('covers 95 % of cells in 95 % of simulated samples', () => {
    const random = seededRandom(5);
    const k = toleranceFactor(15);
    let holds = 0;
    const studies = 4000;
    for (let study = 0; study < studies; study++) {
      const values = Array.from({ length: 15 }, () => random.normal());
      const m = values.reduce((a, b) => a + b, 0) / 15;
      const s = Math.sqrt(values.reduce((sum, v) => sum + (v - m) ** 2, 0) / 14);
      // 95 % of a standard normal lies above −1.6449.
      if (m - k * s <= -1.644854) holds++;
    }
    expect(Math.abs(holds / studies - 0.95)).toBeLessThan(0.011);
  });
  it('one value has no spread', () => {
    expect(() => toleranceFactor(1)).toThrow(RangeError);
  });
});

describe('normality', () => {
  it('a straight set has a known statistic', () => {
    // Independent: computed with another language’s erfc: A² = 0.141109, A*² = 0.154867.
    const found = andersonDarling([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])!;
    expect(found.statistic).toBeCloseTo(0.154867, 6);
    expect(found.p).toBeGreaterThan(0.9);
  });
  it('rejects about 5 % of normal samples at p < 0.05, and nearly all exponential ones', () => {
    const random = seededRandom(8);
    const rejected = (draw: () => number) => {
      let count = 0;
      for (let i = 0; i < 1500; i++)
        if (andersonDarling(Array.from({ length: 40 }, draw))!.p < 0.05) count++;
      return count / 1500;
    };
    expect(Math.abs(rejected(() => random.normal()) - 0.05)).toBeLessThan(0.02);
    expect(rejected(() => -Math.log(1 - random.uniform()))).toBeGreaterThan(0.95);
  });
  it('says nothing of few or equal values', () => {
    expect(andersonDarling([1, 2, 3])).toBeNull();
    expect(andersonDarling(new Array<number>(20).fill(3))).toBeNull();
  });
});

describe('lower tolerance limit', () => {
  const random = seededRandom(21);
  it('is x̄ − k·s of a normal lot', () => {
    const values = Array.from({ length: 50 }, () => 100 + random.normal());
    const { limit } = lowerToleranceLimit(values);
    expect(limit!.by).toBe('normal');
    expect(limit!.factor).toBeCloseTo(2.065, 3);
  });
  it('is an order statistic of a lot that is not normal, from 59 results on', () => {
    const two = (n: number) =>
      Array.from({ length: n }, (_, i) => (i % 5 === 0 ? 90 : 100) + 0.2 * random.normal());
    expect(lowerToleranceLimit(two(58)).reason).toContain('59 results are needed');
    const { limit } = lowerToleranceLimit(two(59));
    expect(limit).toMatchObject({ by: 'order statistic', factor: 1 });
    // Rank 2 needs 93: 0.95⁹³ + 93·0.05·0.95⁹² ≤ 0.05.
    expect(lowerToleranceLimit(two(92)).limit!.factor).toBe(1);
    expect(lowerToleranceLimit(two(93)).limit!.factor).toBe(2);
  });
  it('few results allow none', () => {
    expect(lowerToleranceLimit([1, 2, 3]).reason).toContain('Too few');
  });
});

describe('Clopper–Pearson', () => {
  // Handbook, chapter 5; and Clopper and Pearson 1934, chart for n = 10 (0.95).
  it.each([
    [2, 20, 0.0123, 0.317],
    [0, 10, 0, 0.3085],
    [5, 10, 0.1871, 0.8129],
    [10, 10, 0.6915, 1],
  ])('%i of %i: %f to %f', (x, n, low, high) => {
    const found = clopperPearson(x, n);
    expect(found.low).toBeCloseTo(low, 4);
    expect(found.high).toBeCloseTo(high, 4);
  });
});
