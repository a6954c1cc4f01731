import type { Transaction } from '@dusk-tally/store';
import type { Change, Lab } from '../shared';
import type { Touched } from './derivation';

/** From so many cells of a lot on, the whole lot is made new. */
const WHOLE_LOT_FROM = 1000;

/** Lots a change touches, where it names none itself. */
async function lotsOf(lab: Lab, change: Change, transaction: Transaction): Promise<number[]> {
  const { store } = lab;
  const { modelId, chemistry, channelId, instrumentId } = change;
  if (channelId !== undefined) return store.meters.lotsOf([channelId], transaction);
  if (instrumentId !== undefined) return store.meters.lotsOfInstrument(instrumentId, transaction);
  const models =
    chemistry === undefined
      ? modelId
      : (await store.cellModels.find({ chemistry }, { transaction })).map(({ id }) => id);
  const lots = await store.lots.find(models === undefined ? {} : { modelId: models }, {
    transaction,
    columns: ['id'],
  });
  return lots.map(({ id }) => id);
}

/** What changes touch together: one entry a lot, in the order of their numbers. */
export async function touchedBy(
  lab: Lab,
  changes: readonly Change[],
  transaction: Transaction,
): Promise<Touched[]> {
  const cells = new Map<number, Set<number> | null>();
  for (const change of changes) {
    const { lotId, cellIds } = change;
    if (lotId !== undefined && cellIds !== undefined) {
      const known = cells.get(lotId);
      if (known === null) continue;
      cells.set(lotId, new Set([...(known ?? []), ...cellIds]));
    } else
      for (const id of lotId === undefined ? await lotsOf(lab, change, transaction) : [lotId])
        cells.set(id, null);
  }
  return [...cells]
    .sort(([a], [b]) => a - b)
    .flatMap(([lotId, ids]): Touched[] => {
      if (ids === null || ids.size > WHOLE_LOT_FROM) return [{ lotId, cellIds: null }];
      return ids.size === 0 ? [] : [{ lotId, cellIds: [...ids] }];
    });
}
