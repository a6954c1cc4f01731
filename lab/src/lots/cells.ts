import { formatCellNumber } from '@dusk-tally/core/arrivals';
import type { CellRow, Transaction } from '@dusk-tally/store';
import { found, type Lab } from '../shared';

export type NewCell = Partial<Pick<CellRow, 'label' | 'box' | 'packId' | 'groupIndex' | 'harvest'>>;

/** Numbers new cells of a lot in the lab's own series, behind those it has. That cells changed is the caller’s to say. */
export async function numberCells(
  lab: Lab,
  lotId: number,
  cells: readonly NewCell[],
  transaction: Transaction,
): Promise<{ first: string; last: string; ids: number[] } | null> {
  if (cells.length === 0) return null;
  const { store } = lab;
  const settings = found(
    await store.settings.one({ id: 1 }, { transaction }),
    'The lab’s settings',
  );
  const last = await store.cells.one(
    { lotId },
    { transaction, order: [['position', 'DESC']], columns: ['position'] },
  );
  const position = last?.position ?? 0;
  const first = await store.takeNumbers(`cell ${settings.cellPrefix}`, cells.length, transaction);
  const rows = cells.map((cell, i) => ({
    lotId,
    position: position + i + 1,
    number: formatCellNumber(settings.cellPrefix, first + i),
    label: cell.label || null,
    box: cell.box ?? null,
    packId: cell.packId ?? null,
    groupIndex: cell.groupIndex ?? null,
    controlSince: null,
    retightenedAt: null,
    harvest: cell.harvest ?? null,
  }));
  await store.cells.insertMany(rows, transaction);
  const ids = (
    await store.cells.find(
      { lotId },
      { transaction, columns: ['id', 'position'], order: [['position', 'ASC']] },
    )
  )
    .filter((cell) => cell.position > position)
    .map((cell) => cell.id);
  return { first: rows[0]!.number, last: rows[rows.length - 1]!.number, ids };
}
