import { rowAt } from '../trace';
import { isOfWire, requireString, type WatchedString } from './watched-string';

/** A string thinned for a picture: of each of so many stretches of time the extremes. */
export interface ThinnedString {
  /** Beginning of each stretch, s, and the width of all of them. */
  fromS: number;
  widthS: number;
  points: number;
  /** Per cell: lowest and highest of each stretch, V; NaN where it holds no reading. */
  lowV: Float32Array[];
  highV: Float32Array[];
  /** Lowest and highest difference between the cells of one row, V. */
  lowSpreadV: Float32Array;
  highSpreadV: Float32Array;
  /** Mean current, A, as it was logged; null where the log has none. */
  currentA: Float32Array | null;
}

/**
 * Thins a string so that nothing a picture could show is lost: the extremes of each stretch stay.
 * @param points stretches, 2 at least. @throws RangeError for what is no string, or no stretch.
 */
export function thinnedString(
  string: WatchedString,
  { fromS, toS, points }: { fromS: number; toS: number; points: number },
): ThinnedString {
  requireString(string);
  if (!(toS > fromS) || points < 2)
    throw new RangeError('Expected a stretch of time, and two points at least.');
  const { timeS, cellsV, currentA = null } = string;
  const cells = cellsV.length;
  const widthS = (toS - fromS) / points;
  const empty = () => new Float32Array(points).fill(NaN);
  const [lowV, highV] = [cellsV.map(empty), cellsV.map(empty)];
  const [lowSpreadV, highSpreadV] = [empty(), empty()];
  const [sums, counts] = [new Float64Array(points), new Float64Array(points)];
  const end = Math.min(timeS.length, rowAt(timeS, toS + 1e-9));
  for (let i = rowAt(timeS, fromS); i < end; i++) {
    const at = Math.min(points - 1, ((timeS[i]! - fromS) / widthS) | 0);
    let [lowest, highest] = [Infinity, -Infinity];
    for (let c = 0; c < cells; c++) {
      const v = cellsV[c]![i]!;
      if (isOfWire(v)) {
        if (v < lowest) lowest = v;
        if (v > highest) highest = v;
      }
      if (!(v >= lowV[c]![at]!)) lowV[c]![at] = v;
      if (!(v <= highV[c]![at]!)) highV[c]![at] = v;
    }
    const spread = Math.max(0, highest - lowest);
    if (!(spread >= lowSpreadV[at]!)) lowSpreadV[at] = spread;
    if (!(spread <= highSpreadV[at]!)) highSpreadV[at] = spread;
    if (currentA) {
      sums[at]! += currentA[i]!;
      counts[at]!++;
    }
  }
  return {
    fromS,
    widthS,
    points,
    lowV,
    highV,
    lowSpreadV,
    highSpreadV,
    currentA: currentA && Float32Array.from(sums, (sum, i) => sum / counts[i]!),
  };
}

/** Words of 32 bits before the columns: version, cells, points, whether there is a current. */
const HEAD_BYTES = 32;
const VERSION = 1;

/** A thinned string as bytes: a head, then columns of 32-bit floats. */
export function encodeThinned(thinned: ThinnedString): Uint8Array {
  const { fromS, widthS, points, lowV, highV, lowSpreadV, highSpreadV, currentA } = thinned;
  const columns = [...lowV, ...highV, lowSpreadV, highSpreadV, ...(currentA ? [currentA] : [])];
  const bytes = new Uint8Array(HEAD_BYTES + 4 * points * columns.length);
  const head = new DataView(bytes.buffer);
  head.setUint32(0, VERSION, true);
  head.setUint32(4, lowV.length, true);
  head.setUint32(8, points, true);
  head.setUint32(12, currentA ? 1 : 0, true);
  head.setFloat64(16, fromS, true);
  head.setFloat64(24, widthS, true);
  columns.forEach((column, i) =>
    new Float32Array(bytes.buffer, HEAD_BYTES + 4 * points * i, points).set(column),
  );
  return bytes;
}

/** A thinned string back from its bytes. @throws RangeError for bytes that are none. */
export function decodeThinned(bytes: Uint8Array): ThinnedString {
  const own = bytes.slice();
  const head = new DataView(own.buffer);
  if (own.length < HEAD_BYTES || head.getUint32(0, true) !== VERSION)
    throw new RangeError('Expected a thinned string of version 1.');
  const cells = head.getUint32(4, true);
  const points = head.getUint32(8, true);
  const hasCurrent = head.getUint32(12, true) === 1;
  const columns = 2 * cells + 2 + Number(hasCurrent);
  if (own.length !== HEAD_BYTES + 4 * points * columns)
    throw new RangeError('Expected a whole thinned string.');
  const column = (i: number) => new Float32Array(own.buffer, HEAD_BYTES + 4 * points * i, points);
  const some = (from: number) => Array.from({ length: cells }, (_, c) => column(from + c));
  return {
    fromS: head.getFloat64(16, true),
    widthS: head.getFloat64(24, true),
    points,
    lowV: some(0),
    highV: some(cells),
    lowSpreadV: column(2 * cells),
    highSpreadV: column(2 * cells + 1),
    currentA: hasCurrent ? column(2 * cells + 2) : null,
  };
}
