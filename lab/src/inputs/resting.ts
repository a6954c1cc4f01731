import { OFFERED_PROTOCOLS } from '@dusk-tally/core/resting';
import { z } from 'zod';

const NAMES = OFFERED_PROTOCOLS.map(({ name }) => name) as [string, ...string[]];

/** Cells laid on the shelf: since when they are full, and by which protocol they are read. */
export const restInput = z.object({
  lotId: z.int(),
  cellIds: z.array(z.int()).min(1, 'Expected at least one cell.').max(2000),
  protocol: z.enum(NAMES, 'Expected one of the protocols.'),
  /** When their charge ended. */
  fullAt: z.iso.datetime('Expected a day and time.'),
  /** Asked for from the third look at a cell on. */
  reason: z.string().trim().max(400).default(''),
});

/** Cells taken off the shelf before their rest was over. */
export const takeOffInput = z.object({
  restIds: z.array(z.int()).min(1).max(2000),
  reason: z.string().trim().min(3, 'Say why, in a few words.').max(400),
});
