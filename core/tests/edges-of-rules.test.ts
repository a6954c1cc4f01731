import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hypergeometricAtMost, weighBox } from '../src/arrivals';
import {
  attendanceS,
  courseS,
  expectedCourse,
  MEASURING_S,
  programOf,
  type ProgramStep,
  type RecipeStep,
  remainingS,
  socAtRest,
  taperS,
  USUAL_TAU_S,
} from '../src/bench';
import { openCircuitVoltage } from '../src/simulator';
import { CONDITIONS } from '../testing/bench-conditions';

describe('the ends of the hypergeometric range', () => {
  it('below what must be drawn nothing can be, from what all draw everything is', () => {
    // Of 10 items 8 are marked: five drawn hold at least three of them.
    const of = { population: 10, marked: 8, sample: 5 };
    expect(hypergeometricAtMost(2, of)).toBe(0);
    // C(8,3)·C(2,2) / C(10,5) = 56 / 252.
    expect(hypergeometricAtMost(3, of)).toBeCloseTo(56 / 252, 12);
    expect(hypergeometricAtMost(4, of)).toBeCloseTo((56 + 140) / 252, 12);
    expect(hypergeometricAtMost(5, of)).toBe(1);
    expect(hypergeometricAtMost(9, of)).toBe(1);
  });
  it('all of a lot drawn hold exactly its marked ones', () => {
    const of = { population: 7, marked: 3, sample: 7 };
    expect([0, 1, 2, 3, 4].map((c) => hypergeometricAtMost(c, of))).toEqual([0, 0, 0, 1, 1]);
  });
  it('neither under- nor overflows where a lot is large', () => {
    // Half of them marked: as likely below the middle as above it, the middle itself shared.
    const of = { population: 200_000, marked: 100_000, sample: 50_000 };
    const [below, to] = [24_999, 25_000].map((c) => hypergeometricAtMost(c, of)) as [
      number,
      number,
    ];
    expect((below + to) / 2).toBeCloseTo(0.5, 9);
    // The middle term by the normal approximation of its standard deviation, 96.8.
    expect(to - below).toBeCloseTo(1 / (Math.sqrt(2 * Math.PI) * 96.825), 6);
  });
  it('agrees with a count of every sample there is', () => {
    const choose = (n: number, k: number): number => {
      if (k < 0 || k > n) return 0;
      let product = 1;
      for (let i = 1; i <= k; i++) product = (product * (n - k + i)) / i;
      return product;
    };
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20 }).chain((population) =>
          fc.record({
            population: fc.constant(population),
            marked: fc.integer({ min: 0, max: population }),
            sample: fc.integer({ min: 0, max: population }),
            c: fc.integer({ min: -1, max: population + 1 }),
          }),
        ),
        ({ c, ...of }) => {
          let counted = 0;
          for (let k = 0; k <= c; k++)
            counted += choose(of.marked, k) * choose(of.population - of.marked, of.sample - k);
          expect(hypergeometricAtMost(c, of)).toBeCloseTo(
            Math.min(1, counted / choose(of.population, of.sample)),
            9,
          );
        },
      ),
    );
  });
});

describe('the mass of a box', () => {
  const box = {
    grossG: null,
    tareG: null,
    netG: 1450,
    scaleToleranceG: 2,
    cells: 10,
    cellMassG: 145,
    cellTolerancePct: 3,
  };
  it('without cells has none per cell, and nothing is judged by it', () => {
    const empty = weighBox({ ...box, cells: 0 });
    expect(empty).toMatchObject({ netG: 1450, perCellG: null, verdict: 'unknown' });
    expect(weighBox({ ...box, cellMassG: null })).toMatchObject({
      perCellG: 145,
      verdict: 'unknown',
    });
    expect(weighBox({ ...box, netG: null })).toMatchObject({ perCellG: null, verdict: 'unknown' });
  });
  it('two weighings know the difference by √2 of the scale, one by the scale', () => {
    const plain = { ...box, cellTolerancePct: 0 };
    expect(weighBox(plain).toleranceG).toBe(2);
    const twice = weighBox({ ...plain, grossG: 1700, tareG: 250 });
    expect(twice.netG).toBe(1450);
    expect(twice.toleranceG).toBeCloseTo(2 * Math.SQRT2, 12);
  });
  it('turns at its tolerance and not before', () => {
    const { toleranceG } = weighBox(box);
    expect(toleranceG).toBeCloseTo(Math.hypot(2, 43.5), 9);
    const at = (differenceG: number) => weighBox({ ...box, netG: 1450 + differenceG }).verdict;
    expect(at(toleranceG! - 0.01)).toBe('agrees');
    expect(at(toleranceG! + 0.01)).toBe('heavy');
    expect(at(-toleranceG! + 0.01)).toBe('agrees');
    expect(at(-toleranceG! - 0.01)).toBe('light');
  });
});

describe('a charge and its end', () => {
  const charge = (taperIt: number): RecipeStep[] => [
    {
      kind: 'charge',
      current: { in: 'It', value: 0.5 },
      limitV: null,
      taperIt,
      maxHours: null,
      limitAh: null,
    },
  ];
  it('ends below the current it begins with, and not at it', () => {
    expect(() => programOf(charge(0.5), CONDITIONS)).toThrow(/below the 52.00 A/);
    expect(() => programOf(charge(0.51), CONDITIONS)).toThrow(/below/);
    expect(programOf(charge(0.49), CONDITIONS)).toHaveLength(1);
  });
  it('a current at its end already takes no time for its fall', () => {
    expect(taperS(10, 10, 1500)).toBe(0);
    expect(taperS(5, 10, 1500)).toBe(0);
    expect(taperS(10 * Math.E, 10, 1500)).toBeCloseTo(1500, 9);
  });
});

describe('how long steps take', () => {
  const cell = { chemistry: 'LFP', capacityAh: 100, stateOfCharge: 0.5, tauS: null } as const;
  it('a measuring step waits five minutes for a person, a rest as long as it says', () => {
    const program: ProgramStep[] = [
      { kind: 'measure', what: 'acResistance' },
      { kind: 'rest', seconds: 1234 },
    ];
    const course = expectedCourse(program, cell);
    expect(MEASURING_S).toBe(300);
    expect(course.map(({ fromS, toS }) => [fromS, toS])).toEqual([
      [0, 300],
      [300, 1534],
    ]);
    expect(courseS(course)).toBe(1534);
    expect(attendanceS(course, { attendedOnly: false, isKnown: false })).toBe(0);
  });
  it('a pulse takes both its times, and what it takes from the cell', () => {
    const [pulse] = expectedCourse(
      [{ kind: 'pulse', firstA: 20, firstS: 10, secondA: 100, secondS: 1 }],
      cell,
    );
    expect(pulse!.toS).toBe(11);
    expect(pulse!.toSoc).toBeCloseTo(0.5 - (20 * 10 + 100 * 1) / 3600 / 100, 12);
    expect([pulse!.fromA, pulse!.toA]).toEqual([-20, -100]);
  });
  it('a discharge by time moves current × time, and by charge its charge', () => {
    const step = {
      kind: 'discharge',
      mode: 'current',
      set: 10,
      cutoffV: 2.5,
      endsByTime: true,
    } as const;
    const by = (more: { maxS: number; limitAh: number | null }) =>
      expectedCourse([{ ...step, ...more }], cell)[0]!;
    expect(by({ maxS: 3600, limitAh: null })).toMatchObject({ toS: 3600, toSoc: 0.4 });
    expect(by({ maxS: 36_000, limitAh: 20 }).toS).toBeCloseTo(7200, 9);
    expect(by({ maxS: 360_000, limitAh: null }).toSoc).toBeCloseTo(0, 12);
  });
  it('to storage it goes up or down, whichever way is needed', () => {
    const target = openCircuitVoltage('LFP', 0.3);
    const go = (stateOfCharge: number) =>
      expectedCourse([{ kind: 'toStorage', targetV: target, amps: 10, maxS: 1e6 }], {
        ...cell,
        stateOfCharge,
      })[0]!;
    expect(go(0.5).fromA).toBe(-10);
    expect(go(0.1).fromA).toBe(10);
    expect(go(0.5).toS).toBeCloseTo(0.2 * 10 * 3600, 0);
  });
  it('a state of charge is found again from its rest voltage', () => {
    for (const soc of [0.02, 0.1, 0.3, 0.9, 0.99])
      expect(socAtRest('NMC', openCircuitVoltage('NMC', soc))).toBeCloseTo(soc, 6);
    expect(socAtRest('NMC', 0)).toBeLessThan(1e-6);
    expect(socAtRest('NMC', 9)).toBeGreaterThan(1 - 1e-6);
  });
  it('what is left of a charge is told by its current once that falls', () => {
    const [step] = programOf(
      [
        {
          kind: 'charge',
          current: { in: 'A', value: 50 },
          limitV: null,
          taperIt: 0.05,
          maxHours: null,
          limitAh: null,
        },
      ],
      CONDITIONS,
    );
    const expected = { fromS: 0, toS: 10_000 };
    const left = (currentA: number, ah: number) =>
      remainingS(step!, expected, { sinceS: 0, ah, currentA, expectedAh: 100 });
    // 5.2 A is where it ends.
    expect(left(5.2, 99)).toBe(0);
    expect(left(10.4, 99)).toBeCloseTo(USUAL_TAU_S * Math.log(2), 6);
    expect(left(50, 50)).toBeCloseTo(3600 + USUAL_TAU_S * Math.log(50 / 5.2), 6);
    expect(left(0, 50)).toBe(10_000);
  });
});
