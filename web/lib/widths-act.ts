'use server';

import { keepWidths } from '@dusk-tally/lab/people';
import { lab } from './lab';
import { type Outcome, outcomeOf } from './outcome';
import { actor } from './session';

/** Keeps widths of columns for who is signed in; no page changes by it. */
export const keepWidthsAct = async (
  input: Parameters<typeof keepWidths>[2],
): Promise<Outcome<void>> => outcomeOf(keepWidths(lab(), await actor(), input));
