import { GATE_WORDS, mayGoOnTester } from '@dusk-tally/core/arrivals';
import type { CellRow, Transaction } from '@dusk-tally/store';
import { type Lab, LabError } from '../shared';

/**
 * Refuses what would put a cell on a tester while its arrival forbids it (handbook, Safety).
 * @param despite a lead's reason to take evidence in all the same, for a run made before.
 */
export async function requireOpenGate(
  lab: Lab,
  cell: Pick<CellRow, 'id' | 'number'>,
  despite: string | null,
  transaction: Transaction,
): Promise<void> {
  const arrival = await lab.store.arrivals.cells.one({ cellId: cell.id }, { transaction });
  if (mayGoOnTester(arrival?.gate) || despite) return;
  if (!arrival || !(arrival.gate in GATE_WORDS))
    throw new LabError(
      'notAllowed',
      `Nobody knows yet whether ${cell.number} may go on a tester, so it may not. Nothing was stored. Open its lot's arrival, and inspect it.`,
      { link: `/cells/${cell.number}` },
    );
  const why =
    arrival.gate === 'quarantined' || arrival.gate === 'blocked'
      ? 'see its findings'
      : arrival.triageReason;
  throw new LabError(
    'notAllowed',
    `${cell.number} is ${GATE_WORDS[arrival.gate]} (${why}) and may not go on a tester. Nothing was stored. If the run was made before that was known, a lead can take it in with a reason.`,
    { link: `/cells/${cell.number}`, gate: arrival.gate },
  );
}
