import type { DisputeLetterRow, Transaction } from '@dusk-tally/store';
import { letterDraft, letterInput, letterSent } from '../inputs';
import { loadClaim, openLot } from '../lots';
import { found, type Lab, LabError, procedure } from '../shared';
import { basisOf } from './basis';
import { requireStillCarried } from './grounds';
import { draftedLetter } from './letter-words';
import { disputeFacts } from './facts';

async function seenLetter(
  lab: Lab,
  { id, version }: { id: number; version: number },
  transaction: Transaction,
): Promise<DisputeLetterRow> {
  const row = found(
    await lab.store.disputing.letters.one({ id }, { transaction, forUpdate: true }),
    'That letter',
  );
  if (row.isSent)
    throw new LabError('conflict', 'This letter went out: it does not change any more.');
  if (row.version !== version)
    throw new LabError(
      'conflict',
      'Somebody changed this letter meanwhile. Nothing was stored; what they wrote is here, too.',
      { current: { version: row.version, title: row.title, body: row.body } },
    );
  return row;
}

/** Drafts a letter from what is known now; nothing is sent. */
export const draftLetter = procedure({
  role: 'technician',
  input: letterDraft,
  run: async ({ lab, actor, input, transaction }): Promise<{ id: number }> => {
    const dispute = found(
      await lab.store.disputing.disputes.one({ id: input.disputeId }, { transaction }),
      'That dispute',
    );
    await openLot(lab, dispute.lotId, transaction);
    const [facts, { model }, settings] = await Promise.all([
      disputeFacts(lab, dispute.lotId),
      loadClaim(lab, dispute.lotId, transaction),
      lab.store.settings.one({ id: 1 }, { transaction }),
    ]);
    requireStillCarried(dispute, facts.books);
    const { title, body } = draftedLetter(dispute, facts, {
      model: model.name,
      lab: found(settings, 'The lab’s settings').labName,
      person: actor.name,
    });
    const row = await lab.store.disputing.letters.insert(
      {
        disputeId: dispute.id,
        title,
        body,
        isSent: false,
        askCents: dispute.askCents,
        basis: basisOf(facts),
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    return { id: row.id };
  },
});

/** Keeps a letter as it was edited. */
export const keepLetter = procedure({
  role: 'technician',
  input: letterInput,
  run: async ({ lab, actor, input, transaction }): Promise<{ version: number }> => {
    const before = await seenLetter(lab, input, transaction);
    const version = before.version + 1;
    await lab.store.disputing.letters.update(
      { title: input.title, body: input.body, personId: actor.id, at: lab.now(), version },
      { id: before.id },
      transaction,
    );
    return { version };
  },
});

/** Marks a letter as sent, by a person and by other means: from then on it stays as it is. */
export const letterWentOut = procedure({
  role: 'lead',
  input: letterSent,
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const before = await seenLetter(lab, input, transaction);
    const { letters, disputes } = lab.store.disputing;
    await letters.update(
      { isSent: true, version: before.version + 1 },
      { id: before.id },
      transaction,
    );
    const dispute = found(
      await disputes.one({ id: before.disputeId }, { transaction }),
      'The dispute',
    );
    const lot = found(await lab.store.lots.one({ id: dispute.lotId }, { transaction }), 'The lot');
    await audit({
      act: 'a letter went out',
      subjectType: 'lot',
      subjectId: lot.code,
      after: { title: before.title },
    });
  },
});
