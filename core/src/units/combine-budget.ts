import type { BudgetComponent } from './figure';

/**
 * Root sum of squares of uncorrelated components (JCGM 100, 5.1.2).
 * @returns the combined standard uncertainty in the components' unit, and the
 *   components sorted largest first without those that are zero.
 */
export function combineBudget(components: BudgetComponent[]): {
  standardUncertainty: number;
  budget: BudgetComponent[];
} {
  const budget = components
    .filter((component) => component.standardUncertainty > 0)
    .sort((a, b) => b.standardUncertainty - a.standardUncertainty);
  const sumOfSquares = budget.reduce((sum, c) => sum + c.standardUncertainty ** 2, 0);
  return { standardUncertainty: Math.sqrt(sumOfSquares), budget };
}
