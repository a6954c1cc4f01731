import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bestImprovement,
  BUDGET_KINDS,
  type BudgetKind,
  budgetPart,
  combineBudget,
  isKnown,
  rootSumOfSquares,
  scaledEstimate,
  weightsByKind,
} from '../src/units';
import {
  gradeCell,
  healthEstimate,
  SHIPPED_SCHEME,
  summariseItem,
  whatWouldSettle,
} from '../src/verdicts';

const kinds = Object.keys(BUDGET_KINDS) as BudgetKind[];
const limit = { value: 100, direction: 'atLeast' as const };

describe('kinds of component', () => {
  it.each(kinds)('%s has words of its own and says what would improve it', (kind) => {
    const { words, improve } = BUDGET_KINDS[kind];
    expect(kinds.filter((other) => BUDGET_KINDS[other].words === words)).toEqual([kind]);
    expect(improve.length).toBeGreaterThan(10);
    expect(improve).not.toMatch(/[.!]$/);
  });

  it('both ends of a window are one thing to improve', () => {
    const lower = budgetPart('cutoffVoltage', 0.3, 'lower end');
    const upper = { ...lower, name: 'cut-off voltage, upper end' };
    const figure = combineBudget([lower, upper, budgetPart('currentGain', 0.35, '')]);
    const best = bestImprovement(figure)!;
    expect(best.kind).toBe('cutoffVoltage');
    expect(best.share).toBeCloseTo(0.18 / (0.18 + 0.1225), 12);
    expect(best.expandedWithout).toBeCloseTo(0.7, 12);
    expect(best.advice).toContain('reference');
  });

  it('law: weights by kind keep the root sum of squares, whatever the order', () => {
    const part = fc.tuple(fc.constantFrom(...kinds), fc.double({ min: 0, max: 5, noNaN: true }));
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 12 }), (parts) => {
        const budget = parts.map(([kind, u]) => budgetPart(kind, u, ''));
        const { standardUncertainty } = combineBudget(budget);
        const weights = weightsByKind(budget);
        expect(new Set(weights.map(({ kind }) => kind)).size).toBe(weights.length);
        expect(rootSumOfSquares(weights.map((one) => one.standardUncertainty))).toBeCloseTo(
          standardUncertainty,
          9,
        );
        expect(combineBudget([...budget].reverse()).standardUncertainty).toBe(standardUncertainty);
      }),
    );
  });
});

describe('an uncertainty that is not known', () => {
  const unknown = { value: 120, standardUncertainty: null, bound: 'exact' as const };

  it('stays unknown when it is scaled', () => {
    expect(scaledEstimate(unknown, 0.5)).toEqual({ ...unknown, value: 60 });
    expect(healthEstimate(unknown, 100)).toEqual({ ...unknown, value: 1.2 });
    expect(isKnown(unknown)).toBe(false);
    expect(isKnown({ ...unknown, standardUncertainty: 0 })).toBe(true);
  });

  it('is waited for by a grade, however good the value', () => {
    const { grade, waitingFor } = gradeCell(
      SHIPPED_SCHEME,
      { stateOfHealth: healthEstimate(unknown, 100), inspection: 'none' },
      1,
    );
    expect(grade).not.toBe('First');
    expect(grade).not.toBe('Second');
    expect(waitingFor.join(' ')).toContain('no uncertainty known');
  });

  it('settles nothing, and is in no statistic of a lot', () => {
    expect(whatWouldSettle({ ...unknown, unit: 'Ah', budget: [] }, limit, 1)).toBeNull();
    const known = { ...unknown, standardUncertainty: 0.5 };
    const summary = summariseItem(
      [
        { ...known, cell: 'a', state: 'met' },
        { ...unknown, cell: 'b', state: 'waitingFor' },
      ],
      { low: 100, high: null },
    );
    expect(summary).toMatchObject({ n: 1, noUncertainty: 1, notComparable: 0, met: 1 });
  });
});
