import { centsOf } from '@dusk-tally/core/money';
import { z } from 'zod';
import { isDated, rateInput, UNDATED } from './currency';
import { dayOrNone } from './day';

const cents = (amount: number) => centsOf(amount.toFixed(2));
const amount = z
  .number('Expected an amount.')
  .min(0, 'Expected an amount of 0 or more.')
  .max(40_000_000, 'Expected at most 40 000 000.');
/** An amount, 0 where nothing is typed; kept in whole cents. */
const cost = amount.nullish().transform((value) => cents(value ?? 0));
const maybe = amount
  .nullish()
  .transform((value) => (value === null || value === undefined ? null : cents(value)));
const minutes = z
  .number('Expected a number of minutes.')
  .min(0, 'Expected 0 or more.')
  .max(1_000_000)
  .nullish()
  .transform((value) => Math.round(value ?? 0));

const days = z
  .int('Expected a whole number of days.')
  .min(0, 'Expected 0 or more.')
  .max(3650, 'Expected at most 3650 days.')
  .nullish()
  .transform((value) => value ?? null);

const booksFields = z.object({
  lotId: z.int(),
  /** Version that was seen; 0 where nothing was kept yet. */
  version: z.int().min(0),
  minutes,
  perMinute: cost,
  linePct: z
    .number('Expected a number.')
    .min(1, 'Expected 1 to 120 %.')
    .max(120, 'Expected 1 to 120 %.'),
  gradePrices: z.record(z.string().max(60), maybe),
  refund: maybe,
  returnFreight: cost,
  packingMinutes: minutes,
  partialRefund: cost,
  replacement: maybe,
  asksTesting: z.boolean().default(false),
  /** What one of the lot’s currency was worth in the house’s, on that day. */
  rate: rateInput,
  rateOn: dayOrNone,
  benchPerHour: cost,
  perKwh: cost,
  /** Days until the money is there, when the goods go back and when they stay. */
  returnDays: days,
  partialDays: days,
  claimedCycles: z
    .int('Expected a whole number of cycles.')
    .min(1, 'Expected 1 cycle or more.')
    .max(100_000)
    .nullish()
    .transform((value) => value ?? null),
});

/** What people say of a lot’s money beside its order. */
export const booksInput = booksFields.refine(isDated, UNDATED);
