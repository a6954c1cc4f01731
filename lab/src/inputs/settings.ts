import { z } from 'zod';
import { currencyInput } from './currency';
import { reasonInput } from './people';

const ZONES = new Set([...Intl.supportedValuesOf('timeZone'), 'UTC']);

/** A language reports are written in (ISO 639-1). */
export const reportLanguage = z.enum(['en', 'de']);

/** A room cells are tested in, °C. */
const roomC = z
  .number()
  .min(-20, 'Expected at least -20 °C.')
  .max(60, 'Expected at most 60 °C.')
  .nullable()
  .default(null);

/** The lab’s own settings. */
export const settingsInput = z
  .object({
    version: z.int(),
    labName: z.string().trim().min(1, 'Expected the lab’s name.').max(120),
    place: z.string().trim().max(200),
    currency: currencyInput,
    timeZone: z.string().refine((zone) => ZONES.has(zone), {
      message: 'Expected a time zone such as Europe/Vienna.',
    }),
    /** g of the guard band w = g·U (ILAC-G8:09/2019): 0 simple acceptance, 1 guard band U. */
    guardFactor: z.number().min(0).max(2),
    /** Coldest and warmest the lab keeps its room: what is taken where nobody recorded a temperature. */
    roomLowC: roomC,
    roomHighC: roomC,
    cellPrefix: z
      .string()
      .trim()
      .toUpperCase()
      .regex(/^[A-Z]{1,4}$/, 'Expected one to four letters.'),
    /** What reports are written in unless one says otherwise. */
    language: reportLanguage,
    reason: reasonInput,
  })
  .refine(({ roomLowC, roomHighC }) => (roomLowC === null) === (roomHighC === null), {
    message: 'Expected both ends of the room’s range, or neither.',
    path: ['roomHighC'],
  })
  .refine(
    ({ roomLowC, roomHighC }) => roomLowC === null || roomHighC === null || roomLowC < roomHighC,
    { message: 'Expected more than the coldest.', path: ['roomHighC'] },
  );

/** Largest file a mark is made from, bytes (2 MB). */
export const LARGEST_MARK = 2 * 1024 * 1024;

/** The mark reports carry: a picture, or null for none any more. */
export const reportMarkInput = z.object({
  version: z.int(),
  picture: z
    .instanceof(Uint8Array)
    .refine((bytes) => bytes.length <= LARGEST_MARK, {
      message: 'Expected a picture of at most 2 MB.',
    })
    .nullable(),
  reason: reasonInput,
});
