import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** Ends a run in the books; its evidence is taken in afterwards. */
export async function closeRun(
  lab: Lab,
  benchRunId: number,
  { reason, completed, at }: { reason: string; completed: boolean; at: Date },
  transaction: Transaction,
): Promise<void> {
  const { bench } = lab.store;
  const run = await bench.runs.one({ id: benchRunId }, { transaction, forUpdate: true });
  if (!run || run.state === 'ended' || run.state === 'stored') return;
  await bench.runs.update(
    {
      state: 'ended',
      endedAt: at,
      endReason: reason.slice(0, 400),
      completed,
      version: run.version + 1,
    },
    { id: benchRunId },
    transaction,
  );
  await bench.live.update({ phase: 'ended' }, { benchRunId }, transaction);
  await bench.commands.update({ doneAt: at }, { benchRunId, doneAt: null }, transaction);
  if (run.jobId !== null) {
    const job = await bench.jobs.one({ id: run.jobId }, { transaction, forUpdate: true });
    if (job)
      await bench.jobs.update(
        {
          state: completed ? 'done' : 'ended',
          endedReason: completed ? null : reason.slice(0, 400),
          version: job.version + 1,
        },
        { id: job.id },
        transaction,
      );
  }
}
