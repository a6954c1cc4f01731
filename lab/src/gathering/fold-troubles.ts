import { z } from 'zod';
import { DUE, type DueItem, found, type Lab, LabError, procedure, question } from '../shared';

/** First wait before a run that could not be taken in is tried again, ms; doubled each time. */
const FIRST_WAIT_MS = 60_000;
const LONGEST_WAIT_MS = 3_600_000;

/** Notes why a run could not be taken in, and when it is tried again. */
export async function noteTrouble(lab: Lab, benchRunId: number, reason: string): Promise<void> {
  const { foldTroubles } = lab.store.bench;
  const now = lab.now();
  const before = await foldTroubles.one({ benchRunId });
  const tries = (before?.tries ?? 0) + 1;
  const waitMs = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (tries - 1));
  const told = { reason, tries, nextAt: new Date(now.getTime() + waitMs) };
  if (before) await foldTroubles.update(told, { benchRunId });
  else await foldTroubles.insert({ benchRunId, ...told, at: now, leftBy: null, leftReason: null });
}

/** Why a run is no evidence, or not whole; null where nothing stood in the way. */
export const foldTrouble = question({
  role: 'technician',
  input: z.object({ benchRunId: z.int() }),
  run: async (lab, { benchRunId }) => {
    const row = await lab.store.bench.foldTroubles.one({ benchRunId });
    if (!row) return null;
    const { reason, tries, nextAt, leftReason } = row;
    return { reason, tries, nextAt, leftReason };
  },
});

async function openTrouble(lab: Lab, benchRunId: number) {
  const row = found(await lab.store.bench.foldTroubles.one({ benchRunId }), 'That trouble');
  if (row.leftBy !== null)
    throw new LabError('conflict', 'Somebody left this run without evidence meanwhile.');
  return row;
}

/** Has a run that could not be taken in tried again at once. */
export const tryFoldAgain = procedure({
  role: 'technician',
  input: z.object({ benchRunId: z.int() }),
  run: async ({ lab, input, transaction }): Promise<void> => {
    await openTrouble(lab, input.benchRunId);
    await lab.store.bench.foldTroubles.update(
      { nextAt: lab.now() },
      { benchRunId: input.benchRunId },
      transaction,
    );
  },
});

/** Leaves a run as it is, without evidence of what was refused; its records stay. */
export const leaveUnfolded = procedure({
  role: 'lead',
  input: z.object({
    benchRunId: z.int(),
    reason: z.string().trim().min(3, 'Expected a reason.').max(400),
  }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const { benchRunId, reason } = input;
    const row = await openTrouble(lab, benchRunId);
    const { runs, foldTroubles } = lab.store.bench;
    await runs.update({ state: 'stored' }, { id: benchRunId, state: 'ended' }, transaction);
    await foldTroubles.update(
      { leftBy: actor.id, leftReason: reason },
      { benchRunId },
      transaction,
    );
    await audit({
      act: 'left a run without evidence',
      subjectType: 'bench',
      subjectId: String(benchRunId),
      before: { reason: row.reason },
      after: { reason },
    });
  },
});

/** What is due of runs that could not be taken in. */
export type FoldDue = 'noEvidence';

/** Runs that ended and are no evidence yet, each with its reason. */
export async function dueFolds(lab: Lab): Promise<DueItem<FoldDue>[]> {
  const { bench, cells, lots } = lab.store;
  const rows = await bench.foldTroubles.find({ leftBy: null }, { order: [['benchRunId', 'ASC']] });
  if (rows.length === 0) return [];
  const runs = await bench.runs.find(
    { id: rows.map(({ benchRunId }) => benchRunId), state: 'ended' },
    { columns: ['id', 'cellId', 'lotId'] },
  );
  const [named, ofLots] = await Promise.all([
    cells.find({ id: runs.map(({ cellId }) => cellId) }, { columns: ['id', 'number'] }),
    lots.find({ id: runs.map(({ lotId }) => lotId) }, { columns: ['id', 'code', 'title'] }),
  ]);
  const numbers = new Map(named.map(({ id, number }) => [id, number]));
  const lotOf = new Map(ofLots.map(({ id, code, title }) => [id, { code, title }]));
  const reasons = new Map(rows.map(({ benchRunId, reason }) => [benchRunId, reason]));
  return runs.map(({ id, cellId, lotId }) => ({
    ...DUE,
    key: `no evidence of run ${id}`,
    stage: 'bench',
    kind: 'noEvidence',
    urgency: 'now',
    lot: lotOf.get(lotId) ?? null,
    note: `Run ${id} of ${numbers.get(cellId)} ended and is no evidence yet: ${reasons.get(id)}`,
    path: `/bench/runs/${id}`,
  }));
}
