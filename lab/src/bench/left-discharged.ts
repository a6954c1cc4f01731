import { ACTIVE_RUN_STATES, alarm } from '@dusk-tally/core/bench';
import { isDuplicate, type Lab } from '../shared';

/** A discharged cell is to be charged again within this, ms (handbook, chapter 2). */
export const RECHARGE_WITHIN_MS = 30 * 60_000;
/** A run that ended longer ago is no longer looked at, ms. */
const LOOKED_BACK_MS = 48 * 3_600_000;

/** A cell whose last run ended at its cut-off, with nothing after it. */
export interface LeftDischarged {
  benchRunId: number;
  cellId: number;
  lastSeq: number;
  /** When it should be charged again at the latest. */
  due: Date;
}

/** Cells that were left at their cut-off and are on no run now. */
export async function leftDischarged(lab: Lab): Promise<LeftDischarged[]> {
  const { bench } = lab.store;
  const since = new Date(lab.now().getTime() - LOOKED_BACK_MS);
  const ended = await bench.runs.find(
    { state: ['ended', 'stored'], endedAt: { above: since } },
    { order: [['id', 'DESC']], limit: 200 },
  );
  if (ended.length === 0) return [];
  const cellIds = [...new Set(ended.map(({ cellId }) => cellId))];
  const [active, lives] = await Promise.all([
    bench.runs.find(
      { cellId: cellIds, state: ACTIVE_RUN_STATES },
      {
        columns: ['id', 'cellId'],
      },
    ),
    bench.live.find({ benchRunId: ended.map(({ id }) => id) }),
  ]);
  const newest = new Map<number, number>();
  for (const { id, cellId } of [...ended, ...active])
    newest.set(cellId, Math.max(newest.get(cellId) ?? 0, id));
  const live = new Map(lives.map((row) => [row.benchRunId, row]));
  return ended.flatMap((run): LeftDischarged[] => {
    const at = live.get(run.id);
    const step = run.program[at?.step ?? -1] ?? run.program[run.program.length - 1];
    const isLow = typeof at?.voltageV === 'number' && step?.kind === 'discharge';
    if (!isLow || newest.get(run.cellId) !== run.id) return [];
    return [
      {
        benchRunId: run.id,
        cellId: run.cellId,
        lastSeq: at.lastSeq,
        due: new Date(run.endedAt!.getTime() + RECHARGE_WITHIN_MS),
      },
    ];
  });
}

/** Raises an alarm, once a run, for each cell that waits for its recharge too long. */
export async function raiseOverdue(lab: Lab): Promise<void> {
  const now = lab.now();
  const { alarms } = lab.store.bench;
  const overdue = (await leftDischarged(lab)).filter(({ due }) => due < now);
  if (overdue.length === 0) return;
  const told = new Set(
    (
      await alarms.find({
        code: 'rechargeOverdue',
        benchRunId: overdue.map(({ benchRunId }) => benchRunId),
      })
    ).map(({ benchRunId }) => benchRunId),
  );
  for (const { benchRunId, cellId, lastSeq, due } of overdue) {
    if (told.has(benchRunId)) continue;
    const minutes = Math.round((now.getTime() - due.getTime() + RECHARGE_WITHIN_MS) / 60_000);
    const { code, action, text } = alarm(
      'rechargeOverdue',
      `At its cut-off for ${minutes} min; at most ${RECHARGE_WITHIN_MS / 60_000} min.`,
    );
    await alarms
      .insert({
        benchRunId,
        // Nothing of an ended run comes behind it any more.
        seq: lastSeq + 1,
        cellId,
        code,
        action,
        text,
        at: now,
        acknowledgedAt: null,
        acknowledgedBy: null,
      })
      .catch((error: unknown) => {
        // Told by another process at the same time.
        if (!isDuplicate(error)) throw error;
      });
  }
}
