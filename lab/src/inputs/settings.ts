import { z } from 'zod';
import { reasonInput } from './people';

const CURRENCIES = new Set(Intl.supportedValuesOf('currency'));
const ZONES = new Set([...Intl.supportedValuesOf('timeZone'), 'UTC']);

/** The lab’s own settings. */
export const settingsInput = z.object({
  version: z.int(),
  labName: z.string().trim().min(1, 'Expected the lab’s name.').max(120),
  place: z.string().trim().max(200),
  currency: z
    .string()
    .trim()
    .toUpperCase()
    .refine((code) => CURRENCIES.has(code), {
      message: 'Expected the three letters of a currency, such as EUR.',
    }),
  timeZone: z.string().refine((zone) => ZONES.has(zone), {
    message: 'Expected a time zone such as Europe/Vienna.',
  }),
  /** g of the guard band w = g·U (ILAC-G8:09/2019): 0 simple acceptance, 1 guard band U. */
  guardFactor: z.number().min(0).max(2),
  cellPrefix: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[A-Z]{1,4}$/, 'Expected one to four letters.'),
  reason: reasonInput,
});
