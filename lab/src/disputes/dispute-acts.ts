import { createHash } from 'node:crypto';
import type { DisputeRow, Transaction } from '@dusk-tally/store';
import { disputeChange, disputeInput, disputeMove, paperInput } from '../inputs';
import { labDay, openLot } from '../lots';
import { found, type Lab, LabError, procedure } from '../shared';
import { ENDED, NEXT_STAGES } from './stages';

/** A dispute nobody else changed since it was seen. */
async function seen(
  lab: Lab,
  { id, version }: { id: number; version: number },
  transaction: Transaction,
): Promise<DisputeRow> {
  const row = found(
    await lab.store.disputing.disputes.one({ id }, { transaction, forUpdate: true }),
    'That dispute',
  );
  if (row.version !== version)
    throw new LabError(
      'conflict',
      'Somebody changed this dispute meanwhile. Nothing was stored; load the page again.',
    );
  return row;
}

const codeOf = async (lab: Lab, lotId: number, transaction: Transaction): Promise<string> =>
  found(await lab.store.lots.one({ id: lotId }, { transaction }), 'The lot').code;

/** Opens a dispute about a lot; one at a time. */
export const openDispute = procedure({
  role: 'lead',
  input: disputeInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ id: number }> => {
    const lot = await openLot(lab, input.lotId, transaction, true);
    const { disputes, events } = lab.store.disputing;
    const earlier = await disputes.find({ lotId: lot.id }, { transaction });
    const open = earlier.find(({ stage }) => !ENDED.has(stage));
    if (open) throw new LabError('conflict', `A dispute about ${lot.code} is open already.`);
    const at = lab.now();
    const row = await disputes.insert(
      {
        lotId: lot.id,
        stage: 'draft',
        remedy: input.remedy,
        askCents: input.ask,
        language: input.language,
        gotCents: null,
        personId: actor.id,
        at,
      },
      transaction,
    );
    await events.insert(
      {
        disputeId: row.id,
        stage: 'draft',
        day: await labDay(lab, transaction),
        text: 'Opened.',
        cents: input.ask,
        personId: actor.id,
        at,
      },
      transaction,
    );
    await audit({
      act: 'opened a dispute',
      subjectType: 'lot',
      subjectId: lot.code,
      after: { remedy: input.remedy, askCents: input.ask },
    });
    return { id: row.id };
  },
});

/** Changes what is asked, as long as nothing was sent. */
export const changeDispute = procedure({
  role: 'lead',
  input: disputeChange,
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const before = await seen(lab, input, transaction);
    if (before.stage !== 'draft')
      throw new LabError('conflict', 'It was sent already: what was asked then does not change.');
    const after = { remedy: input.remedy, askCents: input.ask, language: input.language };
    await lab.store.disputing.disputes.update(
      { ...after, version: before.version + 1 },
      { id: before.id },
      transaction,
    );
    await audit({
      act: 'changed what is asked',
      subjectType: 'lot',
      subjectId: await codeOf(lab, before.lotId, transaction),
      before: { remedy: before.remedy, askCents: before.askCents, language: before.language },
      after,
    });
  },
});

/** Notes what happened next: sent, answered, agreed, paid, lost or dropped; and what came of it. */
export const moveDispute = procedure({
  role: 'lead',
  input: disputeMove,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const before = await seen(lab, input, transaction);
    const { stage, day, text, amount } = input;
    if (stage !== before.stage && !NEXT_STAGES[before.stage].includes(stage))
      throw new LabError('invalid', `From ${before.stage} it cannot go to ${stage}.`, {
        field: 'stage',
      });
    if ((stage === 'agreed' || stage === 'paid') && amount === null)
      throw new LabError('invalid', 'Say how much.', { field: 'amount' });
    if (day > (await labDay(lab, transaction)))
      throw new LabError('invalid', 'Expected a day that has come.', { field: 'day' });
    const { disputes, events } = lab.store.disputing;
    await events.insert(
      {
        disputeId: before.id,
        stage,
        day,
        text,
        cents: amount,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    const got = stage === 'paid' ? amount : stage === 'lost' || stage === 'dropped' ? 0 : null;
    await disputes.update(
      { stage, gotCents: got, version: before.version + 1 },
      { id: before.id },
      transaction,
    );
    await audit({
      act: `dispute: ${stage}`,
      subjectType: 'lot',
      subjectId: await codeOf(lab, before.lotId, transaction),
      before: { stage: before.stage },
      after: { stage, day, cents: amount },
    });
  },
});

/** Keeps a paper with a dispute, byte for byte. */
export const addPaper = procedure({
  role: 'technician',
  input: paperInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ id: number }> => {
    const { disputes, papers } = lab.store.disputing;
    const dispute = found(
      await disputes.one({ id: input.disputeId }, { transaction }),
      'That dispute',
    );
    const bytes = Buffer.from(input.bytes);
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    const same = await papers.one(
      { disputeId: dispute.id, sha256 },
      { transaction, columns: ['id'] },
    );
    if (same) return { id: same.id };
    const row = await papers.insert(
      {
        disputeId: dispute.id,
        name: input.name,
        type: input.type,
        bytes,
        size: bytes.length,
        sha256,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    await audit({
      act: 'kept a paper',
      subjectType: 'lot',
      subjectId: await codeOf(lab, dispute.lotId, transaction),
      after: { name: input.name, sha256 },
    });
    return { id: row.id };
  },
});
