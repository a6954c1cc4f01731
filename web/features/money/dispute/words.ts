import { type Cents, type GroundKind, groundsCents } from '@dusk-tally/core/money';
import type { Overtaken } from '@dusk-tally/lab/disputes';
import type { LotBooks } from '@dusk-tally/lab/money';

/** Where a dispute stands, as shown. */
export const STAGE_WORDS = {
  draft: 'being written',
  sent: 'sent',
  answered: 'answered',
  agreed: 'agreed',
  paid: 'paid',
  lost: 'lost',
  dropped: 'dropped',
} as const;

/** What is asked for. */
export const REMEDY_WORDS = {
  partialRefund: 'a partial refund, the goods stay',
  return: 'a refund, the goods go back',
  replace: 'a replacement',
} as const;

/** How long the window is open yet. */
export function windowWords(deadlineOn: string | null, daysLeft: number | null): string {
  if (deadlineOn === null || daysLeft === null) return 'No window for a dispute is claimed.';
  if (daysLeft < 0) return `The window for a dispute closed on ${deadlineOn}.`;
  if (daysLeft === 0) return `The window for a dispute closes today, ${deadlineOn}.`;
  return `The window for a dispute is open for ${daysLeft} more ${daysLeft === 1 ? 'day' : 'days'}, until ${deadlineOn}.`;
}

/** What can be asked for, and what of. */
export interface Proposal {
  /** As a partial refund; null where nothing is known that could be asked for. */
  askCents: Cents | null;
  grounds: LotBooks['grounds'];
  /** Why the goods may not be sent back; null where nothing speaks against it. */
  mayNotShip: string | null;
}

/** The proposal of a lot’s books: what the ways out say, or, where they are not known, what the grounds carry. */
export function proposalOf({ remedies, grounds }: LotBooks): Proposal {
  const carries = groundsCents(grounds.partialRefund);
  return {
    askCents: remedies?.askCents ?? (carries > 0 ? carries : null),
    grounds,
    mayNotShip: remedies?.options.find(({ kind }) => kind === 'return')?.struckOut ?? null,
  };
}

/** What each part of an amount is for. */
export const GROUND_WORDS: Record<GroundKind, string> = {
  missingCharge: 'missing charge, at the price per claimed Ah',
  deadCells: 'dead, damaged or dangerous, at the full price',
  otherThanClaimed: 'of another grade or age than claimed, at the difference of what grades bring',
  priceBack: 'the price, paid back',
  goodsReplaced: 'the goods to be replaced, at their price',
  wayBack: 'the way back: freight and packing',
  leavesAsReturning: 'so that keeping them leaves no less than returning them',
  testing: 'testing, as the terms allow',
  offered: 'what was offered beyond that',
  told: 'beyond that',
  askedBefore: 'asked before; what is known now carries this less',
  notAsked: 'not asked for',
};

/** What a letter or a file says that is not so any more; null where all of it is. */
export function overtakenWords(overtaken: readonly Overtaken[], ask: string): string | null {
  if (overtaken.length === 0) return null;
  const why = [
    ...(overtaken.includes('amount') ? [`${ask} is asked now`] : []),
    ...(overtaken.includes('evidence') ? ['results or the order changed since'] : []),
  ];
  return `Overtaken: ${why.join(', and ')}.`;
}
