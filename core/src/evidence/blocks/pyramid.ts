import { trapezoid } from '../../units';
import type { Discharge, Section } from '../sections';
import type { Trace } from '../trace';

/**
 * A pyramid of extremes over a long trace, so that a picture of any part of it reads a few
 * kilobytes. Level 0 has one bucket for `BUCKET_ROWS` rows, each level above one for
 * `BUCKETS_IN_ONE` of the level below. A level is kept in chunks of `CHUNK_BUCKETS` buckets.
 *
 * A chunk, little endian: number of buckets n (uint32), first row of each bucket’s time (float64
 * × n), then seven float32 columns of n: voltage least and most, current least and most,
 * temperature least and most (NaN where there is none), charge given at the bucket’s first row;
 * then n bytes that say whether the most voltage came before the least.
 */
export const BUCKET_ROWS = 256;
export const BUCKETS_IN_ONE = 16;
export const CHUNK_BUCKETS = 4096;
/** Traces up to this long are drawn from their samples. */
export const PYRAMID_FROM_ROWS = 65_536;

/** Buckets of one level, column by column. */
export interface PyramidLevel {
  timeS: Float64Array;
  leastV: Float32Array;
  mostV: Float32Array;
  leastA: Float32Array;
  mostA: Float32Array;
  leastC: Float32Array;
  mostC: Float32Array;
  chargeAh: Float32Array;
  mostFirst: Uint8Array;
}

export interface PyramidChunk {
  level: number;
  index: number;
  payload: Uint8Array;
}

const FLOATS = ['leastV', 'mostV', 'leastA', 'mostA', 'leastC', 'mostC', 'chargeAh'] as const;

function emptyLevel(n: number): PyramidLevel {
  return {
    timeS: new Float64Array(n),
    leastV: new Float32Array(n),
    mostV: new Float32Array(n),
    leastA: new Float32Array(n),
    mostA: new Float32Array(n),
    leastC: new Float32Array(n).fill(NaN),
    mostC: new Float32Array(n).fill(NaN),
    chargeAh: new Float32Array(n),
    mostFirst: new Uint8Array(n),
  };
}

/** Position of the least and the most of a column over rows; −1 where all are missing. */
function extremes(values: Float64Array, from: number, to: number): [number, number] {
  let least = -1;
  let most = -1;
  let low = Infinity;
  let high = -Infinity;
  for (let row = from; row < to; row++) {
    const value = values[row]!;
    if (value < low) {
      low = value;
      least = row;
    }
    if (value > high) {
      high = value;
      most = row;
    }
  }
  return [least, most];
}

/** Columns a pyramid is built from, a stretch of rows of them. */
export type PyramidPart = Pick<
  Trace,
  'timeS' | 'voltageV' | 'currentA' | 'temperatureC' | 'counterAh'
>;

/** What charge is counted from, of one row. */
interface ChargeRow {
  timeS: number;
  /** Without direction; null where none is logged. */
  amps: number | null;
  counterAh: number;
}

const rowOf = ({ timeS, currentA, counterAh }: PyramidPart, row: number): ChargeRow => ({
  timeS: timeS[row]!,
  amps: currentA ? Math.abs(currentA[row]!) : null,
  counterAh: counterAh?.[row] ?? 0,
});

/** Charge between two rows that follow each other, Ah. */
const stepBetween = (before: ChargeRow, row: ChargeRow): number =>
  before.amps !== null && row.amps !== null
    ? trapezoid(before.amps, row.amps, (row.timeS - before.timeS) / 3600)
    : Math.abs(row.counterAh - before.counterAh);

/** Charge so far, and where it is noted for the first row of each bucket. */
interface Given {
  chargeAh: Float32Array;
  /** Row of the whole trace the stretch begins with. */
  first: number;
  ah: number;
}

interface Rows {
  from: number;
  to: number;
}

function addTrapezoids(
  timeS: Float64Array,
  currentA: Float64Array,
  { from, to }: Rows,
  given: Given,
): number {
  const { chargeAh, first } = given;
  let { ah } = given;
  let amps = Math.abs(currentA[from - 1]!);
  for (let i = from; i <= to; i++) {
    const now = Math.abs(currentA[i]!);
    ah += trapezoid(amps, now, (timeS[i]! - timeS[i - 1]!) / 3600);
    amps = now;
    const row = first + i;
    if ((row & (BUCKET_ROWS - 1)) === 0) chargeAh[row / BUCKET_ROWS] = ah;
  }
  return ah;
}

function addTicks(counterAh: Float64Array, { from, to }: Rows, given: Given): number {
  const { chargeAh, first } = given;
  let { ah } = given;
  for (let i = from; i <= to; i++) {
    ah += Math.abs(counterAh[i]! - counterAh[i - 1]!);
    const row = first + i;
    if ((row & (BUCKET_ROWS - 1)) === 0) chargeAh[row / BUCKET_ROWS] = ah;
  }
  return ah;
}

/** Builds a pyramid from stretches of a trace that follow each other. */
export class PyramidBuilder {
  private readonly level: PyramidLevel;
  private row = 0;
  private ah = 0;
  /** The row before the stretch in work. */
  private before: ChargeRow | null = null;

  /** @param rows of the whole trace. @param sections whose charge counts as given, in its rows. */
  constructor(
    rows: number,
    private readonly sections: readonly Pick<Section, 'fromIndex' | 'toIndex'>[],
  ) {
    this.level = emptyLevel(Math.ceil(rows / BUCKET_ROWS));
  }

  /** Adds rows; every stretch but the last is a whole number of buckets long. */
  add(part: PyramidPart): void {
    const { timeS, voltageV, currentA, temperatureC } = part;
    const { level } = this;
    const first = this.row / BUCKET_ROWS;
    for (let from = 0; from < timeS.length; from += BUCKET_ROWS) {
      const to = Math.min(timeS.length, from + BUCKET_ROWS);
      const bucket = first + from / BUCKET_ROWS;
      level.timeS[bucket] = timeS[from]!;
      const [leastV, mostV] = extremes(voltageV, from, to);
      level.leastV[bucket] = voltageV[leastV]!;
      level.mostV[bucket] = voltageV[mostV]!;
      level.mostFirst[bucket] = mostV < leastV ? 1 : 0;
      if (currentA) {
        const [leastA, mostA] = extremes(currentA, from, to);
        level.leastA[bucket] = currentA[leastA]!;
        level.mostA[bucket] = currentA[mostA]!;
      }
      if (temperatureC) {
        const [leastC, mostC] = extremes(temperatureC, from, to);
        if (leastC >= 0) level.leastC[bucket] = temperatureC[leastC]!;
        if (mostC >= 0) level.mostC[bucket] = temperatureC[mostC]!;
      }
    }
    this.addCharge(part);
    this.row += timeS.length;
  }

  /** Charge given since load-on at the first row of each bucket, Ah. */
  private addCharge(part: PyramidPart): void {
    const { timeS, currentA, counterAh } = part;
    const n = timeS.length;
    for (const { fromIndex, toIndex } of this.sections) {
      let from = Math.max(fromIndex + 1 - this.row, 0);
      const to = Math.min(toIndex - this.row, n - 1);
      if (from > to) continue;
      if (from === 0 && this.before) {
        this.ah += stepBetween(this.before, rowOf(part, 0));
        this.level.chargeAh[this.row / BUCKET_ROWS] = this.ah;
        from = 1;
      }
      const given = { chargeAh: this.level.chargeAh, first: this.row, ah: this.ah };
      if (currentA) this.ah = addTrapezoids(timeS, currentA, { from, to }, given);
      else if (counterAh) this.ah = addTicks(counterAh, { from, to }, given);
    }
    this.before = rowOf(part, n - 1);
  }

  /** The levels, finest first; the last one has at most `CHUNK_BUCKETS` buckets. */
  levels(): PyramidLevel[] {
    const levels = [this.level];
    while (levels[levels.length - 1]!.timeS.length > CHUNK_BUCKETS)
      levels.push(above(levels[levels.length - 1]!));
    return levels;
  }

  /** The levels in chunks, as they are stored. */
  chunks(): PyramidChunk[] {
    return this.levels().flatMap((buckets, level) =>
      Array.from({ length: Math.ceil(buckets.timeS.length / CHUNK_BUCKETS) }, (_, index) => ({
        level,
        index,
        payload: encodeChunk(buckets, index * CHUNK_BUCKETS),
      })),
    );
  }
}

function above(below: PyramidLevel): PyramidLevel {
  const n = Math.ceil(below.timeS.length / BUCKETS_IN_ONE);
  const level = emptyLevel(n);
  for (let bucket = 0; bucket < n; bucket++) {
    const from = bucket * BUCKETS_IN_ONE;
    const to = Math.min(below.timeS.length, from + BUCKETS_IN_ONE);
    let [least, most] = [from, from];
    let [leastA, mostA] = [Infinity, -Infinity];
    let [leastC, mostC] = [NaN, NaN];
    for (let i = from; i < to; i++) {
      if (below.leastV[i]! < below.leastV[least]!) least = i;
      if (below.mostV[i]! > below.mostV[most]!) most = i;
      leastA = Math.min(leastA, below.leastA[i]!);
      mostA = Math.max(mostA, below.mostA[i]!);
      if (!(below.leastC[i]! >= leastC)) leastC = below.leastC[i]!;
      if (!(below.mostC[i]! <= mostC)) mostC = below.mostC[i]!;
    }
    level.timeS[bucket] = below.timeS[from]!;
    level.chargeAh[bucket] = below.chargeAh[from]!;
    level.leastV[bucket] = below.leastV[least]!;
    level.mostV[bucket] = below.mostV[most]!;
    level.leastA[bucket] = leastA;
    level.mostA[bucket] = mostA;
    level.leastC[bucket] = leastC;
    level.mostC[bucket] = mostC;
    level.mostFirst[bucket] = most < least || (most === least && below.mostFirst[most]) ? 1 : 0;
  }
  return level;
}

function builderOf(trace: Trace, discharge: Discharge | null): PyramidBuilder {
  const builder = new PyramidBuilder(trace.timeS.length, discharge?.sections ?? []);
  builder.add(trace);
  return builder;
}

/** The levels of a trace, finest first; the last one has at most `CHUNK_BUCKETS` buckets. */
export const pyramidLevels = (trace: Trace, discharge: Discharge | null): PyramidLevel[] =>
  builderOf(trace, discharge).levels();

/** A trace’s pyramid in chunks; none for a trace short enough to be drawn from its samples. */
export function buildPyramid(trace: Trace, discharge: Discharge | null): PyramidChunk[] {
  return trace.timeS.length <= PYRAMID_FROM_ROWS ? [] : builderOf(trace, discharge).chunks();
}

function encodeChunk(level: PyramidLevel, from: number): Uint8Array {
  const to = Math.min(level.timeS.length, from + CHUNK_BUCKETS);
  const n = to - from;
  const bytes = new Uint8Array(4 + n * 37);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, n, true);
  for (let i = 0; i < n; i++) view.setFloat64(4 + 8 * i, level.timeS[from + i]!, true);
  FLOATS.forEach((name, column) => {
    const start = 4 + 8 * n + 4 * n * column;
    for (let i = 0; i < n; i++) view.setFloat32(start + 4 * i, level[name][from + i]!, true);
  });
  bytes.set(level.mostFirst.subarray(from, to), 4 + 36 * n);
  return bytes;
}

/** A chunk’s buckets. @throws RangeError for a damaged one. */
export function decodeChunk(bytes: Uint8Array): PyramidLevel {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const n = bytes.length >= 4 ? view.getUint32(0, true) : -1;
  if (bytes.length !== 4 + n * 37)
    throw new RangeError(`Pyramid damaged: ${bytes.length} bytes for ${n} buckets.`);
  const level = emptyLevel(n);
  for (let i = 0; i < n; i++) level.timeS[i] = view.getFloat64(4 + 8 * i, true);
  FLOATS.forEach((name, column) => {
    const start = 4 + 8 * n + 4 * n * column;
    for (let i = 0; i < n; i++) level[name][i] = view.getFloat32(start + 4 * i, true);
  });
  level.mostFirst.set(bytes.subarray(4 + 36 * n));
  return level;
}
