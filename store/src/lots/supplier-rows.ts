import type { Chemistry } from '@dusk-tally/core/chemistry';

/** What is taken back stays, with who and why. */
interface TakenBack {
  takenBackAt: Date | null;
  takenBackBy: number | null;
  takenBackWhy: string | null;
}

/** A lot from before this app, as its own papers tell it; nothing of it was measured here. */
export interface EarlierLotRow extends TakenBack {
  id: number;
  supplierId: number;
  title: string;
  model: string;
  chemistry: Chemistry | null;
  arrivedOn: string;
  cells: number;
  /** Cells judged against the claim, and those that met it. */
  judged: number;
  met: number;
  /** Mean capacity over the claimed one, less 1. */
  margin: number | null;
  dead: number | null;
  ageMonths: number | null;
  copies: number | null;
  daysToDeliver: number | null;
  claimedKwh: number | null;
  goodKwh: number | null;
  /** In the house’s currency. */
  landedCents: number | null;
  /** What it cost in another currency it was paid in, and the day’s rate into the house’s; else null. */
  paidCents: number | null;
  paidCurrency: string | null;
  rate: number | null;
  rateOn: string | null;
  disputeOutcome: string | null;
  personId: number;
  at: Date;
}

/** What is said of a supplier; hearsay is shown and never counted. */
export interface SupplierNoteRow extends TakenBack {
  id: number;
  supplierId: number;
  isHearsay: boolean;
  text: string;
  /** Who said it. */
  source: string | null;
  personId: number;
  at: Date;
}
