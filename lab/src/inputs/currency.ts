import { z } from 'zod';
import { dayOrNone } from './day';

const CURRENCIES = new Set(Intl.supportedValuesOf('currency'));

/** The three letters of a currency (ISO 4217). */
export const currencyInput = z
  .string()
  .trim()
  .toUpperCase()
  .refine((code) => CURRENCIES.has(code), {
    message: 'Expected the three letters of a currency, such as EUR.',
  });

/** What one of a currency is worth in the house’s. */
export const rateInput = z
  .number('Expected a rate.')
  .min(1e-6, 'Expected a rate above 0.')
  .max(1e6, 'Expected at most 1 000 000.')
  .nullish()
  .transform((value) => value ?? null);

/** The currency amounts are in; none is the house’s. */
export const currencyOrHouse = z
  .union([z.literal('').transform(() => null), currencyInput])
  .nullish()
  .transform((value) => value ?? null);

/** Amounts in a currency, with the day’s rate they were entered with. */
export const currencyFields = {
  currency: currencyOrHouse,
  /** What one of it was worth in the house’s, and on which day; none where it is the house’s. */
  rate: rateInput,
  rateOn: dayOrNone,
};

/** Whether a rate has its day. */
export const isDated = ({ rate, rateOn }: { rate: number | null; rateOn: string | null }) =>
  rate === null || rateOn !== null;

/** What is said where it has none. */
export const UNDATED = { path: ['rateOn'], message: 'Expected the day of the rate.' };
