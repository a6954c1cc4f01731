import { z } from 'zod';

/** Days anything of a lab can be of. */
const [FIRST_DAY, LAST_DAY] = ['1990-01-01', '2099-12-31'];

/** A day of the calendar, YYYY-MM-DD. */
export const dayInput = z.iso
  .date({ error: 'Expected a day, such as 2026-11-27.', abort: true })
  .refine((value) => value >= FIRST_DAY && value <= LAST_DAY, {
    message: 'Expected a day from 1990 to 2099.',
  });

/** A day, or none. */
export const dayOrNone = dayInput.nullish().transform((value) => value ?? null);
