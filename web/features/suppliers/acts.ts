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

export const changeSupplierAct = async (input: ActInput<typeof changeSupplier>, key?: string) =>
  runAct(changeSupplier, input, key);
export const mergeSuppliersAct = async (input: ActInput<typeof mergeSuppliers>, key?: string) =>
  runAct(mergeSuppliers, input, key);
export const addEarlierLotAct = async (input: ActInput<typeof addEarlierLot>, key?: string) =>
  runAct(addEarlierLot, input, key);
export const takeBackEarlierLotAct = async (
  input: ActInput<typeof takeBackEarlierLot>,
  key?: string,
) => runAct(takeBackEarlierLot, input, key);
export const addSupplierNoteAct = async (input: ActInput<typeof addSupplierNote>, key?: string) =>
  runAct(addSupplierNote, input, key);
export const setTargetAct = async (input: ActInput<typeof setTarget>, key?: string) =>
  runAct(setTarget, input, key);

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
