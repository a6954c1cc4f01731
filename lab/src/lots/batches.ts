import type { Transaction } from '@dusk-tally/store';
import { isDuplicate, type Lab } from '../shared';

/**
 * Takes a batch that a browser sent, once: a repeated send after a dropped connection finds its
 * key taken. @returns false when it was taken before.
 */
export async function takeBatch(
  lab: Lab,
  clientKey: string,
  transaction: Transaction,
): Promise<boolean> {
  try {
    await lab.store.arrivals.clientBatches.insert({ id: clientKey, at: lab.now() }, transaction);
    return true;
  } catch (error) {
    if (isDuplicate(error)) return false;
    throw error;
  }
}
