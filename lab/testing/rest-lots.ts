import { randomUUID } from 'node:crypto';
import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { addLot, addModel } from '../src/arrivals';
import { addSupplier } from '../src/suppliers';
import type { FreshLab } from './fresh-lab';

/** A discharge of a cell that holds 112 Ah. */
export const logOf = (seed: number): Uint8Array<ArrayBuffer> =>
  new TextEncoder().encode(
    rowsAsCsv(
      recordDischarge(typicalCell('LFP', 112), {
        currentA: 20.8,
        cutoffV: 2.5,
        intervalS: 60,
        restBeforeS: 3900,
        restAfterS: 60,
        ambientC: 25,
        seed,
      }),
    ),
  );

/** A lot of a 4.2 V class. */
export async function nmcLot({ lab, admin }: Pick<FreshLab, 'lab' | 'admin'>, quantity: number) {
  const tag = randomUUID().slice(0, 6);
  const supplier = await addSupplier(lab, admin, { name: `Withy ${tag}` });
  const model = await addModel(lab, admin, {
    name: `N-${tag}`,
    chemistry: 'NMC',
    format: 'prism',
    widthMm: 100,
    thicknessMm: 20,
    heightMm: 100,
  });
  return addLot(lab, admin, {
    title: 'Reclaimed',
    supplierId: supplier.id,
    modelId: model.id,
    quantity,
    claim: [{ kind: 'capacity', value: 20, conditions: { rateIt: 0.2, cutoffV: 2.8 } }],
  });
}
