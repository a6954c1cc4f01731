import {
  BLOCK_ROWS,
  BUCKET_ROWS,
  BUCKETS_IN_ONE,
  CHUNK_BUCKETS,
  decodeChunk,
  encodeView,
  mainDischarge,
  type PyramidLevel,
  PYRAMID_FROM_ROWS,
  type Section,
  type StoredColumn,
  type TraceBlock,
  viewBuckets,
} from '@dusk-tally/core/evidence';
import type { RunRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, question } from '../shared';
import { blocksOfRun, decimalsOf } from './recompute';

/** Columns a picture needs. */
const DRAWN: StoredColumn[] = ['timeS', 'voltageV', 'currentA', 'temperatureC', 'counterAh'];
/** Up to so many rows are drawn from samples, more from the pyramid. */
const MOST_SAMPLED = 2 * BLOCK_ROWS;

const seconds = z
  .number()
  .finite()
  .nullish()
  .transform((v) => v ?? null);

/** A picture of a run’s trace, whole or between two times, as `encodeView` bytes. */
export const traceOfRun = question({
  role: 'technician',
  input: z.object({
    runId: z.int(),
    fromS: seconds,
    toS: seconds,
    points: z.int().min(10).max(4000).default(1200),
  }),
  run: async (lab, wanted) => {
    const run = found(
      await lab.store.runs.one(
        { id: wanted.runId },
        { columns: ['id', 'rows', 'durationS', 'summary'] },
      ),
      'That run',
    );
    const discharge = mainDischarge(run.summary.sections)?.sections ?? [];
    const range = {
      fromS: Math.max(0, wanted.fromS ?? 0),
      toS: Math.min(run.durationS, wanted.toS ?? run.durationS),
      points: wanted.points,
    };
    if (run.rows > PYRAMID_FROM_ROWS) {
      const drawn = await fromPyramid(lab, run, discharge, range);
      if (drawn) return drawn;
    }
    const blocks = await blocksOfRun(lab, run.id);
    return lab.compute.viewTrace({
      blocks,
      decimals: decimalsOf(blocks),
      firstRow: 0,
      startAh: 0,
      discharge,
      ...range,
    });
  },
});

type Range = { fromS: number; toS: number; points: number };

/** Last bucket that begins at or before a time. */
function bucketAt(level: PyramidLevel, atS: number): number {
  let low = 0;
  let high = level.timeS.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (level.timeS[middle]! <= atS) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Drawn from the coarsest level that is fine enough; null for a run stored without a pyramid. */
async function fromPyramid(
  lab: Lab,
  run: Pick<RunRow, 'id' | 'rows' | 'summary'>,
  discharge: Section[],
  range: Range,
): Promise<Uint8Array | null> {
  let level = 0;
  let buckets = Math.ceil(run.rows / BUCKET_ROWS);
  while (buckets > CHUNK_BUCKETS) {
    buckets = Math.ceil(buckets / BUCKETS_IN_ONE);
    level++;
  }
  const top = await chunksOf(lab, run.id, level, 0, 0);
  if (!top) return null;
  let here: PyramidLevel = top;
  let offset = 0;
  for (;;) {
    const from: number = bucketAt(here, range.fromS);
    const to: number = bucketAt(here, range.toS);
    const rowsInOne = BUCKET_ROWS * BUCKETS_IN_ONE ** level;
    const rows = (to - from + 1) * rowsInOne;
    if (rows <= MOST_SAMPLED)
      return samples(lab, run.id, discharge, range, {
        firstRow: (offset + from) * rowsInOne,
        lastRow: Math.min(run.rows, (offset + to + 1) * rowsInOne) - 1,
      });
    if (level === 0 || 2 * (to - from + 1) >= range.points)
      return encodeView(viewBuckets(here, { from, to, points: range.points }));
    const first = (offset + from) * BUCKETS_IN_ONE;
    const last = (offset + to + 1) * BUCKETS_IN_ONE - 1;
    level--;
    const chunkFrom = Math.floor(first / CHUNK_BUCKETS);
    const chunkTo = Math.floor(last / CHUNK_BUCKETS);
    here = (await chunksOf(lab, run.id, level, chunkFrom, chunkTo))!;
    offset = chunkFrom * CHUNK_BUCKETS;
  }
}

async function chunksOf(
  lab: Lab,
  runId: number,
  level: number,
  from: number,
  to: number,
): Promise<PyramidLevel | null> {
  const rows = await lab.store.traceBlocks.find(
    {
      runId,
      columnName: `pyramid${level}`,
      blockIndex: Array.from({ length: to - from + 1 }, (_, i) => from + i),
    },
    { order: [['blockIndex', 'ASC']] },
  );
  if (rows.length === 0) return null;
  const parts = rows.map((row) => decodeChunk(new Uint8Array(row.payload)));
  return parts.length === 1 ? parts[0]! : joinLevels(parts);
}

function joinLevels(parts: PyramidLevel[]): PyramidLevel {
  const join = <T extends Float64Array | Float32Array | Uint8Array>(
    pick: (level: PyramidLevel) => T,
    make: (n: number) => T,
  ): T => {
    const whole = make(parts.reduce((sum, part) => sum + pick(part).length, 0));
    let at = 0;
    for (const part of parts) {
      whole.set(pick(part) as ArrayLike<number>, at);
      at += pick(part).length;
    }
    return whole;
  };
  const floats = (pick: (level: PyramidLevel) => Float32Array) =>
    join(pick, (n) => new Float32Array(n));
  return {
    timeS: join(
      (level) => level.timeS,
      (n) => new Float64Array(n),
    ),
    leastV: floats((level) => level.leastV),
    mostV: floats((level) => level.mostV),
    leastA: floats((level) => level.leastA),
    mostA: floats((level) => level.mostA),
    leastC: floats((level) => level.leastC),
    mostC: floats((level) => level.mostC),
    chargeAh: floats((level) => level.chargeAh),
    mostFirst: join(
      (level) => level.mostFirst,
      (n) => new Uint8Array(n),
    ),
  };
}

interface Stretch {
  firstRow: number;
  lastRow: number;
}

/** Drawn from the samples of a few blocks, the charge carried on from the pyramid. */
async function samples(
  lab: Lab,
  runId: number,
  discharge: Section[],
  range: Range,
  stretch: Stretch,
): Promise<Uint8Array> {
  const [firstBlock, lastBlock] = [stretch.firstRow, stretch.lastRow].map((row) =>
    Math.floor(row / BLOCK_ROWS),
  ) as [number, number];
  const firstRow = firstBlock * BLOCK_ROWS;
  const rows = await lab.store.traceBlocks.find({
    runId,
    columnName: DRAWN,
    blockIndex: Array.from({ length: lastBlock - firstBlock + 1 }, (_, i) => firstBlock + i),
  });
  const bucket = firstRow / BUCKET_ROWS;
  const chunk = (await chunksOf(
    lab,
    runId,
    0,
    Math.floor(bucket / CHUNK_BUCKETS),
    Math.floor(bucket / CHUNK_BUCKETS),
  ))!;
  const blocks = rows.map((row): TraceBlock => ({
    column: row.columnName as StoredColumn,
    index: row.blockIndex,
    payload: new Uint8Array(row.payload),
  }));
  return lab.compute.viewTrace({
    blocks,
    decimals: decimalsOf(blocks),
    firstRow,
    startAh: chunk.chargeAh[bucket % CHUNK_BUCKETS]!,
    discharge,
    ...range,
  });
}
