import { type Grade, type GradeScheme, SHIPPED_SCHEME } from '../src/verdicts';
import { exact } from './assessed';

/** A figure known without doubt, or with the uncertainty that is given. */
export const exactly = (value: number, standardUncertainty = 0) => ({
  ...exact(value, standardUncertainty),
  standardUncertainty,
});

/** A scheme of those grades, whose blocks lead to the last of them. */
export const schemeOf = (grades: Grade[], more: Partial<GradeScheme> = {}): GradeScheme => ({
  ...SHIPPED_SCHEME,
  name: 'Tried',
  grades,
  atBest: { belowOneVolt: grades.at(-1)!.name, dangerous: grades.at(-1)!.name },
  ...more,
});
