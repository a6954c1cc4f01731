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
