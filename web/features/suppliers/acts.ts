'use server';

import type { Procedure } from '@dusk-tally/lab';
import { changeSupplier, mergeSuppliers } from '@dusk-tally/lab/suppliers';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

type Input<P> = P extends Procedure<infer I, unknown> ? I : never;

async function act<I, R>(procedure: Procedure<I, R>, input: I): Promise<Outcome<R>> {
  const outcome = await outcomeOf(procedure(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

export const changeSupplierAct = async (input: Input<typeof changeSupplier>) =>
  act(changeSupplier, input);
export const mergeSuppliersAct = async (input: Input<typeof mergeSuppliers>) =>
  act(mergeSuppliers, input);
