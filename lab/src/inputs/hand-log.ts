import { POINT_FIELDS, type PointField } from '@dusk-tally/core/evidence';
import { z } from 'zod';

const moment = z.iso.datetime('Expected a day and time.');

const above0 = z
  .number('Expected a number.')
  .positive('Expected a number above 0.')
  .max(1000, 'Expected at most 1000.')
  .nullish()
  .transform((value) => value ?? null);

/** How a run of a tester without wires was set, and when its load came on. */
export const handLogInput = z.object({
  benchRunId: z.int(),
  /** Version of the hand log that was seen; 0 where there was none yet. */
  version: z.int().min(0),
  loadOnAt: moment,
  setA: above0,
  setCutoffV: above0,
  countAtStartAh: z
    .number('Expected a number.')
    .min(0, 'Expected 0 or more.')
    .max(10_000, 'Expected at most 10 000 Ah.')
    .default(0),
});

const NAMES = Object.keys(POINT_FIELDS) as PointField[];

/** What was read of each field: inside what such a field can show. */
const values = z
  .partialRecord(z.enum(NAMES), z.number('Expected a number.').finite())
  .superRefine((read, context) => {
    for (const name of NAMES) {
      const value = read[name];
      const { words, unit, least, most } = POINT_FIELDS[name];
      if (value !== undefined && !(value >= least && value <= most))
        context.addIssue({
          code: 'custom',
          path: [name],
          message: `${words}: expected ${least} to ${most} ${unit}.`,
        });
    }
    if (Object.keys(read).length === 0)
      context.addIssue({ code: 'custom', message: 'Expected at least one value.' });
  });

/** Points of a hand log, as they were read; sending one again stores nothing twice. */
export const handPointsInput = z.object({
  benchRunId: z.int(),
  points: z
    .array(
      z.object({
        at: moment,
        values,
        decimals: z.partialRecord(z.enum(NAMES), z.int().min(0).max(9)),
        isStop: z.boolean().default(false),
        keptDespite: z
          .string()
          .max(400)
          .nullish()
          .transform((value) => value ?? null),
        clientKey: z.uuid(),
      }),
    )
    .min(1)
    .max(200),
});
