import type { Cents } from '@dusk-tally/core/money';
import type { KeptBooks } from '../lots';

const amount = (cents: Cents | null) => (cents === null ? null : cents / 100);
const orNone = (cents: Cents) => (cents === 0 ? null : cents / 100);

/**
 * The books of a lot as they are typed; what was never said is blank.
 * @param grades those that have a price to be said.
 */
export const typedBooks = (kept: KeptBooks, grades: readonly string[]) => ({
  version: kept.version,
  minutes: kept.minutes || null,
  perMinute: orNone(kept.centsPerMinute),
  linePct: Number((100 * kept.line).toFixed(1)),
  gradePrices: Object.fromEntries(
    grades.map((grade) => [grade, amount(kept.gradePrices[grade] ?? null)]),
  ),
  refund: amount(kept.refundCents),
  returnFreight: orNone(kept.returnFreightCents),
  packingMinutes: kept.packingMinutes || null,
  partialRefund: orNone(kept.partialRefundCents),
  replacement: amount(kept.replacementCents),
  asksTesting: kept.asksTesting,
  rate: kept.rate,
  rateOn: kept.rateOn,
  benchPerHour: orNone(kept.benchCentsPerHour),
  perKwh: orNone(kept.centsPerKwh),
  claimedCycles: kept.claimedCycles,
  returnDays: kept.returnDays,
  partialDays: kept.partialDays,
});
