import type { ReportSnapshot } from '../compute';
import { type Condition, type GradeScheme, gradeFigure } from '@dusk-tally/core/verdicts';

const UNIT = { share: ' %', months: ' months', V: ' V', z: '', times: '' } as const;

/** A condition as a report says it: `SoH at least 95 %`. */
function conditionWords(condition: Condition): string {
  switch (condition.kind) {
    case 'losesNoCharge':
      return 'loses no charge at rest';
    case 'staysCool':
      return 'stayed cool on charge';
    case 'worstFinding':
      return condition.limit === 'none'
        ? 'nothing found in its inspection'
        : condition.limit === 'note'
          ? 'nothing beyond a note found in its inspection'
          : 'nothing dangerous found in its inspection';
    default: {
      const { words, good, unit } = gradeFigure(condition.kind);
      const shown = Number(((unit === 'share' ? 100 : 1) * condition.limit).toFixed(2));
      return `${words} ${good === 'atLeast' ? 'at least' : 'at most'} ${shown}${UNIT[unit]}`;
    }
  }
}

/** What the grades of some cells mean: the conditions of each that occurs, in the scheme’s order. */
const gradeMeanings = (
  { grades }: Pick<GradeScheme, 'grades'>,
  given: readonly (string | null)[],
): { grade: string; conditions: string[]; note: string | null }[] =>
  grades
    .filter(({ name }) => given.includes(name))
    .map(({ name, conditions, note }) => ({
      grade: name,
      conditions: conditions.map(conditionWords),
      note: note ?? null,
    }));

/** Who carries the doubt of a figure too close to its limit. */
const doubtOfGrades = ({ tooCloseIsEnough }: Pick<GradeScheme, 'tooCloseIsEnough'>): string =>
  tooCloseIsEnough
    ? 'A figure too close to its limit was enough for a grade: the doubt is with the buyer.'
    : 'A figure too close to its limit was not enough for a grade: the doubt is with the laboratory.';

/** What a report says of its grades. */
export const gradesOf = (
  scheme: GradeScheme,
  items: readonly { grade: string | null }[],
): Pick<ReportSnapshot, 'gradeScheme' | 'gradeMeanings' | 'gradeDoubt'> => ({
  gradeScheme: `${scheme.name}, version ${scheme.version}`,
  gradeMeanings: gradeMeanings(
    scheme,
    items.map(({ grade }) => grade),
  ),
  gradeDoubt: doubtOfGrades(scheme),
});
