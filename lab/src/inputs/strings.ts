import { z } from 'zod';

/** What a watched period is called. */
export const periodName = z
  .string()
  .trim()
  .min(2, 'Expected a name, such as “before conditioning”.')
  .max(80, 'Expected at most 80 characters.');

/** Which cell each column of a string’s log is of. */
export const tieStringInput = z.object({
  stringId: z.int(),
  version: z.int(),
  name: periodName,
  /** In the order of the columns; null for one nobody can name. */
  cellIds: z.array(z.int().nullable()).max(400),
});

/** A log taken in for the wrong lot, or that is none of a string. */
export const takeBackStringInput = z.object({
  stringId: z.int(),
  version: z.int(),
  reason: z.string().trim().min(3, 'Say why, in a few words.').max(400),
});

/** A stretch of a log, s from its beginning. */
export const stretchInput = z
  .object({ stringId: z.int(), fromS: z.number().min(0), toS: z.number().positive() })
  .refine(({ fromS, toS }) => toS > fromS, {
    message: 'Expected an end after its beginning.',
    path: ['toS'],
  });
