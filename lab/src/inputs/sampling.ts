import { z } from 'zod';

/** Opens a drawn sample again, with a reason that stays. */
export const reopenSampleInput = z.object({
  lotId: z.int(),
  planId: z.int(),
  reason: z.string().trim().min(10, 'Expected a reason of ten letters or more.').max(400),
});
