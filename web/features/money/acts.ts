'use server';

import { type Procedure } from '@dusk-tally/lab';
import { keepBooks } from '@dusk-tally/lab/money';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

type Input<P> = P extends Procedure<infer I, unknown> ? I : never;

/** Keeps what people say of a lot’s money. */
export async function keepBooksAct(input: Input<typeof keepBooks>): Promise<Outcome<void>> {
  const outcome = await outcomeOf(keepBooks(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}
