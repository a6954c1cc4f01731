import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  AQLS,
  attributePlan,
  CODE_LETTERS,
  codeLetter,
  hypergeometricAtMost,
  planByRisk,
  planOfLetter,
} from '../src/arrivals';

/** Exact hypergeometric sum in whole numbers. */
function exactAtMost(c: number, population: number, marked: number, sample: number): number {
  const choose = (n: number, k: number): bigint => {
    if (k < 0 || k > n) return 0n;
    let value = 1n;
    for (let i = 1; i <= k; i++) value = (value * BigInt(n - k + i)) / BigInt(i);
    return value;
  };
  let sum = 0n;
  for (let k = 0; k <= c; k++) sum += choose(marked, k) * choose(population - marked, sample - k);
  const all = choose(population, sample);
  return Number((sum * 10n ** 18n) / all) / 1e18;
}

describe('ISO 2859-1, single, normal', () => {
  // Table 2-A written out: letter, then per AQL the plan in force as usedLetter:Ac.
  const TABLE = `
    A: L0 K0 J0 H0 G0 F0 E0 D0 C0 B0 A0
    B: L0 K0 J0 H0 G0 F0 E0 D0 C0 B0 A0
    C: L0 K0 J0 H0 G0 F0 E0 D0 C0 B0 D1
    D: L0 K0 J0 H0 G0 F0 E0 D0 C0 E1 D1
    E: L0 K0 J0 H0 G0 F0 E0 D0 F1 E1 E2
    F: L0 K0 J0 H0 G0 F0 E0 G1 F1 F2 F3
    G: L0 K0 J0 H0 G0 F0 H1 G1 G2 G3 G5
    H: L0 K0 J0 H0 G0 J1 H1 H2 H3 H5 H7
    J: L0 K0 J0 H0 K1 J1 J2 J3 J5 J7 J10
    K: L0 K0 J0 L1 K1 K2 K3 K5 K7 K10 K14
    L: L0 K0 M1 L1 L2 L3 L5 L7 L10 L14 L21
    M: L0 N1 M1 M2 M3 M5 M7 M10 M14 M21 L21
    N: P1 N1 N2 N3 N5 N7 N10 N14 N21 M21 L21
    P: P1 P2 P3 P5 P7 P10 P14 P21 N21 M21 L21
    Q: Q2 Q3 Q5 Q7 Q10 Q14 Q21 P21 N21 M21 L21`;
  const sizes = [2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800, 1250];

  it('agrees with the table, all 165 entries', () => {
    let checked = 0;
    for (const line of TABLE.trim().split('\n')) {
      const [letter, entries] = line.trim().split(': ');
      entries!.split(' ').forEach((entry, i) => {
        const used = entry[0]!;
        const acceptance = Number(entry.slice(1));
        expect(planOfLetter(letter!, AQLS[i]!), `${letter} at ${AQLS[i]}`).toEqual({
          letter,
          usedLetter: used,
          sampleSize: sizes[CODE_LETTERS.indexOf(used)],
          acceptance,
          rejection: acceptance + 1,
        });
        checked++;
      });
    }
    expect(checked).toBe(165);
  });

  it('gives the chapter’s three plans', () => {
    expect(attributePlan(240, 'II', '1.0')).toMatchObject({
      letter: 'G',
      usedLetter: 'H',
      sampleSize: 50,
      acceptance: 1,
      testAll: false,
    });
    expect(attributePlan(600, 'II', '2.5')).toMatchObject({ sampleSize: 80, acceptance: 5 });
    expect(attributePlan(120, 'II', '1.5')).toMatchObject({
      letter: 'F',
      usedLetter: 'G',
      sampleSize: 32,
      acceptance: 1,
    });
  });

  it('tests all when the sample would be the lot', () => {
    expect(attributePlan(20, 'II', '0.65')).toMatchObject({ sampleSize: 20, testAll: true });
    expect(attributePlan(21, 'II', '0.65').testAll).toBe(false);
  });

  it('finds the class at both of its ends, and refuses what has none', () => {
    expect([2, 8, 9, 15, 16, 280, 281, 35000].map((n) => codeLetter(n, 'II')).join('')).toBe(
      'AABBCGHM',
    );
    expect(() => codeLetter(1, 'I')).toThrow('2 to 35 000');
    expect(() => codeLetter(35001, 'I')).toThrow('2 to 35 000');
    expect(() => planOfLetter('I', '1.0')).toThrow('code letter');
    expect(() => planOfLetter('A', '1.1')).toThrow('AQL');
  });

  it('asks for larger samples at higher levels and never a smaller one for a larger lot', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 20000 }),
        fc.integer({ min: 0, max: 5000 }),
        (n, more) => {
          const at = (size: number, level: 'I' | 'II' | 'III') =>
            CODE_LETTERS.indexOf(codeLetter(size, level));
          expect(at(n, 'I')).toBeLessThanOrEqual(at(n, 'II'));
          expect(at(n, 'II')).toBeLessThanOrEqual(at(n, 'III'));
          expect(at(n, 'II')).toBeLessThanOrEqual(at(n + more, 'II'));
        },
      ),
    );
  });
});

describe('the hypergeometric sum', () => {
  it('gives the chapter’s check', () => {
    expect(hypergeometricAtMost(1, { population: 200, marked: 10, sample: 32 })).toBeCloseTo(
      0.50402,
      5,
    );
  });

  it('agrees with whole-number arithmetic', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 300 }),
        fc.nat(300),
        fc.nat(300),
        fc.nat(30),
        (population, a, b, c) => {
          const marked = a % (population + 1);
          const sample = b % (population + 1);
          expect(hypergeometricAtMost(c, { population, marked, sample })).toBeCloseTo(
            exactAtMost(c, population, marked, sample),
            12,
          );
        },
      ),
      { numRuns: 300 },
    );
  });

  it('stays exact for ten thousand cells', () => {
    for (const [c, marked, sample] of [
      [5, 300, 315],
      [0, 100, 800],
      [21, 650, 500],
      [40, 5000, 100],
    ] as const)
      expect(hypergeometricAtMost(c, { population: 10_000, marked, sample })).toBeCloseTo(
        exactAtMost(c, 10_000, marked, sample),
        12,
      );
  });

  it('refuses counts that do not fit each other', () => {
    expect(() => hypergeometricAtMost(0, { population: 5, marked: 6, sample: 1 })).toThrow();
    expect(() => hypergeometricAtMost(0, { population: 5, marked: 1.5, sample: 1 })).toThrow(
      'whole',
    );
  });
});

describe('sampling by risk', () => {
  /** Every sample and every acceptance number, tried in turn. */
  function bruteForce(lotSize: number, good: number, bad: number, alpha: number, beta: number) {
    for (let n = 1; n <= lotSize; n++) {
      for (let c = 0; c <= n; c++) {
        if (
          1 - exactAtMost(c, lotSize, good, n) <= alpha + 1e-12 &&
          exactAtMost(c, lotSize, bad, n) <= beta + 1e-12
        )
          return { sampleSize: n, acceptance: c };
      }
    }
    return null;
  }

  it('finds what trying everything finds, for small lots', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 4, max: 40 }),
        fc.integer({ min: 0, max: 10 }),
        fc.integer({ min: 1, max: 25 }),
        fc.constantFrom(0.01, 0.05, 0.1, 0.2),
        fc.constantFrom(0.01, 0.05, 0.1, 0.2),
        (lotSize, good, more, producerRisk, consumerRisk) => {
          const bad = good + more;
          fc.pre(bad <= lotSize);
          const plan = planByRisk({
            lotSize,
            goodShare: good / lotSize,
            badShare: bad / lotSize,
            producerRisk,
            consumerRisk,
          });
          expect(plan).toMatchObject(bruteForce(lotSize, good, bad, producerRisk, consumerRisk)!);
        },
      ),
      { numRuns: 120 },
    );
  });

  it('keeps both risks for any lot, and says by how much', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 50, max: 10_000 }),
        fc.double({ min: 0.001, max: 0.05, noNaN: true }),
        fc.double({ min: 1.5, max: 8, noNaN: true }),
        (lotSize, goodShare, times) => {
          const badShare = Math.min(0.9, goodShare * times);
          fc.pre(Math.ceil(lotSize * badShare - 1e-9) > Math.floor(lotSize * goodShare + 1e-9));
          const plan = planByRisk({
            lotSize,
            goodShare,
            badShare,
            producerRisk: 0.05,
            consumerRisk: 0.1,
          });
          expect(plan.producerRisk).toBeLessThanOrEqual(0.05 + 1e-12);
          expect(plan.consumerRisk).toBeLessThanOrEqual(0.1 + 1e-12);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('refuses what cannot be told apart', () => {
    const ask = {
      lotSize: 30,
      goodShare: 0.01,
      badShare: 0.02,
      producerRisk: 0.05,
      consumerRisk: 0.1,
    };
    expect(planByRisk(ask)).toMatchObject({
      goodMarked: 0,
      badMarked: 1,
      testAll: false,
      sampleSize: 27,
    });
    // Five cells of which one must be told from none: only all of them tell.
    const few = { ...ask, lotSize: 5, goodShare: 0.01, badShare: 0.2, consumerRisk: 0.01 };
    expect(planByRisk(few)).toMatchObject({ sampleSize: 5, testAll: true, consumerRisk: 0 });
    expect(() => planByRisk({ ...ask, badShare: 0.005 })).toThrow('above the good');
    expect(() => planByRisk({ ...ask, goodShare: 0.04, badShare: 0.05 })).not.toThrow();
    expect(() => planByRisk({ ...ask, lotSize: 0 })).toThrow('at least one cell');
    expect(() => planByRisk({ ...ask, producerRisk: 0 })).toThrow('producer’s risk');
  });
});
