import { z } from 'zod';

const role = z.enum(['technician', 'lead', 'admin']);
const name = z.string().trim().min(1, 'Expected a name.').max(120);

/** Why something is changed: kept with the change. */
export const reasonInput = z.string().trim().min(3, 'Say why, in a few words.').max(400);

/** Somebody new in the lab. */
export const personInput = z.object({
  email: z.email('Expected an e-mail address.').trim().toLowerCase().max(190),
  name,
  role,
});

/** A person’s name or role, mended. */
export const personChange = z.object({ id: z.int(), name, role, reason: reasonInput });

/** Columns a table has at most. */
const MOST_COLUMNS = 60;

/** Widths of columns as somebody drags them, px. */
export const widthsInput = z.object({
  table: z.string().trim().min(1, 'Expected the name of a table.').max(40),
  widths: z
    .record(z.string().max(60), z.number().min(48).max(2000))
    .refine((widths) => Object.keys(widths).length <= MOST_COLUMNS, {
      message: `Expected at most ${MOST_COLUMNS} columns.`,
    }),
});

/** One’s own password: the present one, and the one to come. */
export const ownPasswordInput = z.object({
  current: z.string().min(1, 'Expected your present password.').max(200),
  next: z.string().min(1, 'Expected a new password.').max(1000),
});
