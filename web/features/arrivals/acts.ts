'use server';

import { type Actor, LabError } from '@dusk-tally/lab';
import {
  addLot,
  addModel,
  changeClaim,
  keepOffer,
  labelCell,
  listModels,
  type claimInput,
  type modelInput,
} from '@dusk-tally/lab/arrivals';
import { addSupplier, listSuppliers } from '@dusk-tally/lab/suppliers';
import { revalidatePath } from 'next/cache';
import type { z } from 'zod';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

export interface NewLot {
  clientKey: string;
  title: string;
  supplierName: string;
  model: { id: number } | z.input<typeof modelInput>;
  orderedOn: string | null;
  arrivedOn: string | null;
  quantity: number;
  orderedQuantity: number | null;
  takenAs: 'cells' | 'packs';
  costs: Record<'price' | 'discount' | 'freight' | 'duty' | 'fees', number | null>;
  /** Text of the offer, or empty. */
  offer: string;
  claim: z.input<typeof claimInput>;
}

async function supplierFor(who: Actor | null, name: string): Promise<number> {
  const wanted = name.trim().toLowerCase();
  const known = (await listSuppliers(lab(), who, {})).find(
    (row) => row.name.toLowerCase() === wanted,
  );
  return known?.id ?? (await addSupplier(lab(), who, { name })).id;
}

async function modelFor(who: Actor | null, model: NewLot['model']): Promise<number> {
  if ('id' in model) return model.id;
  const same = (await listModels(lab(), who, {})).find(
    (row) => row.name.toLowerCase() === model.name.trim().toLowerCase(),
  );
  if (same)
    throw new LabError(
      'duplicate',
      `A model named ${same.name} is here already. Choose it from the list, or give the new one another name.`,
    );
  return (await addModel(lab(), who, model)).id;
}

/** Takes in a lot, with its supplier and model when they are new. */
export async function takeInLotAct(input: NewLot): Promise<Outcome<{ code: string }>> {
  const who = await actor();
  const outcome = await outcomeOf(
    (async () => {
      if (!input.title.trim()) throw new LabError('invalid', 'Expected a short name for the lot.');
      const supplierId = await supplierFor(who, input.supplierName);
      const modelId = await modelFor(who, input.model);
      const { title, orderedOn, arrivedOn, quantity, orderedQuantity, takenAs, claim } = input;
      const lot = await addLot(lab(), who, {
        title,
        supplierId,
        modelId,
        orderedOn,
        arrivedOn,
        quantity,
        orderedQuantity,
        takenAs,
        claim,
        clientKey: input.clientKey,
        ...input.costs,
      });
      if (input.offer.trim() !== '')
        await keepOffer(lab(), who, { lotId: lot.id, text: input.offer });
      return lot;
    })(),
  );
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome.ok ? { ok: true, data: { code: outcome.data.code } } : outcome;
}

export async function changeClaimAct(
  lotId: number,
  version: number,
  claim: z.input<typeof claimInput>,
): Promise<Outcome<void>> {
  const outcome = await outcomeOf(changeClaim(lab(), await actor(), { lotId, version, claim }));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

export async function labelCellAct(
  cellId: number,
  version: number,
  label: string,
): Promise<Outcome<unknown>> {
  const outcome = await outcomeOf(labelCell(lab(), await actor(), { cellId, version, label }));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}
