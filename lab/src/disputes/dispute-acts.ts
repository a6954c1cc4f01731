import { createHash } from 'node:crypto';
import type { DisputeRow, Transaction } from '@dusk-tally/store';
import { centsText } from '@dusk-tally/core/money';
import { disputeChange, disputeInput, disputeMove, disputeUndo, paperInput } from '../inputs';
import { labDay, openLot } from '../lots';
import { booksOfLot } from '../money';
import { found, type Lab, LabError, procedure } from '../shared';
import { requireCarried } from './grounds';
import { requireDay, requirePaid, requireSensible } from './sensible-amounts';
import { ENDED, NEXT_STAGES, stepBefore } from './stages';

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
      'Somebody changed this dispute meanwhile. Nothing was stored; what they made of it is here now.',
      {
        current: {
          version: row.version,
          remedy: row.remedy,
          ask: row.askCents / 100,
          ground: row.ground,
          language: row.language,
        },
      },
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
    requireSensible(lot, input);
    requireCarried(await booksOfLot(lab, lot.id), input);
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
        ground: input.ground,
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
        undoes: null,
        personId: actor.id,
        at,
      },
      transaction,
    );
    await audit({
      act: 'opened a dispute',
      subjectType: 'lot',
      subjectId: lot.code,
      after: { remedy: input.remedy, askCents: input.ask, ground: input.ground },
    });
    return { id: row.id };
  },
});

/** Changes what is asked, as long as nothing was sent. */
export const changeDispute = procedure({
  role: 'lead',
  input: disputeChange,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const before = await seen(lab, input, transaction);
    if (before.stage !== 'draft')
      throw new LabError('conflict', 'It was sent already: what was asked then does not change.');
    requireSensible(
      found(await lab.store.lots.one({ id: before.lotId }, { transaction }), 'The lot'),
      input,
    );
    requireCarried(await booksOfLot(lab, before.lotId), input);
    const { remedy, ground, language } = input;
    const after = { remedy, askCents: input.ask, ground, language };
    await lab.store.disputing.disputes.update(
      { ...after, version: before.version + 1 },
      { id: before.id },
      transaction,
    );
    if (input.ask !== before.askCents)
      await lab.store.disputing.events.insert(
        {
          disputeId: before.id,
          stage: 'draft',
          day: await labDay(lab, transaction),
          text: `The amount asked was changed from ${centsText(before.askCents)}.`,
          cents: input.ask,
          undoes: null,
          personId: actor.id,
          at: lab.now(),
        },
        transaction,
      );
    await audit({
      act: 'changed what is asked',
      subjectType: 'lot',
      subjectId: await codeOf(lab, before.lotId, transaction),
      before: {
        remedy: before.remedy,
        askCents: before.askCents,
        ground: before.ground,
        language: before.language,
      },
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
    requirePaid(before, input);
    await requireDay(lab, before, day, transaction);
    const { disputes, events } = lab.store.disputing;
    await events.insert(
      {
        disputeId: before.id,
        stage,
        day,
        text,
        cents: amount,
        undoes: null,
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

/** Takes the last step back: it was noted by mistake. Both stay in the history. */
export const undoMove = procedure({
  role: 'lead',
  input: disputeUndo,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const before = await seen(lab, input, transaction);
    const { disputes, events } = lab.store.disputing;
    const steps = await events.find(
      { disputeId: before.id },
      { transaction, order: [['id', 'ASC']] },
    );
    const undone = stepBefore(steps);
    if (!undone)
      throw new LabError('conflict', 'There is no step to take back. Nothing was changed.');
    await events.insert(
      {
        disputeId: before.id,
        stage: undone.stage,
        day: await labDay(lab, transaction),
        text: input.reason,
        cents: null,
        undoes: steps.at(-1)!.id,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    await disputes.update(
      {
        stage: undone.stage,
        gotCents: undone.stage === 'paid' ? undone.cents : null,
        version: before.version + 1,
      },
      { id: before.id },
      transaction,
    );
    await audit({
      act: 'took a step of a dispute back',
      subjectType: 'lot',
      subjectId: await codeOf(lab, before.lotId, transaction),
      before: { stage: before.stage },
      after: { stage: undone.stage, reason: input.reason },
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
