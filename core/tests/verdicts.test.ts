import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  gradeCell,
  type GradeEvidence,
  judge,
  lotSentence,
  SHIPPED_SCHEME,
  stateOfHealth,
  summariseItem,
  typedFigure,
} from '../src/verdicts';
import type { Bound } from '../src/units';

const L = { value: 100, direction: 'atLeast' } as const;
const at = (value: number, U = 0.8) => ({
  value,
  standardUncertainty: U / 2,
  bound: 'exact' as Bound,
});

describe('one figure against one limit', () => {
  it.each([
    [100.9, 'met', null],
    [100.5, 'tooClose', 0.894],
    [99.3, 'tooClose', 0.04],
    [99.1, 'notMet', null],
  ])('worked: %d ± 0.8 against 100', (value, verdict, probability) => {
    const result = judge(at(value), L, 1);
    expect(result.verdict).toBe(verdict);
    if (probability !== null) expect(result.probability).toBeCloseTo(probability, 3);
  });
  it('mirrors for an upper limit', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 90, max: 110, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        (x, U, g) => {
          const low = judge(at(x, U), L, g);
          const high = judge(at(200 - x, U), { value: 100, direction: 'atMost' }, g);
          expect(high.verdict).toBe(low.verdict);
          expect(high.probability).toBeCloseTo(low.probability!, 9);
        },
      ),
    );
  });
  const rank = { notMet: 0, tooClose: 1, met: 2 };
  it('is monotone in x, and more uncertainty or guard only moves towards too close', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(
        number(95, 105),
        number(0, 3),
        number(0, 3),
        number(0, 2),
        number(0, 2),
        (x, step, U, more, g) => {
          const base = judge(at(x, U), L, g).verdict;
          expect(rank[judge(at(x + step, U), L, g).verdict]).toBeGreaterThanOrEqual(rank[base]);
          for (const wider of [
            judge(at(x, U + more), L, g).verdict,
            judge(at(x, U), L, g + more).verdict,
          ]) {
            expect(wider === base || wider === 'tooClose').toBe(true);
          }
        },
      ),
    );
  });
  it('a lower bound is met or too close, never not met', () => {
    expect(judge({ ...at(101), bound: 'atLeast' }, L, 1).verdict).toBe('met');
    expect(judge({ ...at(50), bound: 'atLeast' }, L, 1).verdict).toBe('tooClose');
    expect(
      judge({ ...at(50), bound: 'atLeast' }, { value: 100, direction: 'atMost' }, 1).verdict,
    ).toBe('tooClose');
    expect(
      judge({ ...at(150), bound: 'atLeast' }, { value: 100, direction: 'atMost' }, 1).verdict,
    ).toBe('notMet');
  });
});

describe('grades', () => {
  const figure = (value: number, u = 0.002) => ({
    value,
    standardUncertainty: u,
    bound: 'exact' as const,
  });
  const whole: GradeEvidence = {
    stateOfHealth: figure(1.02),
    acResistanceShare: figure(0.9),
    selfDischarge: 'met',
    inspection: 'note',
  };
  const grade = (evidence: GradeEvidence) => gradeCell(SHIPPED_SCHEME, evidence, 1);
  it('First when every condition is met', () =>
    expect(grade(whole)).toEqual({ grade: 'First', reasons: [], waitingFor: [] }));
  it('says what stopped the next better one, and by how much', () => {
    expect(grade({ ...whole, stateOfHealth: figure(0.97) })).toMatchObject({
      grade: 'Second',
      reasons: ['Not First: SoH 97.0 ± 0.4 %: 3.0 % below 100.0 %.'],
    });
    expect(grade({ ...whole, stateOfHealth: figure(0.5) })).toMatchObject({ grade: 'Recycle' });
  });
  it('too close counts as not met for the better grade', () => {
    expect(grade({ ...whole, stateOfHealth: figure(1.001) }).reasons[0]).toContain(
      'too close to 100.0 %',
    );
  });
  it('a missing figure is not a pass', () => {
    expect(grade({})).toMatchObject({
      grade: null,
      reasons: [],
      waitingFor: expect.arrayContaining(['a capacity test', 'the inspection']),
    });
    const partly = grade({ stateOfHealth: figure(1.02), acResistanceShare: figure(0.9) });
    expect(partly.grade).toBe('Second');
    expect(partly.waitingFor).toEqual(['the self-discharge check', 'the inspection']);
    expect(partly.reasons).toEqual([
      'Not First yet: waiting for the self-discharge check and the inspection.',
    ]);
  });
  it('a lower bound counts with what it proves', () => {
    expect(grade({ stateOfHealth: { ...figure(0.845), bound: 'atLeast' } }).grade).toBe('Utility');
  });
});

describe('the lot', () => {
  const results = Array.from({ length: 20 }, (_, i) => ({
    cell: `B-${i}`,
    value: i < 2 ? 5.7 : 6.1 + 0.001 * i,
    standardUncertainty: 0.02,
    bound: 'exact' as const,
    state: i < 2 ? ('notMet' as const) : ('met' as const),
  }));
  it('counts, spreads and states the share short', () => {
    const summary = summariseItem(
      [...results, { ...results[0]!, cell: 'cold', state: 'notComparable' }],
      { low: 6, high: null },
    );
    expect(summary).toMatchObject({
      n: 20,
      notComparable: 1,
      met: 18,
      notMet: 2,
      tooClose: 0,
      minimum: 5.7,
    });
    expect(summary.shareShort).toMatchObject({
      share: 0.1,
      low: expect.closeTo(0.0123, 4),
      high: expect.closeTo(0.317, 4),
    });
    expect(summary.bins.reduce((sum, bin) => sum + bin.count, 0)).toBe(20);
    expect(lotSentence(20, summary, null, true)).toBe(
      'This lot does not hold what was claimed for every cell. Capacity: 2 of 20 miss it, 18 meet it.',
    );
  });
  it('does not hold what was claimed while any other item is not true', () => {
    const good = summariseItem(
      results.map((one) => ({ ...one, value: 6.2, state: 'met' as const })),
      { low: 6, high: null },
    );
    expect(lotSentence(20, good, null, true)).toBe(
      'Every cell holds what was claimed. Capacity: none of 20 misses it, 20 meet it.',
    );
    expect(
      lotSentence(20, good, null, true, [
        { words: 'grade', cells: 20 },
        { words: 'size', cells: 3 },
        { words: 'quantity', cells: null },
      ]),
    ).toBe(
      'This lot does not hold what was claimed for every cell. Capacity: none of 20 misses it, 20 meet it; grade is not as claimed for all 20; size is not as claimed for 3; quantity is not as claimed.',
    );
    // Weighed alone it says so, too; nothing else is measured.
    expect(lotSentence(20, null, null, null, [{ words: 'mass', cells: null }])).toBe(
      'This lot does not hold what was claimed for every cell. Mass is not as claimed.',
    );
  });
  it('is open while nothing is measured, and says when a claim cannot be true', () => {
    expect(lotSentence(20, null, null, null)).toMatch(/Nothing of the 20 cells is measured/);
    expect(lotSentence(20, null, null, false)).toMatch(/cannot be what was claimed/);
  });
});

describe('derived figures', () => {
  const typed = typedFigure('capacity', {
    value: 104,
    gainPct: 0.5,
    offset: 0,
    decimals: 2,
    source: 'test',
  });
  it('a typed capacity has its budget', () => {
    expect(typed.standardUncertainty).toBeCloseTo(Math.hypot(0.3002, 0.005 / Math.sqrt(3)), 4);
  });
  it('state of health keeps the relative uncertainty', () => {
    const soh = stateOfHealth(typed, 104);
    expect(soh.value).toBe(1);
    expect(soh.standardUncertainty! / soh.value).toBeCloseTo(
      typed.standardUncertainty! / typed.value,
      12,
    );
    expect(() => stateOfHealth(typed, 0)).toThrow(/above 0/);
  });
});
