import type { BenchRecordRow, BenchRunRow, Transaction } from '@dusk-tally/store';
import { type Lab, systemActor } from '../shared';
import { z } from 'zod';
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

/** What one event leads to beside a blocked cell: an alarm, the run’s end. */
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
  }
  if (what?.event === 'ended') {
    const { reason: why, completed } = what;
    await closeRun(lab, run.id, { reason: why, completed, at }, transaction);
  }
}

/**
 * Text of an alarm that blocks, in whatever else cannot be read: a cell that heats is blocked even
 * where the record of it is of another version (handbook, Safety).
 */
export function blocksIn(event: unknown): string | null {
  const alarm = blocking.safeParse(event).data;
  return alarm ? (alarm.text ?? 'An alarm that could not be read says so.') : null;
}

const blocking = z.object({
  event: z.literal('alarm'),
  action: z.literal('block'),
  text: z.string().optional().catch(undefined),
});

/** Blocks the cell first and by itself: nothing else that fails may undo it. */
export async function blockFirst(
  lab: Lab,
  run: RunOfBatch,
  events: readonly unknown[],
  aside: SetAside,
  transaction: Transaction,
): Promise<void> {
  const [text] = events.flatMap((event) => blocksIn(event) ?? []);
  if (text === undefined) return;
  const done = await lab.store.attempt(transaction, (inner) => blockHeater(lab, run, text, inner));
  if (!done.ok)
    aside.add({
      run: run.id,
      seq: null,
      reason: `The cell could not be blocked: ${done.error.message}`,
      body: text,
    });
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
