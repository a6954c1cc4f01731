import { createHash } from 'node:crypto';
import { canonicalJson } from '@dusk-tally/core/units';
import type { DisputeRow } from '@dusk-tally/store';
import type { DisputeFacts } from './facts';

/** A hash of what letters and files rest on: results, what is judged of them, the grounds of the amount. */
export function basisOf({ lot, verdict, books, lines, deadlineOn }: DisputeFacts): string {
  const known = {
    items: verdict.items.map(({ kind, claimed, counts, lot: whole }) => ({
      kind,
      claimed,
      counts,
      whole: whole?.state ?? null,
    })),
    lines: lines.map(
      ({ number, capacityAh, capacityU, bound, verdict: judged, held, ...line }) => ({
        number,
        capacityAh,
        capacityU,
        bound,
        judged,
        isHeld: held !== null,
        acMohm: line.acMohm,
        acVerdict: line.acVerdict,
        against: line.against,
      }),
    ),
    grounds: books.grounds,
    order: [lot.orderedOn, lot.orderedQuantity, lot.arrivedOn, lot.price, lot.discount],
    deadlineOn,
  };
  return createHash('sha256').update(canonicalJson(known)).digest('hex');
}

/** What a letter or a file says that is not so any more. */
export type Overtaken = 'amount' | 'evidence';

/** What of a letter or a file is overtaken; of those made before it was kept nothing is said. */
export const overtakenBy = (
  made: { askCents: number | null; basis: string | null },
  { askCents }: DisputeRow,
  basis: string,
): Overtaken[] => [
  ...(made.askCents !== null && made.askCents !== askCents ? ['amount' as const] : []),
  ...(made.basis !== null && made.basis !== basis ? ['evidence' as const] : []),
];
