import {
  bestImprovement,
  type BudgetComponent,
  budgetKind,
  COVERAGE_FACTOR,
  type Figure,
  isKnown,
  rootSumOfSquares,
  weightsByKind,
} from '../units';
import { judge, type Limit } from './judge';

/** What would turn "too close to call" into a verdict. */
export interface Settling {
  /** Distance to the limit, in the figure’s unit, positive on the conforming side. */
  margin: number;
  /** Expanded uncertainty that would be small enough; null where none is. */
  neededExpanded: number | null;
  /** One sentence each, the most useful first. */
  ways: string[];
}

const rootOf = (parts: readonly { standardUncertainty: number }[]) =>
  rootSumOfSquares(parts.map((part) => part.standardUncertainty));

const digits = (value: number) => Number(value.toPrecision(2)).toString();

/**
 * Says what would settle a result that is too close to its limit (handbook, chapter 5): a
 * narrower component, another run where that is enough, or running to the cut-off. Null for a
 * verdict that has fallen, and where no uncertainty is known.
 * @param guardFactor g of the decision rule; with 0 nothing is ever too close but open bounds.
 * @example whatWouldSettle({ value: 100.5, unit: 'Ah', standardUncertainty: 0.5, bound: 'exact', budget: [budgetPart('gain', 0.5, '')] }, { value: 100, direction: 'atLeast' }, 1).neededExpanded // 0.5
 */
export function whatWouldSettle(
  figure: Pick<Figure, 'value' | 'unit' | 'bound' | 'standardUncertainty' | 'budget'>,
  limit: Limit,
  guardFactor: number,
): Settling | null {
  if (!isKnown(figure)) return null;
  const u = figure.standardUncertainty;
  const { verdict, margin } = judge(figure, limit, guardFactor);
  if (verdict !== 'tooClose') return null;
  const ways: string[] = [];
  const openSide =
    (figure.bound === 'atLeast' && margin < 0) || (figure.bound === 'atMost' && margin > 0);
  if (figure.bound === 'atLeast')
    ways.push('Run it down to the cut-off: this run stopped before, so it only says at least.');
  if (figure.bound === 'atMost')
    ways.push('Read it on the terminals: over the joint it only says at most.');
  if (openSide || !(guardFactor > 0)) return { margin, neededExpanded: null, ways };
  const neededExpanded = Math.abs(margin) / guardFactor;
  const have = COVERAGE_FACTOR * u;
  const name = `${digits(neededExpanded)} ${figure.unit === '1' ? '' : figure.unit}`.trim();
  if (neededExpanded < 0.1 * have) {
    ways.push(
      `It lies on the limit: U would have to fall from ${digits(have)} to ${name}. No ordinary improvement settles that; treat it as not shown.`,
    );
    return { margin, neededExpanded, ways };
  }
  const best = bestImprovement(figure);
  const without = best ? best.expandedWithout : have;
  const goal = `U has to fall from ${digits(have)} to ${name} or less`;
  if (best && without <= neededExpanded)
    ways.push(
      `${sentence(best.advice)}: ${goal}, and without ${best.name} it would be ${digits(without)}.`,
    );
  else {
    const names = leastRemoved(figure.budget, neededExpanded / COVERAGE_FACTOR);
    ways.push(
      names
        ? `${goal}; that takes less of ${listOf(names)} together. ${best ? `Begin so: ${best.advice}.` : ''}`.trim()
        : `${goal}.`,
    );
  }
  const again = runAgain(figure.budget, neededExpanded / COVERAGE_FACTOR);
  if (again) ways.push(again);
  return { margin, neededExpanded, ways };
}

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const listOf = (names: string[]) =>
  names.length < 2
    ? names.join('')
    : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]!}`;

/** The fewest largest components whose absence would be enough; null when none would. */
function leastRemoved(budget: readonly BudgetComponent[], neededU: number): string[] | null {
  const kinds = weightsByKind(budget);
  for (let n = 1; n <= Math.min(3, kinds.length); n++)
    if (rootOf(kinds.slice(n)) <= neededU)
      return kinds.slice(0, n).map(({ kind }) => budgetKind(kind).words);
  return null;
}

/**
 * Another run, where by its own numbers it would settle it: what it need not have is left out, and
 * the rest is narrow enough. It counts instead of this one; results are not averaged.
 */
function runAgain(budget: readonly BudgetComponent[], neededU: number): string | null {
  const left = rootOf(budget.filter(({ kind }) => budgetKind(kind).again === undefined));
  const how = [
    ...new Set(weightsByKind(budget).flatMap(({ kind }) => budgetKind(kind).again ?? [])),
  ];
  if (how.length === 0 || left > neededU) return null;
  return `Or run it again ${listOf(how)}: U would be ${digits(COVERAGE_FACTOR * left)}.`;
}
