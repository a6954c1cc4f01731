import { centsText } from '@dusk-tally/core/money';
import { formatNumber } from '@dusk-tally/core/units';

/** A share as a whole per cent. */
export const percent = (share: number): string => `${formatNumber(100 * share, 0)} %`;

/** Cents that are no whole amount, rounded to cents. */
export const amount = (cents: number): string => centsText(Math.round(cents));

/** `1 lot`, `3 lots`. */
export const lotsWords = (n: number): string => (n === 1 ? '1 lot' : `${n} lots`);

/** A margin over the claim: `+1.2 %`. */
export const marginWords = (margin: number): string =>
  `${margin < 0 ? '−' : '+'}${formatNumber(Math.abs(100 * margin), 1)} %`;
