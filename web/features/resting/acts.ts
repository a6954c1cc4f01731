'use server';

import { layToRest, takeFromShelf } from '@dusk-tally/lab/resting';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

/** Lays full cells on the shelf. */
export async function layToRestAct(
  input: Parameters<typeof layToRest>[2],
): Promise<Outcome<{ laid: number }>> {
  const outcome = await outcomeOf(layToRest(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

/** Takes cells off the shelf before their rest is over. */
export async function takeFromShelfAct(
  input: Parameters<typeof takeFromShelf>[2],
): Promise<Outcome<{ taken: number }>> {
  const outcome = await outcomeOf(takeFromShelf(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}
