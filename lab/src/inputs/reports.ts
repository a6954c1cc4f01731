import { z } from 'zod';
import { reportLanguage } from './settings';

/** Most items one report lists. */
export const MOST_ITEMS = 500;

/** A buyer’s report: of which cells, for whom, in which language. */
export const reportInput = z.object({
  lotId: z.int(),
  cellIds: z
    .array(z.int())
    .min(1, 'Choose at least one cell.')
    .max(MOST_ITEMS, `Expected at most ${MOST_ITEMS} cells in one report.`),
  customer: z.string().trim().min(1, 'Expected the customer’s name.').max(160),
  /** The lab’s where none is named. */
  language: reportLanguage.optional(),
});
