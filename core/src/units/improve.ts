import { type BudgetKind, budgetKind } from './budget-kinds';
import { weightsByKind } from './combine-budget';
import { COVERAGE_FACTOR, type Figure } from './figure';

/** What would narrow a figure most, and how far. */
export interface Improvement {
  /** Kind of component that weighs most. */
  kind: BudgetKind;
  /** Its words. */
  name: string;
  /** Share of the variance it makes, 0 to 1. */
  share: number;
  /** Expanded uncertainty that would be left without it (k = 2), in the figure’s unit. */
  expandedWithout: number;
  advice: string;
}

/**
 * The single improvement that would help most; null for a figure without a budget.
 * @example bestImprovement({ standardUncertainty: 5, budget: [budgetPart('gain', 4, ''), budgetPart('offset', 3, '')] }).expandedWithout // 6
 */
export function bestImprovement(
  figure: Pick<Figure, 'budget' | 'standardUncertainty'>,
): Improvement | null {
  const [worst] = weightsByKind(figure.budget);
  const u = figure.standardUncertainty;
  if (!worst || u === null || !(u > 0)) return null;
  const share = Math.min(1, (worst.standardUncertainty / u) ** 2);
  return {
    kind: worst.kind,
    name: budgetKind(worst.kind).words,
    share,
    expandedWithout: COVERAGE_FACTOR * u * Math.sqrt(1 - share),
    advice: budgetKind(worst.kind).improve,
  };
}
