import { z } from 'zod';

/** How a finding was made good: how it was before, and what was done. */
export const makeGoodInput = z.object({
  findingId: z.int(),
  before: z.string().trim().min(3, 'Expected how it was.').max(400),
  done: z.string().trim().min(3, 'Expected what was done.').max(400),
});

/** Why a finding was none. */
export const withdrawInput = z.object({
  findingId: z.int(),
  reason: z.string().trim().min(3, 'Expected a reason.').max(400),
});
