import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ClaimConditions, massFromBox } from '../src/arrivals';
import {
  assessCell,
  type CapacityEvidence,
  judge,
  judgeWithin,
  thicknessOf,
} from '../src/verdicts';
import { assess, capacity, claimed, evidence, exact, measured } from '../testing/assessed';

describe('a range', () => {
  it('is the one limit where the other end is open', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 90, max: 110, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        fc.constantFrom('exact' as const, 'atLeast' as const, 'atMost' as const),
        (value, u, guard, bound) => {
          const result = { value, standardUncertainty: u, bound };
          expect(judgeWithin(result, { low: 100, high: null }, guard)).toEqual(
            judge(result, { value: 100, direction: 'atLeast' }, guard),
          );
          const within = judgeWithin(result, { low: 98, high: 103 }, guard);
          const sides = [
            judge(result, { value: 98, direction: 'atLeast' }, guard).verdict,
            judge(result, { value: 103, direction: 'atMost' }, guard).verdict,
          ];
          if (within.verdict === 'met') expect(sides).toEqual(['met', 'met']);
          if (within.verdict === 'notMet') expect(sides).toContain('notMet');
          // A bound has no probability of conformity.
          if (bound !== 'exact') expect(within.probability).toBeNull();
          else {
            expect(within.probability!).toBeGreaterThanOrEqual(0);
            expect(within.probability!).toBeLessThanOrEqual(1);
          }
        },
      ),
    );
  });
  it('cannot be met by a value known from one side only', () => {
    const open = { value: 100, standardUncertainty: 0.1, bound: 'atLeast' as const };
    expect(judgeWithin(open, { low: 98, high: 103 }, 1).verdict).toBe('tooClose');
    expect(judgeWithin({ ...open, value: 104 }, { low: 98, high: 103 }, 1).verdict).toBe('notMet');
  });
  it('in the wrong order is refused', () => {
    expect(() => judgeWithin(exact(1, 0.1) as never, { low: 2, high: 1 }, 1)).toThrow(/lower/);
  });
});

describe('capacity', () => {
  const least = claimed('capacity', 104);
  it.each([
    ['met', [capacity(106)]],
    ['notMet', [capacity(103)]],
    ['tooClose', [capacity(104.2)]],
  ] as const)('is %s by the counting result', (state, capacities) => {
    expect(assess(least, { capacities })).toMatchObject({
      state,
      limits: { low: 104, high: null },
    });
  });
  it('waits for a test, and for an uncertainty', () => {
    expect(assess(least, {})).toMatchObject({ state: 'waitingFor', what: ['a capacity test'] });
    const unknown = capacity(120, { atClaim: exact(120, null), raw: exact(120, null) });
    expect(assess(least, { capacities: [unknown] })).toMatchObject({
      state: 'waitingFor',
      what: ['a capacity test: no uncertainty known'],
    });
  });
  it('is held where all results are, with why, and shows the newest', () => {
    const holds = [{ rule: 'twoCounts', text: 'two counts differ' }];
    const item = assess(least, {
      capacities: [
        capacity(186, { order: 4, held: true, holds }),
        capacity(99, { order: 2, held: true, holds: [{ rule: 'byHand', text: 'spoilt' }] }),
      ],
    });
    expect(item).toMatchObject({ state: 'held', why: ['two counts differ'] });
    expect(item.estimate!.value).toBe(186);
  });
  it('that cannot be carried to the claim says what differs', () => {
    const item = assess(least, {
      capacities: [
        capacity(106, {
          atClaim: null,
          comparable: false,
          differences: ['at 2 It, claimed at 0.2'],
        }),
      ],
    });
    expect(item).toMatchObject({
      state: 'notComparable',
      differences: ['at 2 It, claimed at 0.2'],
    });
  });
  it('stated as typical is described; the lot is judged', () => {
    expect(
      assess(claimed('capacity', 104, { statedAs: 'typical' }), { capacities: [capacity(99)] }),
    ).toMatchObject({ state: 'described' });
  });
  it('that is not claimed is told without a verdict, unless it is held', () => {
    const items = (capacities: CapacityEvidence[]) =>
      assessCell(evidence({ capacities }), [], 1).items.find(({ item }) => item === 'capacity')!;
    expect(items([capacity(99)])).toMatchObject({ state: 'notClaimed', estimate: { value: 99 } });
    expect(
      items([capacity(99, { held: true, holds: [{ rule: 'byHand', text: 'x' }] })]).state,
    ).toBe('held');
  });
});

describe('resistances', () => {
  it('highest, range and typical read differently', () => {
    const ac = (statedAs: ClaimConditions['statedAs'], value: number) =>
      assess(claimed('acResistance', 0.5, { statedAs, low: 0.3 }), {
        acResistanceMohm: measured(value, 0.005),
      }).state;
    expect([ac('maximum', 0.2), ac('range', 0.2), ac('typical', 0.9)]).toEqual([
      'met',
      'notMet',
      'described',
    ]);
    expect([ac('range', 0.4), ac('maximum', 0.6)]).toEqual(['met', 'notMet']);
  });
  it('DC ones are compared at the same step and time only', () => {
    const dc = (conditions: ClaimConditions) =>
      assess(claimed('dcResistance', 1.2, conditions), {
        dcResistancesMohm: [
          { ...measured(1.0, 0.01), afterS: 10, stepIt: [0, 0.2], figureId: 1 },
          { ...measured(1.5, 0.01), afterS: 1, stepIt: [0.2, 1], figureId: 2 },
        ],
      });
    expect(dc({ pulseS: 10 })).toMatchObject({ state: 'met', figureId: 1 });
    expect(dc({ pulseS: 1, stepIt: '0,2 / 1' })).toMatchObject({ state: 'notMet', figureId: 2 });
    const other = dc({ pulseS: 10, stepIt: '0.2 / 1' });
    expect(other.state).toBe('notComparable');
    expect(other.differences.join(' ')).toContain('claimed after 10 s');
    expect(dc({})).toMatchObject({ state: 'notComparable' });
    expect(dc({}).differences.join(' ')).toContain('after how long');
  });
});

describe('mass and size', () => {
  it('within the stated tolerance, or the house’s 3 %', () => {
    const mass = (value: number, tolerancePct?: number) =>
      assess(claimed('mass', 2000, tolerancePct === undefined ? {} : { tolerancePct }), {
        massG: measured(value, 0.3),
      }).state;
    expect([mass(1945), mass(1935), mass(2059), mass(2062)]).toEqual([
      'met',
      'notMet',
      'met',
      'notMet',
    ]);
    expect([mass(1960, 1), mass(1981, 1)]).toEqual(['notMet', 'met']);
    expect(assess(claimed('mass', 2000), {})).toMatchObject({ what: ['a weighing'] });
  });
  it('of a box is net over count', () => {
    const mass = massFromBox({
      grossG: 9900,
      tareG: 300,
      netG: null,
      scaleToleranceG: 5,
      cells: 96,
    })!;
    expect(mass.value).toBe(100);
    expect(mass.standardUncertainty).toBeCloseTo((5 * Math.SQRT2) / Math.sqrt(3) / 96, 12);
    expect(massFromBox({ grossG: 1, tareG: null, netG: null, scaleToleranceG: 5, cells: 9 })).toBe(
      null,
    );
  });
  it('thickness is the smallest number of a size', () => {
    expect(thicknessOf('130 mm × 36,5 mm × 195 mm')).toBe(36.5);
    expect(thicknessOf('26650')).toBeNull();
    for (const [text, mm] of [
      ['148 x 92 x 27 mm ± 0.5', 27],
      ['148 ± 0.5 mm × 92 ± 0.5 mm × 27 ± 0.3 mm, studs M6 × 12', 27],
      ['14.8 x 9.2 x 2.7 cm', 27],
      ['5.827 x 3.622 x 1.063 in', 27],
      ['32.2 × 70.5 mm', 32.2],
      ['diameter 26.5 mm, height 70.5 mm', 26.5],
      ['Ø 18,4 mm', 18.4],
      ['thickness: 2.7 cm, terminals 8 mm', 27],
      ['27 mm thick', 27],
      ['L148 × W92 × T27 mm', 27],
      ['terminals M6', null],
    ] as const)
      expect([text, thicknessOf(text)]).toEqual([text, mm === null ? null : expect.closeTo(mm, 1)]);
    const size = (text: string, value: number) =>
      assess(claimed('size', text), { thicknessMm: measured(value, 0.02) });
    expect(size('130 × 36 × 195 mm', 36.9).state).toBe('met');
    expect(size('130 × 36 × 195 mm', 37.6).state).toBe('notMet');
    expect(size('as drawn', 36)).toMatchObject({ state: 'notComparable' });
  });
});

describe('production, grade and condition', () => {
  it.each([
    ['met', '2026-03-10', '2026-03-10'],
    ['notMet', '2026-01-01', '2026-02-28'],
    ['tooClose', '2026-02-01', '2026-03-31'],
  ] as const)('produced not before is %s for a code of %s to %s', (state, from, until) => {
    expect(
      assess(claimed('producedAfter', '2026-03-01'), { produced: { from, until } }).state,
    ).toBe(state);
  });
  it('an unreadable code waits', () => {
    expect(assess(claimed('producedAfter', '2026-03-01'), {}).state).toBe('waitingFor');
  });
  it('is contradicted by what was found, and never met', () => {
    const grade = (findings: string[], isInspected = true) =>
      assess(claimed('grade', 'A'), { findings, isInspected });
    expect(grade(['weld', 'ownersMarks', 'scratches'])).toMatchObject({
      state: 'contradicted',
      by: ['weld remains', 'marks of a previous owner'],
    });
    expect(grade(['scratches']).state).toBe('nothingAgainst');
    expect(grade([], false)).toMatchObject({ state: 'waitingFor', what: ['the inspection'] });
    expect(grade(['copiedCode'], false).state).toBe('contradicted');
  });
  it('sold as new and older than a year is contradicted, on the latest day its code can mean', () => {
    const condition = (text: string, until: string) =>
      assess(claimed('condition', text), { produced: { from: '2024-01-01', until } });
    expect(condition('new', '2025-07-31')).toMatchObject({
      state: 'contradicted',
      by: ['its age: 13 months on arrival, at most 12 for new'],
    });
    expect(condition('new', '2025-08-31').state).toBe('nothingAgainst');
    expect(condition('used, from a tram', '2020-07-31').state).toBe('nothingAgainst');
  });
});
