import {
  type Condition,
  type ConditionKind,
  GRADE_FIGURE_NAMES,
  gradeFigure,
  type GradeFigureName,
} from '@dusk-tally/core/verdicts';
import { formatNumber } from '@dusk-tally/core/units';
import type { ShownIn } from '@/kit/quantity-field';

/** Everything a condition can be on, in the order it is offered. */
export const CONDITION_KINDS: readonly ConditionKind[] = [
  ...GRADE_FIGURE_NAMES,
  'losesNoCharge',
  'staysCool',
  'worstFinding',
];

/** Whether a condition is a number against a limit. */
export const hasLimit = (kind: ConditionKind): kind is GradeFigureName =>
  GRADE_FIGURE_NAMES.some((name) => name === kind);

/** What is asked, without its limit. */
export function kindWords(kind: ConditionKind): string {
  if (kind === 'losesNoCharge') return 'loses no charge at rest';
  if (kind === 'staysCool') return 'stays cool on charge';
  if (kind === 'worstFinding') return 'worst finding of its inspection';
  return gradeFigure(kind).words;
}

/** How a limit is typed and shown. */
export function shownIn(kind: GradeFigureName): ShownIn | undefined {
  const { unit } = gradeFigure(kind);
  return unit === 'share' ? { unit: '%', scale: 0.01 } : undefined;
}

/** Unit after a limit. */
export function limitUnit(kind: GradeFigureName): string {
  const { unit } = gradeFigure(kind);
  return { share: '%', months: 'months', V: 'V', z: 'robust z', times: 'times' }[unit];
}

/** `at least` or `at most`. */
export const sideWords = (kind: GradeFigureName): string =>
  gradeFigure(kind).good === 'atLeast' ? 'at least' : 'at most';

/** What a worst finding may be. */
export const LEVEL_WORDS = {
  none: 'nothing at all',
  note: 'a note at most',
  serious: 'serious at most',
} as const;

/** A limit to start from, where somebody adds a condition. */
export function usualLimit(kind: ConditionKind): Condition {
  if (kind === 'losesNoCharge' || kind === 'staysCool') return { kind };
  if (kind === 'worstFinding') return { kind, limit: 'note' };
  const usual = { share: 1, months: 24, V: 2.5, z: 3.5, times: 0 }[gradeFigure(kind).unit];
  return { kind, limit: kind === 'massOff' ? 0.03 : kind === 'cyclesSeen' ? 50 : usual };
}

/** A condition as it is read: `SoH at least 95 %`. */
export function conditionWords(condition: Condition): string {
  if (condition.kind === 'losesNoCharge' || condition.kind === 'staysCool')
    return kindWords(condition.kind);
  if (condition.kind === 'worstFinding')
    return `${kindWords(condition.kind)}: ${LEVEL_WORDS[condition.limit]}`;
  const { kind, limit } = condition;
  const shown = limit / (shownIn(kind)?.scale ?? 1);
  const digits = Number.isInteger(Number(shown.toFixed(6))) ? 0 : 1;
  return `${kindWords(kind)} ${sideWords(kind)} ${formatNumber(shown, digits)} ${limitUnit(kind)}`;
}

/** For which cells a scheme is, in words. */
export function scopeWords(scope: string, models: readonly { id: number; name: string }[]): string {
  const [kind, which] = scope.split(':');
  if (kind === 'model') return models.find(({ id }) => id === Number(which))?.name ?? scope;
  return kind === 'chemistry' ? `all ${which}` : 'every cell without grades of its own';
}
