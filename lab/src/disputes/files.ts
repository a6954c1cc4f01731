import { createHash } from 'node:crypto';
import { canonicalJson } from '@dusk-tally/core/units';
import type { DisputeFileRow } from '@dusk-tally/store';
import { z } from 'zod';
import type { DisputeSnapshot } from '../compute';
import { disputeFileInput } from '../inputs';
import { labDay } from '../lots';
import { requirePrintable } from '../reports';
import { found, type Lab, procedure, question } from '../shared';
import { basisOf, type Overtaken, overtakenBy } from './basis';
import { disputeFacts } from './facts';
import { makeDisputeFile } from './make-file';

/** Freezes a dispute file under a number of its own. */
export const issueDisputeFile = procedure({
  role: 'lead',
  input: disputeFileInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ number: string }> => {
    const { store } = lab;
    const dispute = found(
      await store.disputing.disputes.one({ id: input.disputeId }, { transaction, forUpdate: true }),
      'That dispute',
    );
    const year = (await labDay(lab, transaction)).slice(0, 4);
    const sequence = await store.takeNumbers(`dispute ${year}`, 1, transaction);
    const number = `X-${year}-${String(sequence).padStart(4, '0')}`;
    const { snapshot, basis } = await makeDisputeFile(
      lab,
      dispute,
      { number, issuedBy: actor.name },
      transaction,
    );
    requirePrintable({
      Supplier: snapshot.supplier.name,
      'The lab': `${snapshot.evidence.lab.name} ${snapshot.evidence.lab.place}`,
      Model: snapshot.evidence.model.name,
      Lot: snapshot.evidence.lot.title,
      People: [snapshot.issuedBy, ...snapshot.evidence.testedBy].join(', '),
    });
    const text = canonicalJson(snapshot);
    const sha256 = createHash('sha256').update(text).digest('hex');
    await store.disputing.files.insert(
      {
        disputeId: dispute.id,
        number,
        language: dispute.language,
        snapshot: text,
        sha256,
        askCents: dispute.askCents,
        basis,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    await audit({
      act: 'made a dispute file',
      subjectType: 'lot',
      subjectId: snapshot.evidence.lot.code,
      after: { number, sha256 },
    });
    return { number };
  },
});

const byNumber = z.object({ number: z.string().max(40) });

const fileOf = async (lab: Lab, number: string): Promise<DisputeFileRow> =>
  found(await lab.store.disputing.files.one({ number }), `Dispute file ${number}`);

/** A dispute file as data: canonical JSON, as it was frozen. */
export const disputeFileData = question({
  role: 'technician',
  input: byNumber,
  run: async (lab, { number }): Promise<{ text: string; sha256: string }> => {
    const { snapshot, sha256 } = await fileOf(lab, number);
    return { text: snapshot, sha256 };
  },
});

/** A dispute file as it was frozen, and the lot it is about. */
export interface DisputeFilePage {
  number: string;
  sha256: string;
  lotCode: string;
  snapshot: DisputeSnapshot;
  /** What of it is not so any more. */
  overtaken: Overtaken[];
}

/** A dispute file to be read on screen. */
export const disputeFilePage = question({
  role: 'technician',
  input: byNumber,
  run: async (lab, { number }): Promise<DisputeFilePage> => {
    const file = await fileOf(lab, number);
    const { disputeId, snapshot, sha256 } = file;
    const dispute = found(await lab.store.disputing.disputes.one({ id: disputeId }), 'Its dispute');
    const lot = found(await lab.store.lots.one({ id: dispute.lotId }), 'Its lot');
    return {
      number,
      sha256,
      lotCode: lot.code,
      snapshot: JSON.parse(snapshot) as DisputeSnapshot,
      overtaken: overtakenBy(file, dispute, basisOf(await disputeFacts(lab, lot.id))),
    };
  },
});

/** A dispute file as PDF, set from what was frozen. */
export const disputeFilePdf = question({
  role: 'technician',
  input: byNumber,
  run: async (lab, { number }): Promise<Uint8Array> => {
    const { snapshot } = await fileOf(lab, number);
    return lab.compute.renderDispute(JSON.parse(snapshot) as DisputeSnapshot);
  },
});

/** A paper of a dispute, byte for byte. */
export const disputePaper = question({
  role: 'technician',
  input: z.object({ id: z.int() }),
  run: async (lab, { id }) => found(await lab.store.disputing.papers.one({ id }), 'That paper'),
});
