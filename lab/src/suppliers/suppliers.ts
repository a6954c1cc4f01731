import type { SupplierRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { supplierChange, supplierInput, supplierMerge } from '../inputs';
import { found, isDuplicate, type Lab, LabError, procedure, question } from '../shared';

/** Adds a supplier. */
export const addSupplier = procedure({
  role: 'lead',
  input: supplierInput,
  run: async ({ lab, input, transaction, audit }): Promise<SupplierRow> => {
    try {
      const row = await lab.store.suppliers.insert(
        {
          name: input.name,
          place: input.place ?? null,
          notes: input.notes ?? null,
          mergedInto: null,
          createdAt: lab.now(),
        },
        transaction,
      );
      await audit({
        act: 'added supplier',
        subjectType: 'supplier',
        subjectId: row.id,
        after: input,
      });
      return row;
    } catch (error) {
      if (isDuplicate(error))
        throw new LabError('duplicate', `A supplier named ${input.name} is here already.`, {
          field: 'name',
        });
      throw error;
    }
  },
});

async function standing(
  lab: Lab,
  { id, version }: { id: number; version: number },
  transaction: Transaction,
): Promise<SupplierRow> {
  const row = found(
    await lab.store.suppliers.one({ id }, { transaction, forUpdate: true }),
    'That supplier',
  );
  if (row.mergedInto !== null)
    throw new LabError('conflict', `${row.name} was taken together with another one meanwhile.`);
  if (row.version !== version)
    throw new LabError(
      'conflict',
      'Somebody changed this supplier meanwhile. Nothing was stored; choose between theirs and yours.',
      { current: row },
    );
  return row;
}

/** Mends a supplier’s name, place or notes; reports already issued keep what they said. */
export const changeSupplier = procedure({
  role: 'lead',
  input: supplierChange,
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const { id, version, reason } = input;
    const before = await standing(lab, input, transaction);
    const next = { name: input.name, place: input.place || null, notes: input.notes || null };
    await lab.store.suppliers
      .update({ ...next, version: version + 1 }, { id }, transaction)
      .catch((error: unknown) => {
        if (isDuplicate(error))
          throw new LabError(
            'duplicate',
            `A supplier named ${input.name} is here already. Where they are one, take them together.`,
            { field: 'name' },
          );
        throw error;
      });
    await audit({
      act: 'changed supplier',
      subjectType: 'supplier',
      subjectId: id,
      before: { name: before.name, place: before.place, notes: before.notes },
      after: { ...next, reason },
    });
  },
});

/**
 * Takes two suppliers together that are one: the lots of the first are the second’s from now on. Who
 * types the first one’s name again means the second.
 * @returns how many lots went over.
 */
export const mergeSuppliers = procedure({
  role: 'lead',
  input: supplierMerge,
  run: async ({ lab, input, transaction, audit }): Promise<{ lots: number }> => {
    const { id, into, version, reason } = input;
    if (id === into) throw new LabError('invalid', 'Expected another supplier.', { field: 'into' });
    const from = await standing(lab, input, transaction);
    const to = found(
      await lab.store.suppliers.one({ id: into }, { transaction, forUpdate: true }),
      'The supplier it is',
    );
    if (to.mergedInto !== null)
      throw new LabError('conflict', `${to.name} was itself taken together with another one.`, {
        field: 'into',
      });
    const lots = await lab.store.lots.find({ supplierId: id }, { transaction });
    await lab.store.lots.update({ supplierId: into }, { supplierId: id }, transaction);
    const { earlierLots, notes } = lab.store.supplying;
    await earlierLots.update({ supplierId: into }, { supplierId: id }, transaction);
    await notes.update({ supplierId: into }, { supplierId: id }, transaction);
    await lab.store.suppliers.update({ mergedInto: into }, { mergedInto: id }, transaction);
    await lab.store.suppliers.update(
      { mergedInto: into, version: version + 1 },
      { id },
      transaction,
    );
    for (const [subjectId, other] of [
      [id, to],
      [into, from],
    ] as const)
      await audit({
        act: subjectId === id ? 'went into another supplier' : 'took another supplier in',
        subjectType: 'supplier',
        subjectId,
        before: {},
        after: {
          [subjectId === id ? 'into' : 'took in']: other.name,
          lots: lots.map(({ code }) => code),
          reason,
        },
      });
    return { lots: lots.length };
  },
});

/** Suppliers that stand by themselves. */
export const listSuppliers = question({
  role: 'technician',
  input: z.object({}),
  run: (lab) => lab.store.suppliers.find({ mergedInto: null }, { order: [['name', 'ASC']] }),
});
