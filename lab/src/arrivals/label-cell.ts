import { asMark } from '@dusk-tally/core/arrivals';
import type { CellRow } from '@dusk-tally/store';
import { cellMarkInput } from '../inputs';
import { found, LabError, procedure } from '../shared';

/** Gives a cell the mark it carries. */
export const labelCell = procedure({
  role: 'technician',
  input: cellMarkInput,
  run: async ({ lab, input, transaction, audit, changed }): Promise<CellRow> => {
    const cell = found(
      await lab.store.cells.one({ id: input.cellId }, { transaction }),
      'That cell',
    );
    const label = asMark(input.label) || null;
    const reason = input.reason?.trim() ?? '';
    const isFirst = cell.label === null || cell.label === label;
    if (cell.version === input.version && !isFirst && reason.length < 3)
      throw new LabError(
        'invalid',
        `${cell.number} reads “${cell.label}”: say why it is to be another.`,
        {
          field: 'reason',
        },
      );
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
      after: { label, ...(reason === '' ? {} : { reason }) },
    });
    changed({ what: 'codes', lotId: cell.lotId, cellIds: [cell.id] });
    return { ...cell, label, version: input.version + 1 };
  },
});
