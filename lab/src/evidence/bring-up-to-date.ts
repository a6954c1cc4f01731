import { STATE_WORDS } from '@dusk-tally/core/verdicts';
import type { AssessmentRow } from '@dusk-tally/store';
import { loadClaim } from '../lots';
import type { Lab } from '../shared';
import { recomputeRuns } from './recompute';
import { staleRuns } from './run-inputs';

/** Runs computed again in one transaction. */
const AT_ONCE = 50;

/** What bringing old results up to date did. */
export interface BroughtUpToDate {
  runs: number;
  lots: number;
  /** Cells whose capacity verdict or hold changed. */
  changed: { cell: string; before: string; after: string }[];
}

const words = ({ state, detail }: Pick<AssessmentRow, 'state' | 'detail'>): string =>
  state === 'held' ? `held: ${detail.why[0] ?? ''}` : STATE_WORDS[state];

/**
 * Computes again, from their stored traces, results an earlier version of the method made, and
 * judges all lots by today’s rules. Doing it again changes nothing.
 */
export async function bringUpToDate(lab: Lab): Promise<BroughtUpToDate> {
  const { store } = lab;
  const lots = await store.lots.find({}, { columns: ['id'] });
  const outdated: { id: number; lotId: number }[] = [];
  for (const { id: lotId } of lots) {
    const { claim } = await loadClaim(lab, lotId);
    for (const { id } of await staleRuns(lab, { lotId, cellIds: null }, claim))
      outdated.push({ id, lotId });
  }
  const stale = await store.verdicts.standings.count({ inputHash: '' });
  if (outdated.length === 0 && stale === 0) return { runs: 0, lots: 0, changed: [] };
  const capacities = () =>
    store.verdicts.assessments.find(
      { item: 'capacity' },
      { columns: ['cellId', 'state', 'detail'] },
    );
  const before = new Map((await capacities()).map((row) => [row.cellId, words(row)]));
  const byLot = new Map<number, number[]>();
  for (const { id, lotId } of outdated) byLot.set(lotId, [...(byLot.get(lotId) ?? []), id]);
  for (const [lotId, ids] of byLot)
    for (let from = 0; from < ids.length; from += AT_ONCE)
      await store.transaction(async (transaction) => {
        const { claim } = await loadClaim(lab, lotId, transaction);
        await recomputeRuns(lab, lotId, claim, transaction, ids.slice(from, from + AT_ONCE));
      });
  for (const { id: lotId } of lots)
    await store.transaction((transaction) =>
      lab.derive(
        [
          { what: 'cells', lotId },
          { what: 'figures', lotId },
        ],
        transaction,
      ),
    );
  const after = await capacities();
  const cells = await store.cells.find({}, { columns: ['id', 'number'] });
  const number = new Map(cells.map((cell) => [cell.id, cell.number]));
  return {
    runs: outdated.length,
    lots: lots.length,
    changed: after.flatMap((row) => {
      const was = before.get(row.cellId) ?? STATE_WORDS.waitingFor;
      const is = words(row);
      return was === is ? [] : [{ cell: number.get(row.cellId) ?? '', before: was, after: is }];
    }),
  };
}
