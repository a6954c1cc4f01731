'use server';

import type { OfferHint } from '@dusk-tally/core/arrivals';
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
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

export const changeSupplierAct = async (input: ActInput<typeof changeSupplier>) =>
  runAct(changeSupplier, input);
export const mergeSuppliersAct = async (input: ActInput<typeof mergeSuppliers>) =>
  runAct(mergeSuppliers, input);
export const addEarlierLotAct = async (input: ActInput<typeof addEarlierLot>) =>
  runAct(addEarlierLot, input);
export const takeBackEarlierLotAct = async (input: ActInput<typeof takeBackEarlierLot>) =>
  runAct(takeBackEarlierLot, input);
export const addSupplierNoteAct = async (input: ActInput<typeof addSupplierNote>) =>
  runAct(addSupplierNote, input);
export const setTargetAct = async (input: ActInput<typeof setTarget>) => runAct(setTarget, input);

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
