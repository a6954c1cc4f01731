import { disputeDeadline } from '@dusk-tally/core/verdicts';
import type { LotRow, SupplierRow } from '@dusk-tally/store';
import { loadClaim } from '../lots';
import { booksOfLot, type LotBooks } from '../money';
import { found, type Lab } from '../shared';
import { type CellLine, cellLines, headOf, type LotVerdict, verdictOfLot } from '../verdicts';

/** Everything known of a lot that is disputed. */
export interface DisputeFacts {
  lot: LotRow;
  supplier: SupplierRow;
  verdict: LotVerdict;
  books: LotBooks;
  lines: CellLine[];
  deadlineOn: string | null;
}

/** The last day of the window from the claim and the day of arrival; null where there is none. */
export async function deadlineOf(lab: Lab, lot: LotRow): Promise<string | null> {
  const { claim } = await loadClaim(lab, lot.id);
  const days = claim.items.find(({ kind }) => kind === 'disputeWindow')?.value ?? null;
  if (days === null || !lot.arrivedOn) return null;
  const window = disputeDeadline(days, lot.arrivedOn);
  return window.state === 'deadline' ? window.on : null;
}

/** Gathers what is known of a disputed lot now. */
export async function disputeFacts(lab: Lab, lotId: number): Promise<DisputeFacts> {
  const lot = found(await lab.store.lots.one({ id: lotId }), 'That lot');
  const head = await headOf(lab, lot);
  const lines = await cellLines(lab, lotId);
  const [verdict, books, deadlineOn] = await Promise.all([
    verdictOfLot(lab, head, lines),
    booksOfLot(lab, lotId),
    deadlineOf(lab, lot),
  ]);
  return { lot, supplier: head.supplier, verdict, books, lines, deadlineOn };
}
