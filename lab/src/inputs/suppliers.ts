import { z } from 'zod';
import { reasonInput } from './people';

/** Who lots are bought from. */
export const supplierInput = z.object({
  name: z.string().trim().min(1, 'Expected the supplier’s name.').max(120),
  place: z.string().trim().max(120).nullish(),
  notes: z.string().trim().max(4000).nullish(),
});

/** A supplier’s name, place or notes, mended. */
export const supplierChange = supplierInput.extend({
  id: z.int(),
  version: z.int(),
  reason: reasonInput,
});

/** Two suppliers that are one: the lots of the first go to the second. */
export const supplierMerge = z.object({
  id: z.int(),
  version: z.int(),
  into: z.int('Expected the supplier it is.'),
  reason: reasonInput,
});
