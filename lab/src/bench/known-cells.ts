import type { Transaction } from '@dusk-tally/store';
import { labDay } from '../lots';
import type { Lab } from '../shared';

const DAY_MS = 86_400_000;

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

/** Day a cell on the shelf is to be read on; null where it does not stand, or that day has come. */
export async function restUntil(
  lab: Lab,
  cellId: number,
  now: Date,
  transaction?: Transaction,
): Promise<string | null> {
  const rest = await lab.store.resting.rests.one(
    { cellId, takenOff: false, endedAt: null },
    { transaction, order: [['id', 'DESC']] },
  );
  if (!rest) return null;
  const due = new Date(rest.fullAt.getTime() + rest.protocol.looks[rest.look]!.dueDays * DAY_MS);
  return now < due ? labDay(lab, transaction, due) : null;
}
