import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import { z } from 'zod';
import { reasonInput } from './people';

const number = z.number('Expected a number.');
const pair = z.tuple([number, number]);

/** A chemistry’s profile, as it is to be. */
export const profileInput = z.object({
  chemistry: z.enum(CHEMISTRIES),
  /** The entry the change started from, so that two leads do not overwrite each other. */
  entryId: z.int().nullable(),
  reason: reasonInput,
  profile: z.object({
    ceilingWhPerL: number,
    ceilingWhPerKg: number,
    nominalV: number,
    chargeV: number,
    cutoffV: number,
    storageV: pair,
    fullOcvV: pair,
  }),
});
