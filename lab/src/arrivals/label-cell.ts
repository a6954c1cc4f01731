import { asMark } from '@dusk-tally/core/arrivals';
import type { CellRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, LabError, procedure } from '../shared';

/** Gives a cell the mark it carries. */
export const labelCell = procedure({
  role: 'technician',
  input: z.object({ cellId: z.int(), version: z.int(), label: z.string().trim().max(60) }),
  run: async ({ lab, input, transaction, audit, changed }): Promise<CellRow> => {
    const cell = found(
      await lab.store.cells.one({ id: input.cellId }, { transaction }),
      'That cell',
    );
    const label = asMark(input.label) || null;
    const updated = await lab.store.cells.update(
      { label, version: input.version + 1 },
      { id: cell.id, version: input.version },
      transaction,
    );
    if (updated === 0)
      throw new LabError(
        'conflict',
        `Someone else changed ${cell.number} meanwhile; it now reads “${cell.label ?? ''}”.`,
        { current: cell },
      );
    await audit({
      act: 'labelled cell',
      subjectType: 'cell',
      subjectId: cell.number,
      before: { label: cell.label },
      after: { label },
    });
    changed({ what: 'codes', lotId: cell.lotId, cellIds: [cell.id] });
    return { ...cell, label, version: input.version + 1 };
  },
});
