import 'server-only';
import type { Procedure } from '@dusk-tally/lab';
import { revalidatePath } from 'next/cache';
import { lab } from './lab';
import { type Outcome, outcomeOf } from './outcome';
import { actor } from './session';

/** What an act takes. */
export type ActInput<P> = P extends Procedure<infer I, unknown> ? I : never;

/** Work after which every page shows what is so now. */
export async function renewed<T>(work: Promise<T>): Promise<Outcome<T>> {
  const outcome = await outcomeOf(work);
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

/**
 * Does an act as who is signed in; where it was done every page shows it.
 * @param key of the press: sent again with it, the act is not done again.
 */
export const runAct = async <I, R>(
  procedure: Procedure<I, R>,
  input: I,
  key?: string,
): Promise<Outcome<R>> => renewed(procedure(lab(), await actor(), input, key));
