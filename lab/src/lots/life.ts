import { ACTIVE_RUN_STATES } from '@dusk-tally/core/bench';
import { mayGoOnTester } from '@dusk-tally/core/arrivals';
import { JUST_ARRIVED, type LifeFacts, lifeState, type LifeState } from '@dusk-tally/core/stock';
import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** What a gate says of a cell’s life; everything it does not name holds not. */
export const lifeOfGate = (gate: string | null): Pick<LifeFacts, 'setApart' | 'ready'> => ({
  setApart: gate === 'quarantined' || gate === 'discard',
  // A cell whose arrival is not finished may be tested, but is not ready.
  ready: gate !== 'open' && mayGoOnTester(gate),
});

/** Where the cells of a lot are in their lives now, by cell. */
export async function lifeStates(
  lab: Lab,
  lotId: number,
  transaction?: Transaction,
): Promise<Map<number, LifeState>> {
  const { arrivals, bench, resting, verdicts } = lab.store;
  const [cells, runs, rests, standings] = await Promise.all([
    arrivals.cells.find({ lotId }, { transaction, columns: ['cellId', 'gate'] }),
    bench.runs.find({ lotId, state: ACTIVE_RUN_STATES }, { transaction, columns: ['cellId'] }),
    resting.rests.find({ lotId, endedAt: null }, { transaction, columns: ['cellId'] }),
    verdicts.standings.find(
      { lotId, grade: { not: null } },
      { transaction, columns: ['cellId', 'grade'] },
    ),
  ]);
  const onBench = new Set(runs.map(({ cellId }) => cellId));
  const onShelf = new Set(rests.map(({ cellId }) => cellId));
  const graded = new Set(standings.map(({ cellId }) => cellId));
  return new Map(
    cells.map(({ cellId, gate }) => [
      cellId,
      lifeState({
        ...JUST_ARRIVED,
        ...lifeOfGate(gate),
        onBench: onBench.has(cellId),
        resting: onShelf.has(cellId),
        graded: graded.has(cellId),
      }),
    ]),
  );
}
