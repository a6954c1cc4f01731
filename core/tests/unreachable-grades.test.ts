import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  besideLot,
  type Condition,
  FINDING_LEVELS,
  type Grade,
  GRADE_FIGURE_NAMES,
  gradeCell,
  type GradeEvidence,
  gradeFigure,
  type KeptEvidence,
  type LotGrounds,
  unreachableGrades,
} from '../src/verdicts';
import { exactly, schemeOf } from '../testing/schemes';

/** Limits on a grid, so that grades often stand at the same ones. */
const steps = GRADE_FIGURE_NAMES.map((kind) => {
  const { from, to } = gradeFigure(kind);
  return { kind, at: [0.2, 0.4, 0.6].map((share) => from + share * (to - from)) };
});
const condition: fc.Arbitrary<Condition> = fc.oneof(
  fc
    .constantFrom(...steps)
    .chain(({ kind, at }) => fc.constantFrom(...at).map((limit): Condition => ({ kind, limit }))),
  fc.constantFrom<Condition>({ kind: 'losesNoCharge' }, { kind: 'staysCool' }),
  fc
    .constantFrom(...FINDING_LEVELS)
    .filter((level) => level !== 'stop')
    .map((limit): Condition => ({ kind: 'worstFinding', limit })),
);
const grades = fc
  .array(fc.array(condition, { minLength: 1, maxLength: 3 }), { minLength: 2, maxLength: 4 })
  .map((all) => [
    ...all.map((conditions, i): Grade => ({ name: `G${i}`, conditions })),
    { name: 'Rest', conditions: [] },
  ]);

/** A cell that meets or misses each limit of the grid by far. */
const cell: fc.Arbitrary<GradeEvidence> = fc
  .tuple(
    ...steps.map(({ at }) => {
      const gap = (at[1]! - at[0]!) / 2;
      return fc.constantFrom(at[0]! - gap, ...at.map((limit) => limit + gap));
    }),
  )
  .chain((values) =>
    fc
      .record({
        selfDischarge: fc.constantFrom('met' as const, 'notMet' as const),
        heat: fc.constantFrom('met' as const, 'notMet' as const),
        inspection: fc.constantFrom(...FINDING_LEVELS),
      })
      .map((others) => ({
        ...Object.fromEntries(steps.map(({ kind }, i) => [kind, exactly(values[i]!)])),
        ...others,
      })),
  );

describe('grades nobody reaches', () => {
  it('are reached by no cell there is', () => {
    fc.assert(
      fc.property(grades, fc.array(cell, { minLength: 20, maxLength: 20 }), (some, cells) => {
        const named = new Set(unreachableGrades(some).map(({ grade }) => grade));
        for (const one of cells)
          expect(named).not.toContain(gradeCell(schemeOf(some), one, 1).grade);
      }),
      { seed: 15, numRuns: 300 },
    );
  });

  it('of one and the same figure are all found', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...steps),
        fc.nat(2),
        fc.nat(2),
        ({ kind, at }, first, second) => {
          const some: Grade[] = [
            { name: 'A', conditions: [{ kind, limit: at[first]! }] },
            { name: 'B', conditions: [{ kind, limit: at[second]! }] },
          ];
          const isHarder = gradeFigure(kind).good === 'atLeast' ? second >= first : second <= first;
          expect(unreachableGrades(some)).toEqual(isHarder ? [{ grade: 'B', takenBy: 'A' }] : []);
        },
      ),
      { seed: 15 },
    );
  });

  it('of findings go by how bad the worst may be', () => {
    const levels = FINDING_LEVELS.filter((level) => level !== 'stop');
    levels.forEach((first, i) =>
      levels.forEach((second, k) => {
        const some: Grade[] = [
          { name: 'A', conditions: [{ kind: 'worstFinding', limit: first }] },
          { name: 'B', conditions: [{ kind: 'worstFinding', limit: second }] },
        ];
        // Who is allowed less is allowed more, too.
        expect(unreachableGrades(some), `${first}, then ${second}`).toEqual(
          k <= i ? [{ grade: 'B', takenBy: 'A' }] : [],
        );
      }),
    );
  });

  it('are no grades with a condition of another kind', () => {
    const others: Condition[] = [
      { kind: 'worstFinding', limit: 'note' },
      { kind: 'losesNoCharge' },
      { kind: 'staysCool' },
      { kind: 'stateOfHealth', limit: 0.9 },
    ];
    for (const a of others)
      for (const b of others) {
        const found = unreachableGrades([
          { name: 'A', conditions: [a] },
          { name: 'B', conditions: [b] },
        ]);
        expect(found).toHaveLength(a.kind === b.kind ? 1 : 0);
      }
  });
});

describe('a cell beside its lot', () => {
  const own: KeptEvidence['own'] = { acMohm: exactly(0.6, 0.006), dcMohm: exactly(1.5, 0.03) };
  const grounds: LotGrounds = { acMohm: 0.5, dcMohm: 1.2, rises: { '7': 2.4 } };

  it('has its resistances as shares of the medians, uncertainty with them', () => {
    const beside = besideLot({ own, stateOfHealth: exactly(0.97) }, grounds, '7');
    expect(beside.acResistanceOfLot!.value).toBeCloseTo(1.2, 12);
    expect(beside.acResistanceOfLot!.standardUncertainty).toBeCloseTo(0.012, 12);
    expect(beside.dcResistanceOfLot!.value).toBeCloseTo(1.25, 12);
    expect(beside.dcResistanceOfLot!.standardUncertainty).toBeCloseTo(0.025, 12);
    expect(beside.earlyRise).toEqual(exactly(2.4));
    expect(beside.stateOfHealth).toEqual(exactly(0.97));
    expect(beside).not.toHaveProperty('own');
  });

  it('has none where the cell or the lot has no figure for it', () => {
    expect(besideLot({ own }, null, '7')).toEqual({});
    expect(besideLot({ own: { acMohm: exactly(0.6) } }, grounds, '8')).toEqual({
      acResistanceOfLot: expect.objectContaining({ value: expect.closeTo(1.2, 9) }),
    });
    expect(besideLot({ own }, { acMohm: null, dcMohm: null, rises: {} }, '7')).toEqual({});
    expect(besideLot({}, grounds, '8')).toEqual({});
  });
});
