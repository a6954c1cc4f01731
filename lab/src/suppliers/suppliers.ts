import type { SupplierRow } from '@dusk-tally/store';
import { z } from 'zod';
import { isDuplicate, LabError, procedure, question } from '../shared';

export const supplierInput = z.object({
  name: z.string().trim().min(1, 'Expected the supplier’s name.').max(120),
  place: z.string().trim().max(120).nullish(),
  notes: z.string().trim().max(4000).nullish(),
});

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

export const listSuppliers = question({
  role: 'technician',
  input: z.object({}),
  run: (lab) => lab.store.suppliers.find({}, { order: [['name', 'ASC']] }),
});
