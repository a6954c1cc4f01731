import type { Cents } from '@dusk-tally/core/money';
import type { DisputeLetterRow, DisputeRow, DisputeStage } from '@dusk-tally/store';
import { z } from 'zod';
import { labDay } from '../lots';
import { type LotBooks } from '../money';
import { type Lab, question } from '../shared';
import { basisOf, type Overtaken, overtakenBy } from './basis';
import { disputeFacts } from './facts';
import { NEXT_STAGES, stepBefore } from './stages';

/** Something that happened, as it is shown. */
export interface DisputeEventView {
  id: number;
  stage: DisputeStage;
  day: string;
  text: string;
  cents: Cents | null;
  /** It takes the step before it back. */
  undoes: boolean;
  who: string;
}

/** A file made of a dispute. */
export interface DisputeFileView {
  number: string;
  language: 'en' | 'de';
  sha256: string;
  /** What of it is not so any more. */
  overtaken: Overtaken[];
  who: string;
  at: Date;
}

/** One dispute with all that belongs to it. */
export interface DisputeView {
  dispute: DisputeRow;
  next: readonly DisputeStage[];
  /** The last step can be taken back. */
  mayUndo: boolean;
  events: DisputeEventView[];
  letters: (Omit<DisputeLetterRow, 'personId'> & { overtaken: Overtaken[]; who: string })[];
  papers: { id: number; name: string; size: number; who: string; at: Date }[];
  files: DisputeFileView[];
}

/** What was disputed about a lot, the newest first. */
export interface LotDisputes {
  disputes: DisputeView[];
  deadlineOn: string | null;
  /** Days until the window shuts, today’s not counted; below 0 after it. */
  daysLeft: number | null;
  /** On the lab’s calendar. */
  today: string;
  /** What can be asked for, and what of. */
  books: LotBooks;
}

async function viewOf(
  lab: Lab,
  dispute: DisputeRow,
  nameOf: (id: number) => string,
  basis: string,
): Promise<DisputeView> {
  const { events, letters, papers, files } = lab.store.disputing;
  const disputeId = dispute.id;
  const [happened, written, kept, made] = await Promise.all([
    events.find({ disputeId }, { order: [['id', 'DESC']] }),
    letters.find({ disputeId }, { order: [['id', 'DESC']] }),
    papers.find(
      { disputeId },
      { order: [['id', 'DESC']], columns: ['id', 'name', 'size', 'personId', 'at'] },
    ),
    files.find(
      { disputeId },
      {
        order: [['id', 'DESC']],
        columns: ['number', 'language', 'sha256', 'askCents', 'basis', 'personId', 'at'],
      },
    ),
  ]);
  return {
    dispute,
    next: NEXT_STAGES[dispute.stage],
    mayUndo: stepBefore([...happened].reverse()) !== null,
    events: happened.map(({ id, stage, day, text, cents, undoes, personId }) => ({
      id,
      stage,
      day,
      text,
      cents,
      undoes: undoes !== null,
      who: nameOf(personId),
    })),
    letters: written.map(({ personId, ...letter }) => ({
      ...letter,
      overtaken: overtakenBy(letter, dispute, basis),
      who: nameOf(personId),
    })),
    papers: kept.map(({ id, name, size, personId, at }) => ({
      id,
      name,
      size,
      who: nameOf(personId),
      at,
    })),
    files: made.map(({ number, language, sha256, personId, at, ...file }) => ({
      number,
      language,
      sha256,
      overtaken: overtakenBy(file, dispute, basis),
      who: nameOf(personId),
      at,
    })),
  };
}

/** Disputes about a lot, and how long the window is open yet. */
export const lotDisputes = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<LotDisputes> => {
    const [rows, people, facts, today] = await Promise.all([
      lab.store.disputing.disputes.find({ lotId }, { order: [['id', 'DESC']] }),
      lab.store.people.find({}, { columns: ['id', 'name'] }),
      disputeFacts(lab, lotId),
      labDay(lab),
    ]);
    const { deadlineOn, books } = facts;
    const basis = basisOf(facts);
    const nameOf = (id: number) => people.find((one) => one.id === id)?.name ?? '';
    return {
      disputes: await Promise.all(rows.map((row) => viewOf(lab, row, nameOf, basis))),
      deadlineOn,
      daysLeft:
        deadlineOn === null
          ? null
          : Math.round((Date.parse(deadlineOn) - Date.parse(today)) / 86_400_000),
      today,
      books,
    };
  },
});
