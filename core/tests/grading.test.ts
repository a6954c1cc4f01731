import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  besideLot,
  type Condition,
  decidedGrade,
  FINDING_LEVELS,
  GRADE_FIGURE_NAMES,
  gradeCell,
  type GradeEvidence,
  gradeFigure,
  highestGrade,
  lotGrounds,
  needsLot,
  SHIPPED_SCHEME,
  unreachableGrades,
} from '../src/verdicts';
import { exactly, schemeOf } from '../testing/schemes';

/** A number of one figure, around the limits it is tried against. */
const numbers: fc.Arbitrary<GradeEvidence> = fc
  .tuple(
    ...GRADE_FIGURE_NAMES.map((name) => {
      const { from, to } = gradeFigure(name);
      return fc.double({ min: from, max: Math.min(to, from + 3), noNaN: true });
    }),
  )
  .map((values) =>
    Object.fromEntries(GRADE_FIGURE_NAMES.map((name, i) => [name, exactly(values[i]!)])),
  );

const whole = fc
  .tuple(
    numbers,
    fc.record({
      selfDischarge: fc.constantFrom('met' as const, 'notMet' as const),
      heat: fc.constantFrom('met' as const, 'notMet' as const),
      inspection: fc.constantFrom(...FINDING_LEVELS),
    }),
  )
  .map(([some, others]): GradeEvidence => ({ ...some, ...others }));

const condition: fc.Arbitrary<Condition> = fc.oneof(
  fc.constantFrom(...GRADE_FIGURE_NAMES).chain((kind) => {
    const { from, to } = gradeFigure(kind);
    return fc
      .double({ min: from, max: Math.min(to, from + 3), noNaN: true })
      .map((limit): Condition => ({ kind, limit }));
  }),
  fc.constant<Condition>({ kind: 'losesNoCharge' }),
  fc.constant<Condition>({ kind: 'staysCool' }),
  fc
    .constantFrom('none' as const, 'note' as const, 'serious' as const)
    .map((limit): Condition => ({ kind: 'worstFinding', limit })),
);

const schemes = fc
  .array(fc.uniqueArray(condition, { minLength: 1, maxLength: 4, selector: ({ kind }) => kind }), {
    minLength: 1,
    maxLength: 5,
  })
  .map((lists) =>
    schemeOf([
      ...lists.map((conditions, i) => ({ name: `G${i + 1}`, conditions })),
      { name: 'Rest', conditions: [] },
    ]),
  );

const WORSE = ['none', 'note', 'serious', 'stop'];

/** Whether a cell of which everything is known exactly meets a condition, said again in other words. */
function holds(one: Condition, cell: GradeEvidence): boolean {
  if (one.kind === 'losesNoCharge') return cell.selfDischarge === 'met';
  if (one.kind === 'staysCool') return cell.heat === 'met';
  if (one.kind === 'worstFinding')
    return WORSE.indexOf(cell.inspection!) <= WORSE.indexOf(one.limit);
  const { value } = cell[one.kind]!;
  return gradeFigure(one.kind).good === 'atLeast' ? value >= one.limit : value <= one.limit;
}

describe('any scheme', () => {
  it('gives the first grade whose every condition is met', () => {
    fc.assert(
      fc.property(schemes, whole, (tried, cell) => {
        const first = tried.grades.find(({ conditions }) =>
          conditions.every((one) => holds(one, cell)),
        )!;
        expect(gradeCell(tried, cell, 1).grade).toBe(first.name);
      }),
      { numRuns: 500 },
    );
  });

  it('gives no worse grade for a longer list of what is known well', () => {
    fc.assert(
      fc.property(schemes, whole, fc.constantFrom(...GRADE_FIGURE_NAMES), (tried, cell, name) => {
        const { [name]: _left, ...less } = cell;
        const [known, open] = [gradeCell(tried, cell, 1), gradeCell(tried, less, 1)];
        const at = (grade: string | null) =>
          grade === null ? Infinity : tried.grades.findIndex((one) => one.name === grade);
        // What is not known is no pass: it can only hold a cell back.
        expect(at(open.grade)).toBeGreaterThanOrEqual(at(known.grade));
        if (open.grade !== known.grade) expect(open.waitingFor.length).toBeGreaterThan(0);
      }),
      { numRuns: 500 },
    );
  });

  it('says for every grade that was missed what stopped it', () => {
    fc.assert(
      fc.property(schemes, whole, (tried, cell) => {
        const { grade, reasons } = gradeCell(tried, cell, 1);
        const at = tried.grades.findIndex(({ name }) => name === grade);
        if (at === 0) expect(reasons).toEqual([]);
        else expect(reasons.every((text) => text.startsWith(`Not G${at}: `))).toBe(true);
        if (at > 0) expect(reasons.length).toBeGreaterThan(0);
      }),
      { numRuns: 300 },
    );
  });

  it('knows which grades nobody reaches', () => {
    fc.assert(
      fc.property(schemes, whole, ({ grades, ...rest }, cell) => {
        const lost = new Set(unreachableGrades(grades).map((one) => one.grade));
        const { grade } = gradeCell({ ...rest, grades }, cell, 1);
        expect(lost.has(grade!)).toBe(false);
      }),
      { numRuns: 500 },
    );
    expect(unreachableGrades(SHIPPED_SCHEME.grades)).toEqual([]);
    const swapped = [SHIPPED_SCHEME.grades[2]!, SHIPPED_SCHEME.grades[1]!];
    expect(unreachableGrades(swapped)).toEqual([{ grade: 'Second', takenBy: 'Utility' }]);
  });
});

describe('doubt', () => {
  const near = { stateOfHealth: exactly(0.951, 0.002) };
  it('keeps a cell from the better grade, unless the scheme says that too close is enough', () => {
    expect(gradeCell(SHIPPED_SCHEME, near, 1).grade).toBe('Utility');
    expect(gradeCell({ ...SHIPPED_SCHEME, tooCloseIsEnough: true }, near, 1).grade).toBe('Second');
    const below = { stateOfHealth: exactly(0.945, 0.002) };
    expect(gradeCell({ ...SHIPPED_SCHEME, tooCloseIsEnough: true }, below, 1).grade).toBe(
      'Utility',
    );
  });

  it('of a bound never calls a cell what is left over, and gives only what the bound assures', () => {
    const atLeast = (value: number) =>
      gradeCell(
        SHIPPED_SCHEME,
        {
          stateOfHealth: { value, standardUncertainty: 0.003, bound: 'atLeast' },
          inspection: 'none',
        },
        1,
      );
    const open = atLeast(0.395);
    expect(open.grade).toBeNull();
    expect(open.waitingFor).toContain('a discharge down to the cut-off without a gap');
    expect(atLeast(0.88)).toMatchObject({ grade: 'Utility' });
    expect(atLeast(0.88).reasons[0]).toContain('at least 88.0');
    // A value that is known decides.
    const known = { value: 0.395, standardUncertainty: 0.003, bound: 'exact' as const };
    expect(gradeCell(SHIPPED_SCHEME, { stateOfHealth: known, inspection: 'none' }, 1).grade).toBe(
      'Recycle',
    );
  });
  it('leaves a cell waiting rather than calling it what is left over', () => {
    const byAc = schemeOf([
      { name: 'Good', conditions: [{ kind: 'acResistanceShare', limit: 1.2 }] },
      { name: 'Rest', conditions: [] },
    ]);
    expect(gradeCell(byAc, { stateOfHealth: exactly(1) }, 1)).toEqual({
      grade: null,
      reasons: [],
      waitingFor: ['an AC resistance reading'],
    });
    expect(gradeCell(byAc, { acResistanceShare: exactly(1.3) }, 1).grade).toBe('Rest');
  });

  it('writes reasons in the unit of the figure', () => {
    const of = (kind: (typeof GRADE_FIGURE_NAMES)[number], limit: number, value: number, u = 0) =>
      gradeCell(
        schemeOf([
          { name: 'Good', conditions: [{ kind, limit }] },
          { name: 'Rest', conditions: [] },
        ]),
        { [kind]: exactly(value, u) },
        1,
      ).reasons;
    expect(of('ageMonths', 24, 26.5, 0.25)).toEqual([
      'Not Good: age on arrival 26.5 ± 0.5 months: 2.5 months above 24.0 months.',
    ]);
    expect(of('deepestV', 2.5, 2.1)).toEqual([
      'Not Good: lowest voltage ever read 2.10 ± 0.00 V: 0.40 V below 2.50 V.',
    ]);
    expect(of('recoveries', 0, 2)).toEqual([
      'Not Good: recoveries from deep discharge 2: 2 above 0.',
    ]);
    expect(of('earlyRise', 3.5, 5.25)).toEqual([
      'Not Good: early rise on charge against the lot 5.3 ± 0.0: 1.8 above 3.5.',
    ]);
    expect(of('massOff', 0.03, 0.05, 0.001)).toEqual([
      'Not Good: mass off the claim 5.0 ± 0.2 %: 2.0 % above 3.0 %.',
    ]);
  });
});

describe('a grade by decision', () => {
  const decision = { grade: 'First', who: 'A. Lead', day: '2026-11-28', reason: 'Seen twice.' };
  const second = gradeCell(SHIPPED_SCHEME, { stateOfHealth: exactly(0.97, 0.002) }, 1);

  it('is the person’s, with what the scheme says beside it', () => {
    expect(decidedGrade(SHIPPED_SCHEME, second, decision, undefined)).toEqual({
      grade: 'First',
      reasons: [
        'First by decision of A. Lead on 2026-11-28: Seen twice.',
        'By the scheme it would be Second.',
      ],
      waitingFor: [],
    });
    const waiting = gradeCell(SHIPPED_SCHEME, {}, 1);
    expect(decidedGrade(SHIPPED_SCHEME, waiting, decision, undefined).reasons[1]).toContain(
      'By the scheme it waits for',
    );
  });

  it('lifts no block, and counts for no grade that is no more', () => {
    const marks = { deepestV: 0.4 };
    const deep = gradeCell(SHIPPED_SCHEME, { stateOfHealth: exactly(1.02), marks }, 1);
    expect(deep.grade).toBe('Spares');
    const kept = decidedGrade(SHIPPED_SCHEME, deep, decision, marks);
    expect(kept.grade).toBe('Spares');
    expect(kept.reasons.at(-1)).toContain('no person lifts this block');
    const gone = decidedGrade(SHIPPED_SCHEME, second, { ...decision, grade: 'Gold' }, undefined);
    expect(gone).toMatchObject({ grade: 'Second' });
    expect(gone.reasons.at(-1)).toContain('no such grade now');
    // A worse grade than the block allows is a person’s to give.
    expect(decidedGrade(SHIPPED_SCHEME, deep, { ...decision, grade: 'Recycle' }, marks).grade).toBe(
      'Recycle',
    );
    expect(highestGrade(SHIPPED_SCHEME, { dangerous: 'leaking or wet' })).toBe('Recycle');
    expect(highestGrade(SHIPPED_SCHEME, undefined)).toBe('First');
  });
});

describe('beside the lot', () => {
  const tails = (n: number) =>
    new Map(
      Array.from({ length: n }, (_, i): [string, number[]] => [
        String(i),
        Array.from({ length: 10 }, (_, k) => 3.4 + 0.01 * k + 0.0004 * ((i * 7) % 5)),
      ]),
    );
  it('a resistance is a share of the lot’s median, from five cells on', () => {
    const grounds = lotGrounds([4, 5, 6, 7, 20], [1, 2, 3, 4], new Map());
    expect(grounds).toEqual({ acMohm: 6, dcMohm: null, rises: {} });
    const beside = besideLot(
      { own: { acMohm: exactly(9, 0.06), dcMohm: exactly(2) } },
      grounds,
      '1',
    );
    expect(beside.acResistanceOfLot).toEqual({
      value: 1.5,
      standardUncertainty: expect.closeTo(0.01, 12),
      bound: 'exact',
    });
    expect(beside.dcResistanceOfLot).toBeUndefined();
    expect('own' in beside).toBe(false);
  });
  it('a charge that rises early is told by robust z', () => {
    const odd = tails(12);
    odd.set(
      'odd',
      Array.from({ length: 10 }, (_, k) => 3.43 + 0.01 * k),
    );
    const { rises } = lotGrounds([], [], odd);
    expect(rises.odd).toBeGreaterThan(3.5);
    expect(Math.abs(rises['3']!)).toBeLessThan(3.5);
    expect(besideLot({}, { acMohm: null, dcMohm: null, rises }, 'odd').earlyRise?.value).toBe(
      rises.odd,
    );
    expect(lotGrounds([], [], tails(4)).rises).toEqual({});
  });
  it('is asked for only by schemes with such a condition', () => {
    expect(needsLot(SHIPPED_SCHEME)).toBe(false);
    expect(
      needsLot(
        schemeOf([
          { name: 'A', conditions: [{ kind: 'acResistanceOfLot', limit: 1.2 }] },
          { name: 'B', conditions: [] },
        ]),
      ),
    ).toBe(true);
  });
});
