'use server';

import { endHandLog, setHandLog, takeBackHandPoint } from '@dusk-tally/lab/gathering';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

async function renewed<R>(made: Promise<R>): Promise<Outcome<R>> {
  const outcome = await outcomeOf(made);
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

/** Says when the load came on and how the tester was set. */
export const setHandLogAct = async (input: Parameters<typeof setHandLog>[2]) =>
  renewed(setHandLog(lab(), await actor(), input));
/** Takes a point back. */
export const takeBackHandPointAct = async (input: Parameters<typeof takeBackHandPoint>[2]) =>
  renewed(takeBackHandPoint(lab(), await actor(), input));
/** Ends a hand log: what it gives becomes the cell’s capacity. */
export const endHandLogAct = async (input: Parameters<typeof endHandLog>[2]) =>
  renewed(endHandLog(lab(), await actor(), input));
