import { type Cents, centsText } from '@dusk-tally/core/money';
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

/** What the books propose to ask for, and what of; null where they do not know. */
export interface Proposal {
  askCents: Cents | null;
  shortCents: Cents | null;
  breakEvenCents: Cents | null;
  withTesting: boolean;
}

/** The proposal of a lot’s books: as long as the ways out are not known, the shortfall. */
export const proposalOf = ({ remedies, shortfall, kept, ungraded }: LotBooks): Proposal => ({
  askCents: remedies?.askCents ?? (shortfall && shortfall.cents > 0 ? shortfall.cents : null),
  shortCents: shortfall?.cents ?? null,
  // What nobody graded is no ground.
  breakEvenCents: ungraded > 0 ? null : (remedies?.breakEvenCents ?? null),
  withTesting: remedies !== null && kept.asksTesting,
});

/** What the proposed amount is, so that who asks for it can say why. */
export function proposalWords({
  askCents,
  shortCents,
  breakEvenCents,
  withTesting,
}: Proposal): string | null {
  if (askCents === null) return null;
  const short = shortCents === null ? null : `what is lacking, ${centsText(shortCents)}`;
  const even =
    breakEvenCents === null || breakEvenCents <= 0
      ? null
      : `the refund at which keeping leaves as much as returning, ${centsText(breakEvenCents)}`;
  const testing = withTesting ? ', and what testing cost' : '';
  const of = short && even ? `the larger of ${short}, and ${even}` : (short ?? even);
  return of === null ? null : `Proposed: ${of}${testing}. The file names what is lacking.`;
}
