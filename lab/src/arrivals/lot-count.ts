import type { CellRow, LotRow, Transaction } from '@dusk-tally/store';
import { type Lab, LabError, procedure } from '../shared';
import { numberCells, openLot } from '../lots';
import { countInput } from '../inputs';

/**
 * Sets how many cells are here. More get numbers of the series; fewer takes the last ones away,
 * unless something was ever measured or found on one of them.
 */
export const setCount = procedure({
  role: 'technician',
  input: countInput,
  run: async ({
    lab,
    actor,
    input,
    transaction,
    audit,
    changed,
  }): Promise<{ quantity: number }> => {
    const { store } = lab;
    const lot = await openLot(lab, input.lotId, transaction, true);
    const cells = await store.cells.find(
      { lotId: lot.id },
      { transaction, order: [['position', 'ASC']], columns: ['id', 'number', 'position'] },
    );
    if (input.count < cells.length)
      await removeCells(lab, lot, cells.slice(input.count), transaction);
    else
      await numberCells(
        lab,
        lot.id,
        Array.from({ length: input.count - cells.length }, () => ({})),
        transaction,
      );
    await store.arrivals.receiving.insert(
      { lotId: lot.id, field: 'counted', value: input.count, personId: actor.id, at: lab.now() },
      transaction,
    );
    if (input.count !== cells.length) {
      await store.lots.update({ quantity: input.count }, { id: lot.id }, transaction);
      changed({ what: 'cells', lotId: lot.id });
    }
    await audit({
      act: 'counted cells',
      subjectType: 'lot',
      subjectId: lot.code,
      before: { quantity: cells.length },
      after: { quantity: input.count },
    });
    return { quantity: input.count };
  },
});

async function removeCells(
  lab: Lab,
  lot: LotRow,
  cells: Pick<CellRow, 'id' | 'number'>[],
  transaction: Transaction,
): Promise<void> {
  const { store } = lab;
  const ids = cells.map((cell) => cell.id);
  const where = { cellId: ids };
  const used = new Set<number>();
  for (const rows of [
    await store.readings.find(where, { transaction, columns: ['cellId'] }),
    await store.runs.find(where, { transaction, columns: ['cellId'] }),
    await store.arrivals.inspections.find(where, { transaction, columns: ['cellId'] }),
    await store.arrivals.codeScans.find(where, { transaction, columns: ['cellId'] }),
    await store.arrivals.recoveries.find(where, { transaction, columns: ['cellId'] }),
    await store.grading.decisions.find(where, { transaction, columns: ['cellId'] }),
  ])
    for (const row of rows) used.add(row.cellId);
  const kept = cells.filter((cell) => used.has(cell.id));
  if (kept.length > 0)
    throw new LabError(
      'conflict',
      `${kept[0]!.number}${kept.length > 1 ? ` and ${kept.length - 1} more` : ''} of the cells beyond ${lot.quantity - cells.length} ${kept.length > 1 ? 'have' : 'has'} codes, readings or findings already. Nothing was changed; count again, or leave them in the lot.`,
    );
  await store.verdicts.assessments.remove(where, transaction);
  await store.verdicts.standings.remove(where, transaction);
  await store.arrivals.cells.remove(where, transaction);
  await store.cells.remove({ id: ids }, transaction);
}
