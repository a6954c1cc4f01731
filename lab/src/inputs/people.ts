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

/** One’s own password: the present one, and the one to come. */
export const ownPasswordInput = z.object({
  current: z.string().min(1, 'Expected your present password.').max(200),
  next: z.string().min(1, 'Expected a new password.').max(1000),
});
