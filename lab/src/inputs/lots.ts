import { z } from 'zod';
import { currencyFields, isDated, UNDATED } from './currency';
import { dayOrNone } from './day';
import { reasonInput } from './people';

/** Most cells one lot may have. */
export const MOST_CELLS = 20_000;

const money = z
  .number()
  .min(0, 'Expected an amount of 0 or more.')
  .max(1e9)
  .nullish()
  .transform((amount) => (amount === null || amount === undefined ? null : amount.toFixed(2)));

/** What the order of a lot says. */
export const orderFields = {
  title: z.string().trim().min(1, 'Expected a short name for the lot.').max(160),
  supplierId: z.int(),
  orderedOn: dayOrNone,
  arrivedOn: dayOrNone,
  orderedQuantity: z
    .int('Expected a whole number.')
    .min(0)
    .max(MOST_CELLS)
    .nullish()
    .transform((count) => count ?? null),
  price: money,
  discount: money,
  freight: money,
  duty: money,
  fees: money,
  ...currencyFields,
};

/** Whether a lot arrived after it was ordered. */
export const inOrder = (lot: { orderedOn: string | null; arrivedOn: string | null }) =>
  !lot.orderedOn || !lot.arrivedOn || lot.orderedOn <= lot.arrivedOn;

/** What is said where it did not. */
export const OUT_OF_ORDER = {
  message: 'Expected an arrival on or after the order.',
  path: ['arrivedOn'],
};

/** Whether the discount is within the price. */
export const inPrice = (lot: { price: string | null; discount: string | null }) =>
  lot.discount === null || lot.price === null || Number(lot.discount) <= Number(lot.price);

/** What is said where it is not. */
export const OVER_PRICE = {
  message: 'Expected a discount of at most the price.',
  path: ['discount'],
};

/** What the order says, mended: name, supplier, dates, quantity ordered, what was paid. */
export const orderChange = z
  .object({ lotId: z.int(), version: z.int(), ...orderFields, reason: reasonInput })
  .partial({ supplierId: true })
  .refine(inOrder, OUT_OF_ORDER)
  .refine(inPrice, OVER_PRICE)
  .refine(isDated, UNDATED);
