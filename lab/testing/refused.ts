import type { z } from 'zod';

/** What is refused in an input: where, and in which words; empty where it is taken. */
export function refused(schema: z.ZodType, input: unknown): string[] {
  const { success, error } = schema.safeParse(input);
  return success ? [] : error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`);
}

/** What becomes of an input that is taken. */
export const taken = <T>(schema: z.ZodType<T>, input: unknown): T => schema.parse(input);
