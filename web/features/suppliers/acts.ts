'use server';

import type { OfferHint } from '@dusk-tally/core/arrivals';
import type { Procedure } from '@dusk-tally/lab';
import {
  addEarlierLot,
  addSupplierNote,
  checkOffer,
  type OfferCheck,
  offerHints,
  setTarget,
  takeBackEarlierLot,
} from '@dusk-tally/lab/records';
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
export const addEarlierLotAct = async (input: Input<typeof addEarlierLot>) =>
  act(addEarlierLot, input);
export const takeBackEarlierLotAct = async (input: Input<typeof takeBackEarlierLot>) =>
  act(takeBackEarlierLot, input);
export const addSupplierNoteAct = async (input: Input<typeof addSupplierNote>) =>
  act(addSupplierNote, input);
export const setTargetAct = async (input: Input<typeof setTarget>) => act(setTarget, input);

/** What an offer’s text says. */
export async function offerHintsAct(text: string): Promise<Outcome<OfferHint[]>> {
  return outcomeOf(offerHints(lab(), await actor(), { text }));
}

/** Looks at an offer; nothing is kept. */
export async function checkOfferAct(
  input: Parameters<typeof checkOffer>[2],
): Promise<Outcome<OfferCheck>> {
  return outcomeOf(checkOffer(lab(), await actor(), input));
}
