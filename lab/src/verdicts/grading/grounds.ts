import { type LotGrounds, lotGrounds } from '@dusk-tally/core/verdicts';
import type { Transaction } from '@dusk-tally/store';
import { heldRuns } from '../../evidence';
import type { Lab } from '../../shared';

/** What the cells of a lot are held against, as it was last worked out; null before. */
export const storedGrounds = async (
  lab: Lab,
  lotId: number,
  transaction: Transaction,
): Promise<LotGrounds | null> =>
  (await lab.store.grading.grounds.one({ lotId }, { transaction }))?.grounds ?? null;

/** Medians and early rises of a lot by today’s evidence. */
export async function groundsOf(
  lab: Lab,
  lotId: number,
  transaction: Transaction,
): Promise<LotGrounds> {
  const { store } = lab;
  const [ac, latest, runs, held] = await Promise.all([
    store.verdicts.assessments.find(
      { lotId, item: 'acResistance', bound: 'exact' },
      { transaction, columns: ['cellId', 'value'] },
    ),
    store.figures.find(
      { lotId, quantity: 'dcResistance10s' },
      { transaction, columns: ['id', 'cellId', 'runId', 'value'], order: [['id', 'ASC']] },
    ),
    store.runs.find(
      { lotId },
      { transaction, columns: ['id', 'cellId', 'summary'], order: [['id', 'ASC']] },
    ),
    heldRuns(lab, [lotId]),
  ]);
  const dc = new Map(
    latest.flatMap(({ cellId, runId, value }) =>
      runId !== null && held.has(runId) ? [] : [[cellId, value] as const],
    ),
  );
  const tails = new Map(
    runs.flatMap(({ id, cellId, summary }) => {
      const tail = summary.shape?.chargeTailV;
      return tail && !held.has(id) ? [[String(cellId), tail] as const] : [];
    }),
  );
  return lotGrounds(
    ac.flatMap(({ value }) => value ?? []),
    [...dc.values()],
    tails,
  );
}

/** Works out anew what a lot gives to be held against. @returns whether anything of it changed. */
export async function refreshGrounds(
  lab: Lab,
  lotId: number,
  transaction: Transaction,
): Promise<boolean> {
  const [before, grounds] = await Promise.all([
    storedGrounds(lab, lotId, transaction),
    groundsOf(lab, lotId, transaction),
  ]);
  if (JSON.stringify(before) === JSON.stringify(grounds)) return false;
  await lab.store.grading.grounds.replaceMany([{ lotId, grounds }], transaction);
  return true;
}
