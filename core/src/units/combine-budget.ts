import { type BudgetKind, budgetKind } from './budget-kinds';
import type { BudgetComponent } from './figure';

/**
 * One line of a budget, named by its kind.
 * @param standardUncertainty u in the unit of the figure. @param basis where it comes from.
 */
export const budgetPart = (
  kind: BudgetKind,
  standardUncertainty: number,
  basis: string,
): BudgetComponent => ({ kind, name: budgetKind(kind).words, standardUncertainty, basis });

/** The same line with its uncertainty times a factor, and what is worth adding to its basis. */
export const scaledPart = (part: BudgetComponent, factor: number, more = ''): BudgetComponent => ({
  ...part,
  standardUncertainty: part.standardUncertainty * factor,
  basis: part.basis + more,
});

/**
 * Root sum of squares of standard uncertainties, the largest first so that order changes nothing.
 * @example rootSumOfSquares([3, 4]) // 5
 */
export const rootSumOfSquares = (uncertainties: readonly number[]): number =>
  Math.sqrt([...uncertainties].sort((a, b) => b - a).reduce((sum, u) => sum + u ** 2, 0));

/**
 * Root sum of squares of uncorrelated components (JCGM 100, 5.1.2).
 * @returns the combined standard uncertainty in the components' unit, and the
 *   components sorted largest first without those that are zero.
 * @example combineBudget([budgetPart('gain', 3, ''), budgetPart('offset', 4, '')]).standardUncertainty // 5
 */
export function combineBudget(components: BudgetComponent[]): {
  standardUncertainty: number;
  budget: BudgetComponent[];
} {
  const budget = components
    .filter((component) => component.standardUncertainty > 0)
    .sort((a, b) => b.standardUncertainty - a.standardUncertainty);
  return {
    standardUncertainty: rootSumOfSquares(budget.map((part) => part.standardUncertainty)),
    budget,
  };
}

/** Components of one kind and how much they weigh together. */
export interface KindWeight {
  kind: BudgetKind;
  standardUncertainty: number;
}

/**
 * A budget by kind, heaviest first: both ends of a window are one thing to improve.
 * @example weightsByKind([budgetPart('gain', 3, ''), budgetPart('gain', 4, '')])[0].standardUncertainty // 5
 */
export function weightsByKind(budget: readonly BudgetComponent[]): KindWeight[] {
  const byKind = new Map<BudgetKind, number[]>();
  for (const { kind, standardUncertainty } of budget) {
    const own = byKind.get(kind);
    if (own) own.push(standardUncertainty);
    else byKind.set(kind, [standardUncertainty]);
  }
  return [...byKind]
    .map(([kind, own]) => ({ kind, standardUncertainty: rootSumOfSquares(own) }))
    .sort((a, b) => b.standardUncertainty - a.standardUncertainty);
}
