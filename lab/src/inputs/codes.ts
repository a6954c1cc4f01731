import { z } from 'zod';

/** A template by which codes of a maker are read. */
export const templateInput = z.object({
  name: z.string().trim().min(1, 'Expected a name for the template.').max(80),
  pattern: z.string().trim().min(1, 'Expected a pattern.').max(120),
});

/** Whom a maker’s code stands for. */
export const makerInput = z.object({
  code: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[0-9A-Z]{1,20}$/, 'Expected a maker code of digits and letters.'),
  name: z.string().trim().min(1, 'Expected a name.').max(120),
});
