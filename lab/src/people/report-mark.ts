import { createHash } from 'node:crypto';
import type { ReportMarkRow } from '@dusk-tally/store';
import sharp from 'sharp';
import { z } from 'zod';
import { reportMarkInput } from '../inputs';
import { found, LabError, procedure, question } from '../shared';

/** Largest mark kept, px: sharp at three times the corner it is printed in. */
const MOST = { width: 625, height: 185 };
const TYPES = new Set(['jpeg', 'png', 'webp', 'svg']);

/**
 * A picture as reports carry it: made again from its pixels as PNG, so that nothing else of the file
 * stays. @throws for what is no picture.
 */
async function drawn(bytes: Uint8Array): Promise<Pick<ReportMarkRow, 'png' | 'width' | 'height'>> {
  const refuse = (is: string) =>
    new LabError('invalid', `Expected a picture as PNG, JPEG, WebP or SVG; found ${is}.`, {
      field: 'picture',
    });
  try {
    const source = sharp(bytes, { limitInputPixels: 40_000_000, failOn: 'error', density: 200 });
    const { format } = await source.metadata();
    if (!format || !TYPES.has(format)) throw refuse(format ?? 'something else');
    const { data, info } = await source
      .rotate()
      .resize({ ...MOST, fit: 'inside', withoutEnlargement: true })
      .png({ palette: true })
      .toBuffer({ resolveWithObject: true });
    return { png: data, width: info.width, height: info.height };
  } catch (error) {
    if (error instanceof LabError) throw error;
    throw refuse(bytes.length === 0 ? 'an empty file' : 'a file that is no whole picture');
  }
}

/** Sets the mark reports carry from now on, or takes it away; issued reports keep theirs. */
export const setReportMark = procedure({
  role: 'admin',
  input: reportMarkInput,
  prepare: async (_lab, { picture }) => picture && drawn(picture),
  run: async ({ lab, actor, input, prepared, transaction, audit }): Promise<void> => {
    const { settings, reportMarks } = lab.store;
    const before = found(
      await settings.one({ id: 1 }, { transaction, forUpdate: true }),
      'The lab’s settings',
    );
    if (before.version !== input.version)
      throw new LabError(
        'conflict',
        'Somebody changed the settings meanwhile. Nothing was stored; load the page again.',
      );
    if (before.markId === null && !prepared)
      throw new LabError('invalid', 'Reports carry no mark already.');
    const sha256 = prepared && createHash('sha256').update(prepared.png).digest('hex');
    const mark =
      prepared &&
      (await reportMarks.insert(
        { ...prepared, sha256: sha256!, personId: actor.id, at: lab.now() },
        transaction,
      ));
    await settings.update(
      { markId: mark?.id ?? null, version: before.version + 1 },
      { id: 1 },
      transaction,
    );
    const words = (row: Pick<ReportMarkRow, 'width' | 'height' | 'sha256'> | null) =>
      row ? `picture ${row.width} × ${row.height}, ${row.sha256.slice(0, 8)}` : 'none';
    const was = before.markId
      ? await reportMarks.one({ id: before.markId }, { transaction })
      : null;
    await audit({
      act: 'changed settings',
      subjectType: 'lab',
      subjectId: 'settings',
      before: { mark: words(was) },
      after: { mark: words(mark), reason: input.reason },
    });
  },
});

/** The mark reports carry now, as an address of data; null for none. */
export const reportMark = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<{ png: string; width: number; height: number } | null> => {
    const markId = (await lab.store.settings.one({ id: 1 }))?.markId ?? null;
    const row = markId === null ? null : await lab.store.reportMarks.one({ id: markId });
    return row && { png: dataAddress(row), width: row.width, height: row.height };
  },
});

/** A PNG as an address of data. */
const dataAddress = ({ png }: Pick<ReportMarkRow, 'png'>): string =>
  `data:image/png;base64,${Buffer.from(png).toString('base64')}`;
