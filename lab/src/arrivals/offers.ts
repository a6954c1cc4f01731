import { createHash } from 'node:crypto';
import { type OfferHint, readOffer } from '@dusk-tally/core/arrivals';
import type { PhotoRow, PhotoSubject } from '@dusk-tally/store';
import sharp from 'sharp';
import { z } from 'zod';
import { photoMarkInput } from '../inputs';
import { found, type Lab, LabError, procedure, question } from '../shared';
import { openLot, takeBatch } from '../lots';

/** Keeps an offer’s text as it was pasted. */
export const keepOffer = procedure({
  role: 'technician',
  // Evidence: what the supplier wrote, sign for sign.
  verbatim: ['text'],
  input: z.object({
    lotId: z.int(),
    text: z.string().trim().min(1, 'Expected the offer’s text.').max(60_000),
  }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ id: number }> => {
    const lot = await openLot(lab, input.lotId, transaction);
    const row = await lab.store.arrivals.offers.insert(
      { lotId: lot.id, text: input.text, personId: actor.id, at: lab.now() },
      transaction,
    );
    await audit({
      act: 'kept offer',
      subjectType: 'lot',
      subjectId: lot.code,
      after: { sha256: createHash('sha256').update(input.text).digest('hex') },
    });
    return { id: row.id };
  },
});

export interface OfferView {
  id: number;
  text: string;
  person: string;
  at: Date;
  hints: OfferHint[];
}

/** Offers kept for a lot, newest first, with what their text says. */
export const offersOfLot = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<OfferView[]> => {
    const [rows, people] = await Promise.all([
      lab.store.arrivals.offers.find({ lotId }, { order: [['id', 'DESC']] }),
      lab.store.people.find({}, { columns: ['id', 'name'] }),
    ]);
    const name = new Map(people.map((person) => [person.id, person.name]));
    return rows.map(({ id, text, personId, at }) => ({
      id,
      text,
      person: name.get(personId) ?? '',
      at,
      hints: readOffer(text),
    }));
  },
});

/** Largest photograph taken, bytes (15 MB). */
export const LARGEST_PHOTO = 15 * 1024 * 1024;
const TYPES = new Set(['jpeg', 'png', 'webp']);
const THUMB_PX = 320;
/** Longest side kept: enough to read a printed code, px. */
const MOST_PX = 4000;

export const photoInput = z.object({
  lotId: z.int(),
  clientKey: z.uuid(),
  subjectType: z.enum(['lot', 'offer', 'pack', 'cell', 'finding', 'benchRun']),
  subjectId: z.int(),
  name: z.string().trim().min(1).max(255),
  bytes: z.instanceof(Uint8Array).refine((bytes) => bytes.length <= LARGEST_PHOTO, {
    message: `Expected a photograph of at most ${LARGEST_PHOTO / 1024 / 1024} MB. It was not stored; take it at a lower resolution.`,
  }),
});

interface Developed {
  image: Buffer;
  thumb: Buffer;
  width: number;
  height: number;
}

/**
 * Decodes a photograph and makes it again from its pixels alone, so that nothing of where and
 * with what it was taken stays in it. @throws for what is no JPEG, PNG or WebP.
 */
async function develop(name: string, bytes: Uint8Array): Promise<Developed> {
  const refuse = (found: string) =>
    new LabError(
      'invalid',
      `${name}: expected a photograph as JPEG, PNG or WebP; found ${found}. It was not stored.`,
    );
  try {
    const source = sharp(bytes, { limitInputPixels: 120_000_000, failOn: 'error' });
    const { format } = await source.metadata();
    if (!format || !TYPES.has(format)) throw refuse(format ?? 'something else');
    const upright = source.rotate().resize(MOST_PX, MOST_PX, {
      fit: 'inside',
      withoutEnlargement: true,
    });
    const { data, info } = await upright
      .jpeg({ quality: 86 })
      .toBuffer({ resolveWithObject: true });
    const thumb = await sharp(data)
      .resize(THUMB_PX, THUMB_PX, { fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 78 })
      .toBuffer();
    return { image: data, thumb, width: info.width, height: info.height };
  } catch (error) {
    if (error instanceof LabError) throw error;
    throw refuse(bytes.length === 0 ? 'an empty file' : 'a file that is no whole picture');
  }
}

/** Keeps a photograph of a lot, an offer, a pack, a cell, a finding or a run. */
export const keepPhoto = procedure({
  role: 'technician',
  input: photoInput,
  prepare: (_lab, input) => develop(input.name, input.bytes),
  run: async ({
    lab,
    actor,
    input,
    prepared,
    transaction,
    audit,
  }): Promise<{ id: number | null }> => {
    const lot = await openLot(lab, input.lotId, transaction);
    if (!(await takeBatch(lab, input.clientKey, transaction))) return { id: null };
    await subjectOf(lab, lot.id, input.subjectType, input.subjectId);
    const sha256 = createHash('sha256').update(input.bytes).digest('hex');
    const row = await lab.store.arrivals.photos.insert(
      {
        lotId: lot.id,
        subjectType: input.subjectType,
        subjectId: input.subjectId,
        name: input.name,
        sha256,
        ...prepared,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    await audit({
      act: 'kept photograph',
      subjectType: input.subjectType,
      subjectId: input.subjectId,
      after: { lot: lot.code, name: input.name, sha256 },
    });
    return { id: row.id };
  },
});

async function subjectOf(lab: Lab, lotId: number, type: PhotoSubject, id: number): Promise<void> {
  const { store } = lab;
  const rows = {
    lot: () => store.lots.one({ id }).then((lot) => lot && lot.id === lotId),
    offer: () => store.arrivals.offers.one({ id, lotId }),
    pack: () => store.arrivals.packs.one({ id, lotId }),
    cell: () => store.cells.one({ id, lotId }),
    benchRun: () => store.bench.runs.one({ id, lotId }),
    finding: () => store.arrivals.inspections.one({ id, lotId, act: 'finding' }),
  };
  found((await rows[type]()) || null, `That ${type === 'benchRun' ? 'run' : type} of the lot`);
}

export type PhotoView = Omit<PhotoRow, 'image' | 'thumb' | 'sha256' | 'personId'> & {
  person: string;
  /** Why it was set aside, and by whom; null for one that counts. */
  aside: { reason: string; person: string; at: Date } | null;
};

/** Sets a photograph aside that does not belong, or takes it back; nothing of it is lost. */
export const setPhotoAside = procedure({
  role: 'technician',
  input: photoMarkInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const { id, aside, reason } = input;
    const { photos, photoMarks } = lab.store.arrivals;
    const photo = found(
      await photos.one({ id }, { transaction, columns: ['id', 'lotId', 'name', 'subjectType'] }),
      'That photograph',
    );
    const lot = await openLot(lab, photo.lotId, transaction);
    await photoMarks.insert(
      { photoId: id, aside, reason, personId: actor.id, at: lab.now() },
      transaction,
    );
    await audit({
      act: aside ? 'set photograph aside' : 'took photograph back',
      subjectType: 'lot',
      subjectId: lot.code,
      before: { aside: !aside },
      after: { photograph: photo.name, aside, reason },
    });
  },
});

/** Photographs of a lot, without their pixels, newest first. */
export const photosOfLot = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<PhotoView[]> => {
    const [rows, people] = await Promise.all([
      lab.store.arrivals.photos.find(
        { lotId },
        {
          order: [['id', 'DESC']],
          columns: [
            'id',
            'lotId',
            'subjectType',
            'subjectId',
            'name',
            'width',
            'height',
            'personId',
            'at',
          ],
        },
      ),
      lab.store.people.find({}, { columns: ['id', 'name'] }),
    ]);
    const name = new Map(people.map((person) => [person.id, person.name]));
    // The newest mark of each counts.
    const marks = new Map(
      (
        await lab.store.arrivals.photoMarks.find(
          { photoId: rows.map(({ id }) => id) },
          { order: [['id', 'ASC']] },
        )
      ).map((mark) => [mark.photoId, mark]),
    );
    return rows.map(({ personId, ...photo }) => {
      const mark = marks.get(photo.id);
      return {
        ...photo,
        person: name.get(personId) ?? '',
        aside: mark?.aside
          ? { reason: mark.reason, person: name.get(mark.personId) ?? '', at: mark.at }
          : null,
      };
    });
  },
});

/** The pixels of a photograph, as JPEG. */
export const photoBytes = question({
  role: 'technician',
  input: z.object({ id: z.int(), size: z.enum(['full', 'thumb']) }),
  run: async (lab, { id, size }): Promise<Buffer> => {
    const column = size === 'full' ? 'image' : 'thumb';
    const row = found(
      await lab.store.arrivals.photos.one({ id }, { columns: ['id', column] }),
      'That photograph',
    );
    return row[column];
  },
});
