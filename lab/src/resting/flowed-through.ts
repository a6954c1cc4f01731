import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** Moments at which current began to flow through cells, by cell; logs without a date tell none. */
export async function flowedThrough(
  lab: Lab,
  cellIds: readonly number[],
  transaction?: Transaction,
): Promise<Map<number, Date[]>> {
  const asked = { transaction, columns: ['cellId', 'startedAt'] as ('cellId' | 'startedAt')[] };
  const [logs, benchRuns] = await Promise.all([
    lab.store.runs.find({ cellId: cellIds }, asked),
    lab.store.bench.runs.find({ cellId: cellIds }, asked),
  ]);
  const byCell = new Map<number, Date[]>();
  for (const { cellId, startedAt } of [...logs, ...benchRuns])
    if (startedAt) byCell.set(cellId, [...(byCell.get(cellId) ?? []), startedAt]);
  return byCell;
}
