import type { z } from 'zod';
import { LabError, procedure } from '../shared';
import { addModel, keepOffer, storeLot } from '../arrivals';
import { type modelInput, takeInInput } from '../inputs';
import { addSupplier } from './suppliers';

/** Two names are one but for case and blanks. */
const sameName = (a: string, b: string): boolean => plainName(a) === plainName(b);
const plainName = (name: string): string => name.trim().replace(/\s+/g, ' ').toLowerCase();

/**
 * Takes in a lot with its supplier and its model where they are new: all of it, or nothing. The same
 * try again gives the lot it took in.
 */
export const takeIn = procedure({
  role: 'lead',
  input: takeInInput,
  run: async (act): Promise<{ code: string }> => {
    const { lab, actor, input, transaction } = act;
    const { supplierName, model, offer, ...rest } = input;
    const { store } = lab;
    const [done] = await store.lots.find({ clientKey: input.clientKey }, { transaction });
    if (done) return { code: done.code };
    const suppliers = await store.suppliers.find({}, { transaction });
    const named = suppliers.find(({ name }) => sameName(name, supplierName));
    const supplier =
      // Who was taken together with another one is that one.
      (named?.mergedInto ? suppliers.find(({ id }) => id === named.mergedInto) : named) ??
      (await addSupplier(lab, actor, { name: supplierName.replace(/\s+/g, ' ') }));
    const modelId = 'id' in model ? model.id : await newModel(lab, actor, model);
    const lot = await storeLot({ ...act, input: { ...rest, supplierId: supplier.id, modelId } });
    if (offer.trim() !== '') await keepOffer(lab, actor, { lotId: lot.id, text: offer });
    return { code: lot.code };
  },
});

async function newModel(
  lab: Parameters<typeof addModel>[0],
  actor: Parameters<typeof addModel>[1],
  model: z.output<typeof modelInput>,
): Promise<number> {
  const same = (await lab.store.cellModels.find({})).find(({ name }) => sameName(name, model.name));
  if (same)
    throw new LabError(
      'duplicate',
      `A model named ${same.name} is here already. Choose it from the list, or give the new one another name.`,
      { field: 'model.name' },
    );
  return (await addModel(lab, actor, model)).id;
}
