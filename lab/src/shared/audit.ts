import { createHash } from 'node:crypto';
import { canonicalJson } from '@dusk-tally/core/units';
import type { AuditRow, Transaction } from '@dusk-tally/store';
import type { Actor, Lab } from './lab';

export interface AuditNote {
  act: string;
  subjectType: string;
  subjectId: string | number;
  before?: unknown;
  after?: unknown;
}

type Sealed = Pick<AuditRow, 'act' | 'subjectType' | 'subjectId' | 'personId' | 'personName'> & {
  at: string;
  before: unknown;
  after: unknown;
};

function seal(previousHash: string, entry: Sealed): string {
  return createHash('sha256').update(previousHash).update(canonicalJson(entry)).digest('hex');
}

/** Values as they will be read back, so that a hash made now fits the row later. */
const settled = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null));

/** Appends one entry to the audit chain; the chain is held until the transaction ends. */
export async function writeAudit(
  lab: Lab,
  actor: Actor | null,
  note: AuditNote,
  transaction: Transaction,
): Promise<void> {
  const previousHash = await lab.store.lockAuditHead(transaction);
  const at = lab.now();
  const entry: Sealed = {
    at: at.toISOString(),
    personId: actor?.id ?? null,
    personName: actor?.name ?? 'system',
    act: note.act,
    subjectType: note.subjectType,
    subjectId: String(note.subjectId),
    before: settled(note.before),
    after: settled(note.after),
  };
  const hash = seal(previousHash, entry);
  await lab.store.auditEntries.insert({ ...entry, at, previousHash, hash }, transaction);
  await lab.store.moveAuditHead(hash, transaction);
}

/** Recomputes the whole chain. @returns the first entry that does not fit, or null. */
export async function verifyAudit(lab: Lab): Promise<number | null> {
  let previousHash = '0'.repeat(64);
  for (const row of await lab.store.auditEntries.find({}, { order: [['id', 'ASC']] })) {
    const { id, at, personId, personName, act, subjectType, subjectId, before, after } = row;
    const expected = seal(previousHash, {
      at: at.toISOString(),
      personId,
      personName,
      act,
      subjectType,
      subjectId,
      before,
      after,
    });
    if (row.previousHash !== previousHash || row.hash !== expected) return id;
    previousHash = row.hash;
  }
  return null;
}
