import { earlierLotInput, supplierNoteInput, takeBackInput, targetInput } from '../inputs';
import { inHouse, requireCome } from '../lots';
import { found, type Lab, LabError, procedure } from '../shared';
import type { Transaction } from '@dusk-tally/store';

const NOT_TAKEN_BACK = { takenBackAt: null, takenBackBy: null, takenBackWhy: null };

async function standingSupplier(lab: Lab, id: number, transaction: Transaction) {
  const row = found(await lab.store.suppliers.one({ id }, { transaction }), 'That supplier');
  if (row.mergedInto !== null)
    throw new LabError('conflict', `${row.name} was taken together with another one meanwhile.`);
  return row;
}

/** Keeps a lot from before the app in the record of its supplier. */
export const addEarlierLot = procedure({
  role: 'lead',
  input: earlierLotInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ id: number }> => {
    await standingSupplier(lab, input.supplierId, transaction);
    await requireCome(lab, input.arrivedOn, transaction);
    const { marginPct, landed, currency, rate, rateOn, ...row } = input;
    const money = await inHouse(lab, { cents: landed, currency, rate }, transaction);
    const { id } = await lab.store.supplying.earlierLots.insert(
      {
        ...row,
        margin: marginPct === null ? null : marginPct / 100,
        landedCents: money.cents,
        paidCents: money.isForeign ? landed : null,
        paidCurrency: money.isForeign ? currency : null,
        rate: money.isForeign ? rate : null,
        rateOn: money.isForeign ? rateOn : null,
        personId: actor.id,
        at: lab.now(),
        ...NOT_TAKEN_BACK,
      },
      transaction,
    );
    await audit({
      act: 'added a lot from before',
      subjectType: 'supplier',
      subjectId: input.supplierId,
      after: row,
    });
    return { id };
  },
});

/** Takes a lot from before back: it counts no more, and stays to be read in the history. */
export const takeBackEarlierLot = procedure({
  role: 'lead',
  input: takeBackInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const { earlierLots } = lab.store.supplying;
    const row = found(
      await earlierLots.one({ id: input.id }, { transaction, forUpdate: true }),
      'That lot',
    );
    if (row.takenBackAt !== null)
      throw new LabError('conflict', 'Somebody took it back already. Nothing was changed.');
    await earlierLots.update(
      { takenBackAt: lab.now(), takenBackBy: actor.id, takenBackWhy: input.reason },
      { id: row.id },
      transaction,
    );
    await audit({
      act: 'took back a lot from before',
      subjectType: 'supplier',
      subjectId: row.supplierId,
      before: { title: row.title, judged: row.judged, met: row.met },
      after: { reason: input.reason },
    });
  },
});

/** Keeps a note on a supplier; hearsay is marked, and counted nowhere. */
export const addSupplierNote = procedure({
  role: 'technician',
  input: supplierNoteInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    await standingSupplier(lab, input.supplierId, transaction);
    await lab.store.supplying.notes.insert(
      { ...input, personId: actor.id, at: lab.now(), ...NOT_TAKEN_BACK },
      transaction,
    );
    await audit({
      act: input.isHearsay ? 'noted hearsay' : 'noted',
      subjectType: 'supplier',
      subjectId: input.supplierId,
      after: { text: input.text, source: input.source },
    });
  },
});

/** Says what a kWh in good cells is to cost the lab. */
export const setTarget = procedure({
  role: 'lead',
  input: targetInput,
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const { settings } = lab.store;
    const before = found(
      await settings.one({ id: 1 }, { transaction, forUpdate: true }),
      'The lab’s settings',
    );
    await settings.update(
      { targetCentsPerKwh: input.perKwh, version: before.version + 1 },
      { id: 1 },
      transaction,
    );
    await audit({
      act: 'set the target of a good kWh',
      subjectType: 'lab',
      subjectId: 'target',
      before: { targetCentsPerKwh: before.targetCentsPerKwh },
      after: { targetCentsPerKwh: input.perKwh, reason: input.reason },
    });
  },
});
