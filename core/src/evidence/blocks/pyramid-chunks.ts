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

/** Buckets of a level that make one bucket of the next. */
export const BUCKETS_IN_ONE = 16;

/** Buckets stored together. */
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

/** A stored piece of one level of a pyramid. */
export interface PyramidChunk {
  level: number;
  index: number;
  payload: Uint8Array;
}

const FLOATS = ['leastV', 'mostV', 'leastA', 'mostA', 'leastC', 'mostC', 'chargeAh'] as const;

/** A level with room for n buckets. */
export function emptyLevel(n: number): PyramidLevel {
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

/** Buckets of a level from a position on, as stored; at most CHUNK_BUCKETS. */
export function encodeChunk(level: PyramidLevel, from: number): Uint8Array {
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
