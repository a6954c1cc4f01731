import type { SamplingPlanRow, Transaction } from '@dusk-tally/store';
import { reopenSampleInput } from '../inputs';
import { openLot } from '../lots';
import { found, type Lab, LabError, procedure } from '../shared';
import { keptSamples } from './kept-samples';
import { planOutcome, sampleStateOf } from './sample-view';

/** Cells whose capacity that counts comes from a log: a typed one may still be mended before the decision. */
async function withTrace(
  lab: Lab,
  cellIds: readonly number[],
  transaction: Transaction,
): Promise<Set<number>> {
  const standings = await lab.store.verdicts.standings.find(
    { cellId: [...cellIds] },
    { transaction, columns: ['cellId', 'capacityRawFigureId'] },
  );
  const ids = standings.flatMap(({ capacityRawFigureId }) => capacityRawFigureId ?? []);
  if (ids.length === 0) return new Set();
  const figures = await lab.store.figures.find(
    { id: ids },
    { transaction, columns: ['id', 'cellId', 'runId'] },
  );
  return new Set(figures.flatMap(({ cellId, runId }) => (runId === null ? [] : [cellId])));
}

/**
 * Keeps what drawn cells of a lot came to first, and what the plan is decided as, once it is: later
 * results of the same cells do not turn it (handbook, chapter 1; sampling is not testing until it passes).
 */
export async function keepSampleResults(
  lab: Lab,
  lotId: number,
  transaction: Transaction,
): Promise<void> {
  const { store } = lab;
  const plan = await store.arrivals.samplingPlans.one(
    { lotId },
    { transaction, order: [['id', 'DESC']] },
  );
  if (!plan || plan.method === 'all') return;
  const [kept, capacities] = await Promise.all([
    keptSamples(lab, [plan.id], transaction).then((all) => all.get(plan.id)!),
    store.verdicts.assessments.find(
      { cellId: plan.cellIds, item: 'capacity' },
      { transaction, columns: ['cellId', 'state', 'value', 'bound'] },
    ),
  ]);
  if (kept.decided) return;
  const judged = capacities.flatMap((row) => {
    const state = sampleStateOf(row);
    const isResult = state === 'good' || state === 'short' || state === 'tooClose';
    return isResult && !kept.first.has(row.cellId) ? [{ ...row, state }] : [];
  });
  const known = new Map(capacities.map((row) => [row.cellId, row]));
  const outcome = planOutcome(plan, known, kept);
  const decided = outcome !== 'open';
  const traced = decided
    ? null
    : await withTrace(
        lab,
        judged.map(({ cellId }) => cellId),
        transaction,
      );
  const common = { planId: plan.id, reason: null, personId: null, at: lab.now() };
  const rows = [
    ...judged
      .filter(({ cellId }) => traced === null || traced.has(cellId))
      .map(({ cellId, state, value }) => ({ ...common, cellId, state, value })),
    ...(decided ? [{ ...common, cellId: null, state: outcome, value: null }] : []),
  ];
  if (rows.length > 0) await store.arrivals.samplingResults.insertMany(rows, transaction);
}

/** Opens a sample again, so that what counts now counts anew: by a lead, with a reason that stays. */
export const reopenSample = procedure({
  role: 'lead',
  input: reopenSampleInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const lot = await openLot(lab, input.lotId, transaction, true);
    const { samplingPlans, samplingResults } = lab.store.arrivals;
    const plan: SamplingPlanRow = found(
      await samplingPlans.one({ id: input.planId, lotId: lot.id }, { transaction }),
      'That sample',
    );
    const kept = (await keptSamples(lab, [plan.id], transaction)).get(plan.id)!;
    if (!kept.decided && kept.first.size === 0)
      throw new LabError('invalid', 'Nothing of this sample is decided yet.');
    await samplingResults.insert(
      {
        planId: plan.id,
        cellId: null,
        state: 'reopened',
        value: null,
        reason: input.reason,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    await audit({
      act: 'opened sample again',
      subjectType: 'lot',
      subjectId: lot.code,
      before: { decided: kept.decided?.state ?? null, results: kept.first.size },
      after: { reason: input.reason },
    });
    await keepSampleResults(lab, lot.id, transaction);
  },
});
