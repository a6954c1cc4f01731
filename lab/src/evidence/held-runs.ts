import type { RunSummary } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** Findings of a discharge that did not come to its end, or not all of which is there. */
const INCOMPLETE = new Set([
  'ended-above-cut-off',
  'run-incomplete',
  'cut-off-in-hole',
  'cut-off-in-hole-uncounted',
  'hole-not-counted',
  'load-in-hole',
]);

/** Whether a run’s curve is one from full to its cut-off. */
export const isWholeDischarge = ({ findings }: Pick<RunSummary, 'findings'>): boolean =>
  !findings.some(({ code }) => INCOMPLETE.has(code));

/** Runs of lots whose results are held: they are in no statistic and in no picture of the usual. */
export async function heldRuns(lab: Lab, lotIds: number[]): Promise<Set<number>> {
  const rows = await lab.store.results.holds.find(
    { lotId: lotIds, liftedAt: null },
    { columns: ['id', 'runId'] },
  );
  return new Set(rows.flatMap(({ runId }) => runId ?? []));
}
