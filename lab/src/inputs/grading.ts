import {
  FINDING_LEVELS,
  GRADE_FIGURE_NAMES,
  gradeFigure,
  type GradeFigureName,
  unreachableGrades,
} from '@dusk-tally/core/verdicts';
import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import { z } from 'zod';
import { reasonInput } from './people';

const name = (what: string, most: number) =>
  z
    .string()
    .trim()
    .min(1, `Expected a name for ${what}.`)
    .max(most, `Expected at most ${most} characters.`);

const UNIT_WORDS = { share: '%', months: 'months', V: 'V', z: '', times: '' } as const;

/** Limits a figure can have, in words. */
export function limitWords(kind: GradeFigureName): string {
  const { from, to, unit } = gradeFigure(kind);
  const scale = unit === 'share' ? 100 : 1;
  return `${scale * from} to ${scale * to} ${UNIT_WORDS[unit]}`.trim();
}

const limited = z
  .object({ kind: z.enum(GRADE_FIGURE_NAMES), limit: z.number('Expected a limit.') })
  .superRefine(({ kind, limit }, context) => {
    const { from, to, unit } = gradeFigure(kind);
    if (limit < from || limit > to || (unit === 'times' && !Number.isInteger(limit)))
      context.addIssue({
        code: 'custom',
        path: ['limit'],
        message: `Expected ${unit === 'times' ? 'a whole number, ' : ''}${limitWords(kind)}.`,
      });
  });

/** One condition of a grade. */
export const conditionInput = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('losesNoCharge') }),
  z.object({ kind: z.literal('staysCool') }),
  z.object({
    kind: z.literal('worstFinding'),
    limit: z.enum(FINDING_LEVELS).exclude(['stop']),
  }),
  limited,
]);

const grade = z.object({
  name: name('the grade', 40),
  note: z
    .string()
    .trim()
    .max(80, 'Expected at most 80 characters.')
    .transform((text) => text || undefined)
    .optional(),
  conditions: z.array(conditionInput).max(20, 'Expected at most 20 conditions.'),
});

/** What a scheme says, before it has a version. */
export const schemeFields = z
  .object({
    name: name('the scheme', 60),
    grades: z.array(grade).min(2, 'Expected two grades or more.').max(12, 'Expected at most 12.'),
    atBest: z.object({ belowOneVolt: z.string(), dangerous: z.string() }),
    tooCloseIsEnough: z.boolean(),
  })
  .superRefine(({ grades, atBest }, context) => {
    const refuse = (path: (string | number)[], message: string) =>
      context.addIssue({ code: 'custom', path, message });
    const names = grades.map((one) => one.name.toLowerCase());
    grades.forEach(({ conditions }, at) => {
      if (names.indexOf(names[at]!) !== at)
        refuse(['grades', at, 'name'], 'Another grade has this name.');
      const kinds = conditions.map(({ kind }) => kind);
      const twice = kinds.findIndex((kind, i) => kinds.indexOf(kind) !== i);
      if (twice >= 0)
        refuse(['grades', at, 'conditions', twice, 'kind'], 'This grade asks for it already.');
      const untested = conditions.findIndex((one) => one.kind === 'cyclesSeen' && one.limit < 1);
      const needsCapacity = conditions.some(
        ({ kind }) =>
          kind === 'stateOfHealth' || kind === 'capacityShare' || kind === 'energyShare',
      );
      if (untested >= 0 && needsCapacity)
        refuse(
          ['grades', at, 'conditions', untested, 'limit'],
          'A capacity is known from a discharge measured here: with none at all no cell reaches this grade. Expected 1 or more.',
        );
      const isLast = at === grades.length - 1;
      if (!isLast && conditions.length === 0)
        refuse(['grades', at, 'name'], 'Without a condition every cell would be of this grade.');
      if (isLast && conditions.length > 0)
        refuse(['grades', at, 'name'], 'The last grade takes what is left: it has no condition.');
    });
    for (const key of ['belowOneVolt', 'dangerous'] as const)
      if (!grades.some((one) => one.name === atBest[key]))
        refuse(['atBest', key], 'Expected one of the grades.');
    for (const { grade: lost, takenBy } of unreachableGrades(grades))
      refuse(
        ['grades', grades.findIndex((one) => one.name === lost), 'name'],
        `No cell can reach it: whoever does is ${takenBy} already.`,
      );
  });

/** For which cells a scheme is: all, those of a chemistry, or those of a model. */
export const schemeScope = z
  .string()
  .refine(
    (scope) =>
      scope === 'house' ||
      /^model:[1-9]\d{0,9}$/.test(scope) ||
      CHEMISTRIES.some((chemistry) => scope === `chemistry:${chemistry}`),
    'Expected the house, a chemistry or a cell model.',
  );

/** A scheme that is tried, for the cells it would be for. */
export const schemeTrial = z.object({ scope: schemeScope, scheme: schemeFields });

/** A new version of a scheme. */
export const schemeInput = z.object({
  scope: schemeScope,
  /** Version that was seen; 0 where the scope has none of its own yet. */
  seen: z.int().min(0),
  scheme: schemeFields,
  reason: reasonInput,
});

/** The end of a scheme of its own: from then on the wider one holds. */
export const schemeEnd = z.object({ scope: schemeScope, seen: z.int(), reason: reasonInput });

/** A grade given to a cell by a person. */
export const decisionInput = z.object({
  cellId: z.int(),
  grade: name('the grade', 40),
  reason: reasonInput,
});

/** A decision taken back. */
export const decisionBack = z.object({ id: z.int(), reason: reasonInput });
