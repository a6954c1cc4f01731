import type { BenchRecordRow, BenchRunRow, Transaction } from '@dusk-tally/store';
import { type Lab, systemActor } from '../shared';
import { closeRun } from './close-run';
import { SetAside } from './set-aside';

type RunOfBatch = Pick<BenchRunRow, 'id' | 'cellId' | 'lotId' | 'state' | 'personId'>;

/** A heater is blocked for good, and what was planned with it is off. */
async function blockHeater(
  lab: Lab,
  run: RunOfBatch,
  text: string,
  transaction: Transaction,
): Promise<void> {
  const { bench, arrivals } = lab.store;
  const { id: personId } = await systemActor(lab, undefined, transaction);
  await arrivals.markCells(
    {
      lotId: run.lotId,
      act: 'finding',
      code: 'heater',
      note: `bench run ${run.id}: ${text}`.slice(0, 400),
      personId,
      at: lab.now(),
    },
    [run.cellId],
    transaction,
  );
  await lab.derive([{ what: 'inspection', lotId: run.lotId, cellIds: [run.cellId] }], transaction);
  const open = await bench.jobs.find(
    { cellId: run.cellId, state: ['waiting', 'planned'] },
    { transaction },
  );
  for (const job of open)
    await bench.jobs.update(
      {
        state: 'cancelled',
        parts: [],
        pinned: false,
        endedReason: 'The cell heats on charge and is blocked.',
        version: job.version + 1,
      },
      { id: job.id },
      transaction,
    );
}

/** What one event leads to: an alarm, a cell blocked for good, the run’s end. */
async function consequence(
  lab: Lab,
  run: RunOfBatch,
  { seq, event: what }: BenchRecordRow,
  transaction: Transaction,
): Promise<void> {
  const at = lab.now();
  if (what?.event === 'alarm') {
    const { code, action, text } = what;
    await lab.store.bench.alarms.insert(
      {
        benchRunId: run.id,
        seq,
        cellId: run.cellId,
        code,
        action,
        text: text.slice(0, 400),
        at,
        acknowledgedAt: null,
        acknowledgedBy: null,
      },
      transaction,
    );
    if (action === 'block') await blockHeater(lab, run, text, transaction);
  }
  if (what?.event === 'ended') {
    const { reason: why, completed } = what;
    await closeRun(lab, run.id, { reason: why, completed, at }, transaction);
  }
}

/** What new events lead to; where one of them cannot be followed it is set aside, and the rest goes on. */
export async function consequences(
  lab: Lab,
  run: RunOfBatch,
  rows: readonly BenchRecordRow[],
  aside: SetAside,
  transaction: Transaction,
): Promise<void> {
  if (rows.length > 0 && run.state === 'ready')
    await lab.store.bench.runs.update(
      { state: 'running', startedAt: lab.now() },
      { id: run.id },
      transaction,
    );
  for (const row of rows) {
    if (row.event?.event !== 'alarm' && row.event?.event !== 'ended') continue;
    const done = await lab.store.attempt(transaction, (inner) => consequence(lab, run, row, inner));
    if (!done.ok)
      aside.add({
        run: run.id,
        seq: row.seq,
        reason: `It is kept, and what follows from it failed: ${done.error.message}`,
        body: row.event,
      });
  }
}
