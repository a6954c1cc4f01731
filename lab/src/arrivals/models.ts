import type { CellModelRow } from '@dusk-tally/store';
import { z } from 'zod';
import { modelChange, modelInput } from '../inputs';
import { found, isDuplicate, LabError, procedure, question } from '../shared';

/** Adds a cell model with what its data sheet says. */
export const addModel = procedure({
  role: 'lead',
  input: modelInput,
  run: async ({ lab, input, transaction, audit }): Promise<CellModelRow> => {
    try {
      const row = await lab.store.cellModels.insert(
        { ...input, createdAt: lab.now() },
        transaction,
      );
      await audit({
        act: 'added cell model',
        subjectType: 'cell model',
        subjectId: row.id,
        after: input,
      });
      return row;
    } catch (error) {
      if (isDuplicate(error))
        throw new LabError('duplicate', `A cell model named ${input.name} is here already.`, {
          field: 'name',
        });
      throw error;
    }
  },
});

export const listModels = question({
  role: 'technician',
  input: z.object({}),
  run: (lab) => lab.store.cellModels.find({}, { order: [['name', 'ASC']] }),
});

/** How many lots are of each model. */
export const lotsOfModels = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<Record<number, number>> => {
    const counts: Record<number, number> = {};
    for (const { modelId } of await lab.store.lots.find({}, { columns: ['modelId'] }))
      counts[modelId] = (counts[modelId] ?? 0) + 1;
    return counts;
  },
});

const SHEET_FIELDS = Object.keys(modelChange.shape.sheet.shape) as (keyof CellModelRow)[];

/**
 * Fills in or mends what a data sheet says, or what a model is called. Claims that leave something
 * open inherit from here: cells that read it are judged anew.
 */
export const completeModel = procedure({
  role: 'lead',
  input: modelChange,
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const { store } = lab;
    const { id, version, reason } = input;
    const before = found(await store.cellModels.one({ id }, { transaction }), 'That cell model');
    // What is not said stays: the schema makes null of what is missing.
    const sheet = Object.fromEntries(
      SHEET_FIELDS.flatMap((name) => {
        const value = (input.sheet as Record<string, unknown>)[name];
        return value === undefined ? [] : [[name, value]];
      }),
    ) as Partial<CellModelRow>;
    const updated = await store.cellModels
      .update({ ...sheet, version: version + 1 }, { id, version }, transaction)
      .catch((error: unknown) => {
        if (isDuplicate(error))
          throw new LabError(
            'duplicate',
            `A cell model named ${input.sheet.name} is here already.`,
            {
              field: 'sheet.name',
            },
          );
        throw error;
      });
    if (updated === 0)
      throw new LabError(
        'conflict',
        'Someone else changed this model meanwhile. Nothing was stored; choose between theirs and yours.',
        { current: { ...before, sheet: before } },
      );
    changed({ what: 'cellModel', modelId: id });
    await audit({
      act: 'completed data sheet',
      subjectType: 'cell model',
      subjectId: id,
      before: Object.fromEntries(
        Object.keys(sheet).map((name) => [name, before[name as keyof CellModelRow]]),
      ),
      after: { ...sheet, reason },
    });
  },
});
