import { describe, expect, it } from 'vitest';
import {
  andersonDarling,
  betaQuantile,
  lowerToleranceLimit,
  seededRandom,
  shapiroWilk,
  toleranceFactor,
  twoHumps,
} from '../src/statistics';
import { type AssessedResult, judge, lotSentence, summariseItem, trueShare } from '../src/verdicts';

const HANDBOOK = [
  6.021, 6.034, 6.018, 6.043, 6.027, 6.012, 6.038, 6.03, 6.024, 6.041, 6.015, 6.033, 6.029, 6.022,
  6.036, 6.201, 6.187, 6.214, 6.195, 6.206, 6.178, 6.221, 6.199, 6.19, 6.211, 6.203, 6.184, 6.196,
  6.209, 6.193,
];

describe('mixed lots', () => {
  it('thirty values of two dates: BIC −55.20 and −131.19, humps at 6.028 and 6.199', () => {
    const found = twoHumps(HANDBOOK, 0.001)!;
    expect(found.bicOne).toBeCloseTo(-55.2, 1);
    expect(found.bicTwo).toBeCloseTo(-131.19, 1);
    expect(found.humps[0].mean).toBeCloseTo(6.028, 3);
    expect(found.humps[1].mean).toBeCloseTo(6.199, 3);
    expect(found.isMixed).toBe(true);
  });
  it('the first fifteen alone are one: BIC₁ − BIC₂ = −6.56', () => {
    const found = twoHumps(HANDBOOK.slice(0, 15), 0.001)!;
    expect(found.bicOne - found.bicTwo).toBeCloseTo(-6.56, 1);
    expect(found.isMixed).toBe(false);
  });
  it('one hump of 240 cells is called two at most twice in a hundred lots', () => {
    let called = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const { normal } = seededRandom(seed);
      if (
        twoHumps(
          Array.from({ length: 240 }, () => 6 + 0.05 * normal()),
          0.001,
        )!.isMixed
      )
        called++;
    }
    expect(called).toBeLessThanOrEqual(2);
  });
  it('equal values are no two humps', () => {
    expect(twoHumps(new Array<number>(20).fill(6), 0.001)!.isMixed).toBe(false);
  });
});

describe('normality and tolerance', () => {
  const duds = () => {
    const { normal } = seededRandom(4);
    return Array.from({ length: 900 }, (_, i) => (i % 50 === 0 ? 2 : 6.05) + 0.02 * normal());
  };
  it('the least normal lot has p = 0, not 1', () => {
    const { statistic, p } = andersonDarling(duds())!;
    expect(statistic).toBeGreaterThan(150);
    expect(p).toBe(0);
  });
  it('900 cells with 2 % duds: what 95 % exceed comes from the order of the values', () => {
    const { limit } = lowerToleranceLimit(duds());
    expect(limit!.by).toBe('order statistic');
    expect(limit!.value).toBeGreaterThan(5.95);
  });
  it('k of the handbook, and a limit for five to seven values', () => {
    for (const [n, k] of [
      [5, 4.203],
      [10, 2.911],
      [20, 2.396],
      [50, 2.065],
      [100, 1.927],
    ])
      expect(toleranceFactor(n!)).toBeCloseTo(k!, 2);
    const { limit } = lowerToleranceLimit([6.01, 6.03, 6.02, 6.05, 6.04]);
    expect(limit).toMatchObject({ by: 'normal', factor: expect.closeTo(4.203, 2) });
  });
  it('equal values are not too few', () => {
    expect(lowerToleranceLimit([6, 6, 6, 6, 6, 6, 6, 6, 6]).reason).toMatch(
      /All 9 results are equal/,
    );
    expect(lowerToleranceLimit([6, 6]).reason).toMatch(/Too few/);
  });
  it('Shapiro–Wilk: worked example of eleven weights', () => {
    // Shapiro and Wilk 1965: W = 0.79, p about 0.007 for these eleven.
    const { statistic, p } = shapiroWilk([148, 154, 158, 160, 161, 162, 166, 170, 182, 195, 236])!;
    expect(statistic).toBeCloseTo(0.79, 2);
    expect(p).toBeCloseTo(0.0067, 3);
  });
  it('p of normal samples of 5 to 50 is spread evenly', () => {
    for (const n of [5, 6, 7, 20, 50]) {
      let low = 0;
      for (let seed = 1; seed <= 400; seed++) {
        const { normal } = seededRandom(seed * 17 + n);
        if (shapiroWilk(Array.from({ length: n }, normal))!.p < 0.05) low++;
      }
      expect(low / 400).toBeGreaterThan(0.02);
      expect(low / 400).toBeLessThan(0.085);
    }
  });
});

const LIMIT = { value: 100, direction: 'atLeast' as const };
const results = (
  values: number[],
  u: number,
  more: Partial<AssessedResult> = {},
): AssessedResult[] =>
  values.map((value, i) => {
    const estimate = { value, standardUncertainty: u, bound: more.bound ?? ('exact' as const) };
    return { ...estimate, cell: `c${i}`, state: judge(estimate, LIMIT, 1).verdict, ...more };
  });
const summarise = (all: AssessedResult[]) => summariseItem(all, { low: 100, high: null });

describe('share short', () => {
  it('with results known well it is the beta distribution of the count, for few and for many', () => {
    for (const [n, wrong] of [
      [12, 0],
      [40, 3],
      [200, 90],
    ] as const) {
      const exact = Array.from({ length: n }, (_, i) => (i < wrong ? 90 - i / n : 110 + i / n));
      const found = trueShare({ exact, conforming: 0 }, LIMIT, { scatter: 0, common: 0 })!;
      // Jeffreys’ prior adds half a cell to each side.
      const [a, b] = [wrong + 0.5, n - wrong + 0.5];
      const quantiles = [0.025, 0.5, 0.975].map((p) => betaQuantile(p, a, b));
      [found.low, found.share, found.high].forEach((value, i) =>
        expect(Math.abs(value - quantiles[i]!)).toBeLessThan(0.1 * quantiles[2]!),
      );
    }
  });

  it('lies within its interval of the true share in most of 100 lots, where judging counts none', () => {
    let inside = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const { normal } = seededRandom(seed);
      const truth = Array.from({ length: 120 }, () => 100.6 + 0.5 * normal());
      const common = 0.3 * normal();
      const seen = truth.map((value) => value + common + 0.25 * normal());
      const below = truth.filter((value) => value < 100).length / truth.length;
      const found = trueShare({ exact: seen, conforming: 0 }, LIMIT, {
        scatter: 0.25,
        common: 0.3,
      })!;
      if (below >= found.low && below <= found.high) inside++;
    }
    expect(inside).toBeGreaterThanOrEqual(90);
  });
  it('a bound counts only where it decides', () => {
    const exact = Array.from({ length: 10 }, (_, i) => 99 + 0.1 * i);
    const bounds = [
      ...results(exact, 0.05),
      { ...results([104], 0.1, { bound: 'atLeast' })[0]!, cell: 'high' },
      { ...results([80], 0.1, { bound: 'atLeast' })[0]!, cell: 'low' },
    ];
    const { trulyShort, shareShort, tooClose, openBounds } = summarise(bounds);
    expect(openBounds).toBe(1);
    expect(tooClose).toBe(1 + summarise(results(exact, 0.05)).tooClose);
    expect(trulyShort!.share).toBeCloseTo(10 / 11, 1);
    expect(shareShort!.share).toBeLessThan(10 / 12);
  });
  it('n is what mean and spread are made of; bounds are counted apart, and are results all the same', () => {
    const exact = [101, 101.2, 101.1, 101.3];
    const bound = { ...results([104], 0.1, { bound: 'atLeast' })[0]!, cell: 'b' };
    const summary = summarise([...results(exact, 0.1), bound]);
    expect(summary).toMatchObject({ n: 4, bounds: 1 });
    expect(summary.mean).toBeCloseTo(101.15, 12);
    // Five cells of five have a result, one of them too close to call.
    expect(lotSentence(5, summary, null, true)).not.toMatch(/not tested/);
    expect(lotSentence(6, summary, null, true)).toMatch(/1 of 6 is not tested/);
    const only = summarise([bound]);
    expect(only).toMatchObject({ n: 0, bounds: 1, mean: null });
    expect(lotSentence(1, only, null, true)).not.toMatch(/not tested yet/);
  });
  it('the mean’s interval carries what the meters have in common', () => {
    const { normal } = seededRandom(2);
    const values = Array.from({ length: 400 }, () => 101 + 0.2 * normal());
    const { meanInterval } = summarise(results(values, 0.5, { scatter: 0.1 }));
    expect((meanInterval!.high - meanInterval!.low) / 2).toBeGreaterThan(0.95);
  });
  it('what is held is in no figure, and is said as held', () => {
    const summary = summarise([
      ...results([101, 101.2, 101.1, 101.3, 101.2], 0.1),
      { ...results([190], 1)[0]!, cell: 'x', state: 'held' },
    ]);
    expect(summary).toMatchObject({ n: 5, held: 1, met: 5 });
    expect(summary.mean).toBeLessThan(102);
    expect(lotSentence(6, summary, null, true)).toMatch(
      /1 of 6 is held\. 1 cell has only results that are held/,
    );
    expect(lotSentence(6, summary, null, true)).not.toMatch(/not tested/);
  });
});
