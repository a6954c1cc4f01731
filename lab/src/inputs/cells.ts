import { z } from 'zod';
import { reasonInput } from './people';

/** The mark a cell carries; one that is there already is changed with a reason. */
export const cellMarkInput = z.object({
  cellId: z.int(),
  version: z.int(),
  label: z.string().trim().max(60),
  reason: z.string().trim().max(400).nullish(),
});

/** A photograph set aside that does not belong, or taken back. */
export const photoMarkInput = z.object({ id: z.int(), aside: z.boolean(), reason: reasonInput });
