import type { Chemistry } from '@dusk-tally/core/chemistry';
import {
  blocksBetween,
  decodeThinned,
  encodeThinned,
  type StoredColumn,
  type StringWatch,
  type ThinnedString,
  type TraceBlock,
} from '@dusk-tally/core/evidence';
import type { StringLogRow } from '@dusk-tally/store';
import { z } from 'zod';
import { stretchInput } from '../../inputs';
import { loadClaim } from '../../lots';
import { found, type Lab, LabError, question } from '../../shared';

/** A stretch of so many blocks at most is drawn from its rows; a longer one from the overview. */
const MOST_BLOCKS = 4;
const MOST_POINTS = 2048;

/** @throws LabError for a log that is not here. */
export const rowOf = async (lab: Lab, stringId: number): Promise<StringLogRow> =>
  found(await lab.store.strings.logs.one({ id: stringId }), 'That log of a string');

const blocksOf = (rows: { columnName: string; blockIndex: number; payload: Buffer }[]) =>
  rows.map((row): TraceBlock => ({
    column: row.columnName as StoredColumn,
    index: row.blockIndex,
    payload: new Uint8Array(row.payload),
  }));

/** Blocks that hold a stretch; with those of the current only where it is drawn. */
async function stretchOf(
  lab: Lab,
  row: Pick<StringLogRow, 'id' | 'beginsS'>,
  { fromS, toS }: { fromS: number; toS: number },
): Promise<TraceBlock[]> {
  const [first, last] = blocksBetween(row.beginsS, fromS, toS);
  return blocksOf(
    await lab.store.strings.blocks.find({
      stringLogId: row.id,
      blockIndex: Array.from({ length: last - first + 1 }, (_, i) => first + i),
    }),
  );
}

/** What a stretch of a log tells; of the whole of it, what is kept. */
export async function watchOf(
  lab: Lab,
  row: StringLogRow,
  chemistry: Chemistry,
  stretch: { fromS: number; toS: number },
): Promise<StringWatch> {
  const isWhole = stretch.fromS <= 0 && stretch.toS >= row.durationS;
  // What was kept before wires and holes were looked at is watched again.
  const isKept = row.chemistry === chemistry && Array.isArray(row.watch.offWires);
  if (isWhole && isKept) return row.watch;
  const watch = await lab.compute.watchStretch({
    blocks: await stretchOf(lab, row, stretch),
    ...stretch,
    chemistry,
  });
  if (!watch)
    throw new LabError(
      'invalid',
      `“${row.name}” holds no readings between these times. It goes from 0 to ${row.durationS.toFixed(0)} s.`,
      { field: 'toS' },
    );
  return watch;
}

/** The overview between two times: its own stretches, none of them cut. */
function partOf(overview: Uint8Array, fromS: number, toS: number): Uint8Array {
  const whole = decodeThinned(overview);
  const from = Math.max(0, Math.floor((fromS - whole.fromS) / whole.widthS));
  const to = Math.min(whole.points, Math.ceil((toS - whole.fromS) / whole.widthS));
  const cut = (values: Float32Array) => values.subarray(from, to);
  return encodeThinned({
    fromS: whole.fromS + from * whole.widthS,
    widthS: whole.widthS,
    points: to - from,
    lowV: whole.lowV.map(cut),
    highV: whole.highV.map(cut),
    lowSpreadV: cut(whole.lowSpreadV),
    highSpreadV: cut(whole.highSpreadV),
    currentA: whole.currentA && cut(whole.currentA),
  } satisfies ThinnedString);
}

/** A stretch of a string for a picture, as `encodeThinned` bytes. */
export const stringView = question({
  role: 'technician',
  input: stretchInput.safeExtend({ points: z.int().min(2).max(MOST_POINTS) }),
  run: async (lab, { stringId, fromS, toS, points }): Promise<Uint8Array> => {
    const row = await rowOf(lab, stringId);
    const to = Math.min(toS, row.durationS);
    const from = Math.min(fromS, to - row.durationS / row.rows);
    const [first, last] = blocksBetween(row.beginsS, from, to);
    // More than half of a long log is drawn from what was thinned when it came in.
    if (last - first >= MOST_BLOCKS && to - from >= row.durationS / 2)
      return partOf(new Uint8Array(row.overview), from, to);
    return lab.compute.viewString({
      blocks: await stretchOf(lab, row, { fromS: from, toS: to }),
      fromS: from,
      toS: to,
      points,
    });
  },
});

/** What a stretch tells. */
export const stringStretch = question({
  role: 'technician',
  input: stretchInput,
  run: async (lab, { stringId, fromS, toS }): Promise<StringWatch> => {
    const row = await rowOf(lab, stringId);
    const { model } = await loadClaim(lab, row.lotId);
    return watchOf(lab, row, model.chemistry, { fromS, toS });
  },
});
