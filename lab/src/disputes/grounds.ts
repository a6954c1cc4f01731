import {
  carried,
  centsText,
  type Ground,
  type GroundKind,
  groundsCents,
} from '@dusk-tally/core/money';
import { formatNumber } from '@dusk-tally/core/units';
import type { DisputeRow } from '@dusk-tally/store';
import type { DisputeGround } from '../compute';
import type { LotBooks } from '../money';
import { LabError } from '../shared';

/** An amount is asked with its grounds: what is asked beyond them has words of its own. @throws LabError */
export function requireCarried(
  { grounds, currency }: LotBooks,
  { remedy, ask, ground }: { remedy: DisputeRow['remedy']; ask: number; ground: string | null },
): void {
  const carries = groundsCents(grounds[remedy]);
  if (ask <= carries || ground !== null) return;
  throw new LabError(
    'invalid',
    `The grounds carry ${centsText(carries)} ${currency}: say what the other ${centsText(ask - carries)} ${currency} is for, or ask for less.`,
    { field: 'ground' },
  );
}

/** As long as nothing was sent, what is asked is carried by what is known now, or its rest is told. @throws LabError */
export function requireStillCarried(dispute: DisputeRow, books: LotBooks): void {
  if (dispute.stage === 'draft')
    requireCarried(books, { ...dispute, ask: dispute.askCents, ground: dispute.ground });
}

/** The lines of what a dispute asks, adding up to it to the cent. */
export const linesOf = (
  { remedy, askCents, ground }: Pick<DisputeRow, 'remedy' | 'askCents' | 'ground'>,
  { grounds }: LotBooks,
): Ground[] => carried(grounds[remedy], askCents, ground === null ? 'askedBefore' : 'told');

const counted = (cells: number | null): string => `${cells} ${cells === 1 ? 'cell' : 'cells'}`;

const WORDS: Record<GroundKind, (ground: Ground, told: string | null) => string> = {
  missingCharge: ({ cells, ah }) =>
    `Missing charge: ${counted(cells)}, ${formatNumber(ah ?? 0, 2)} Ah at the price per claimed Ah`,
  deadCells: ({ cells }) => `Dead, damaged or dangerous, at the full price: ${counted(cells)}`,
  otherThanClaimed: ({ cells }) =>
    `Of another grade or age than claimed, at the difference of what grades bring: ${counted(cells)}`,
  priceBack: () => 'The price, paid back',
  goodsReplaced: () => 'The goods to be replaced, at their price',
  wayBack: () => 'The way back: freight and packing',
  leavesAsReturning: () => 'So that keeping the goods leaves no less than returning them',
  testing: () => 'Testing, as the terms allow',
  offered: () => 'What was offered beyond that',
  told: (_, told) => told ?? '',
  askedBefore: () => 'Asked before; what is known now carries this less',
  notAsked: () => 'Not asked for',
};

/** Lines of an amount as a file and a letter tell them, in English. */
export const groundLines = (
  dispute: Pick<DisputeRow, 'remedy' | 'askCents' | 'ground'>,
  books: LotBooks,
): DisputeGround[] =>
  linesOf(dispute, books).map((ground) => ({
    kind: ground.kind,
    text: WORDS[ground.kind](ground, dispute.ground),
    amount: centsText(ground.cents),
  }));
