import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/**
 * Which of some cells were charged here before: those with a log, and those whose run with a charge
 * in it was gone through on the bench, driven or by hand. An alarm or a stop makes no cell known.
 */
export async function knownCells(
  lab: Lab,
  cellIds: readonly number[],
  transaction?: Transaction,
): Promise<ReadonlySet<number>> {
  if (cellIds.length === 0) return new Set();
  const wanted = { cellId: [...cellIds] };
  const [logged, benchRuns] = await Promise.all([
    lab.store.runs.find(wanted, { transaction, columns: ['cellId'] }),
    lab.store.bench.runs.find(
      { ...wanted, completed: true },
      { transaction, columns: ['cellId', 'program'] },
    ),
  ]);
  const charged = benchRuns.filter(({ program }) => program.some(({ kind }) => kind === 'charge'));
  return new Set([...logged, ...charged].map(({ cellId }) => cellId));
}
