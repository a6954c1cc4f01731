import { createHash } from 'node:crypto';
import { deserialize, serialize } from 'node:v8';
import { canonicalJson } from '@dusk-tally/core/units';
import type { Transaction } from '@dusk-tally/store';
import { isDuplicate } from '@dusk-tally/store';
import { LabError } from './errors';
import type { Actor, Lab } from './lab';

/** Keys of acts that were begun in this process and are not over. */
const underWay = new Set<string>();

/** How an act that was sent with a key stands. */
export type SentAct =
  { state: 'done'; result: unknown } | { state: 'underWay' } | { state: 'none' };

/** Longest a key is known, ms. */
const KEPT_MS = 30 * 86_400_000;
const KEY = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** What came of an act, as it was given then. @throws LabError for what is shown only once. */
function resultOf({ result }: { result: Buffer | null }): unknown {
  if (result) return deserialize(result);
  throw new LabError(
    'duplicate',
    'This was done already, and what came of it is shown only once. If you did not see it, take it back and make another.',
  );
}

const hashOf = (input: unknown): string =>
  createHash('sha256')
    .update(canonicalJson(JSON.parse(JSON.stringify(input ?? null))))
    .digest('hex');

/**
 * Does an act once for a key, in its transaction: sent again, it is not done again but says what
 * came of it the first time. A second one that comes while the first is under way waits for it.
 * @throws LabError where the key came from somebody else, or with something else.
 */
export async function doneOnce<T>(
  lab: Lab,
  actor: Actor,
  { key, input, isSecret }: { key: string; input: unknown; isSecret: boolean },
  transaction: Transaction,
  run: () => Promise<T>,
): Promise<T> {
  const { doneActs } = lab.store;
  const inputHash = hashOf(input);
  try {
    await doneActs.insert(
      { id: key, personId: actor.id, inputHash, result: null, at: lab.now() },
      transaction,
    );
  } catch (error) {
    if (!isDuplicate(error)) throw error;
    const known = (await doneActs.one({ id: key }, { transaction, forUpdate: true }))!;
    if (known.personId !== actor.id || known.inputHash !== inputHash)
      throw new LabError(
        'conflict',
        'This was stored already, as it was first sent. Load the page again: it shows it. What you changed since then is not stored.',
      );
    return resultOf(known) as T;
  }
  const result = await run();
  if (!isSecret) await doneActs.update({ result: serialize(result) }, { id: key }, transaction);
  return result;
}

/** Notes that an act with a key is under way, until it is over. @throws LabError for what is no key. */
export async function underWayWhile<T>(key: string, work: () => Promise<T>): Promise<T> {
  if (!KEY.test(key)) throw new LabError('invalid', 'Expected a key of 36 characters.');
  underWay.add(key);
  try {
    return await work();
  } finally {
    underWay.delete(key);
  }
}

/**
 * Looks up what became of an act whose answer was lost. One in a transaction is waited for.
 * @throws LabError where its result is shown only once.
 */
export async function sentAct(lab: Lab, actor: Actor, key: string): Promise<SentAct> {
  if (underWay.has(key)) return { state: 'underWay' };
  const known = await lab.store.transaction((transaction) =>
    lab.store.doneActs.one({ id: key, personId: actor.id }, { transaction, forUpdate: true }),
  );
  if (!known) return { state: 'none' };
  return { state: 'done', result: resultOf(known) };
}

/** Forgets keys nobody asks for any more. */
export async function forgetDoneActs(lab: Lab): Promise<void> {
  const before = new Date(lab.now().getTime() - KEPT_MS);
  await lab.store.transaction((transaction) =>
    lab.store.doneActs.remove({ at: { below: before } }, transaction),
  );
}
