'use server';

import { changeClaim, labelCell } from '@dusk-tally/lab/arrivals';
import type { cellMarkInput, takeInInput } from '@dusk-tally/lab/inputs';
import { takeIn } from '@dusk-tally/lab/suppliers';
import { revalidatePath } from 'next/cache';
import type { z } from 'zod';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

export type NewLot = z.input<typeof takeInInput>;

/** Takes in a lot, with its supplier and model when they are new. */
export async function takeInLotAct(input: NewLot): Promise<Outcome<{ code: string }>> {
  const outcome = await outcomeOf(takeIn(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

export async function changeClaimAct(
  input: Parameters<typeof changeClaim>[2],
): Promise<Outcome<void>> {
  const outcome = await outcomeOf(changeClaim(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

export async function labelCellAct(
  input: z.input<typeof cellMarkInput>,
): Promise<Outcome<unknown>> {
  const outcome = await outcomeOf(labelCell(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}
