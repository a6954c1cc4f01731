import { hash, verify } from '@node-rs/argon2';

/** argon2id with 19 MiB, 2 passes (OWASP's first recommendation). */
const OPTIONS = { memoryCost: 19456, timeCost: 2, parallelism: 1 };
let decoy: Promise<string> | null = null;

export function hashPassword(password: string): Promise<string> {
  return hash(password, OPTIONS);
}

/** Verifies against a stored hash, or spends the same time when there is none. */
export async function passwordFits(stored: string | null, password: string): Promise<boolean> {
  decoy ??= hashPassword('no such person');
  const fits = await verify(stored ?? (await decoy), password);
  return stored !== null && fits;
}
