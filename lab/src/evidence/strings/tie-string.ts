import type { StringLogRow, Transaction } from '@dusk-tally/store';
import { openLot } from '../../lots';
import { found, type Lab, LabError, procedure } from '../../shared';
import { takeBackStringInput, tieStringInput } from '../../inputs';

/** A log that still counts, as it was seen. @throws LabError where somebody changed it meanwhile. */
async function asSeen(
  lab: Lab,
  { stringId, version }: { stringId: number; version: number },
  transaction: Transaction,
): Promise<StringLogRow> {
  const row = found(
    await lab.store.strings.logs.one({ id: stringId }, { transaction, forUpdate: true }),
    'That log of a string',
  );
  if (row.takenBackAt)
    throw new LabError('conflict', `“${row.name}” was taken back. Nothing was stored.`);
  if (row.version !== version)
    throw new LabError(
      'conflict',
      `Somebody changed “${row.name}” meanwhile. Nothing was stored; load the page again.`,
    );
  return row;
}

/** Says which cell of the lot each column is of, and what the period is called. */
export const tieString = procedure({
  role: 'technician',
  input: tieStringInput,
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const { store } = lab;
    const row = await asSeen(lab, input, transaction);
    const lot = await openLot(lab, row.lotId, transaction);
    const { cellIds, name } = input;
    const refuse = (message: string): never => {
      throw new LabError('invalid', message, { field: 'cellIds' });
    };
    if (cellIds.length !== row.cellHeaders.length)
      refuse(
        `Expected ${row.cellHeaders.length} cells, one for each column; got ${cellIds.length}.`,
      );
    const cells = await store.cells.find(
      { lotId: row.lotId },
      { transaction, columns: ['id', 'number'] },
    );
    const numbers = new Map(cells.map(({ id, number }) => [id, number]));
    const named = cellIds.filter((id) => id !== null);
    const stranger = named.find((id) => !numbers.has(id));
    if (stranger !== undefined) refuse(`One of them is no cell of ${lot.code}.`);
    const twice = named.find((id, i) => named.indexOf(id) !== i);
    if (twice !== undefined)
      refuse(`${numbers.get(twice)} stands there twice; a cell has one column.`);
    await store.strings.logs.update(
      { cellIds, name, version: row.version + 1 },
      { id: row.id },
      transaction,
    );
    await audit({
      act: 'tied cells of a string',
      subjectType: 'string',
      subjectId: String(row.id),
      before: { name: row.name, cellIds: row.cellIds },
      after: { name, cellIds },
    });
  },
});

/** Takes a log back: it stays stored, and is watched no longer. */
export const takeBackString = procedure({
  role: 'technician',
  input: takeBackStringInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const row = await asSeen(lab, input, transaction);
    await lab.store.strings.logs.update(
      {
        takenBackAt: lab.now(),
        takenBackBy: actor.id,
        takenBackWhy: input.reason,
        sha256: null,
        version: row.version + 1,
      },
      { id: row.id },
      transaction,
    );
    await audit({
      act: 'took back the log of a string',
      subjectType: 'string',
      subjectId: String(row.id),
      after: { name: row.name, sha256: row.sha256, reason: input.reason },
    });
  },
});
