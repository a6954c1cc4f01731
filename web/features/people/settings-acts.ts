'use server';

import { changeSettings } from '@dusk-tally/lab/people';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

export async function changeSettingsAct(
  input: Parameters<typeof changeSettings>[2],
): Promise<Outcome<void>> {
  const outcome = await outcomeOf(changeSettings(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}
