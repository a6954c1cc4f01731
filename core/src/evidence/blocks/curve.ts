import { trapezoid } from '../../units';
import { chargeStepAh } from '../charge-steps';
import { holesWithin } from '../holes';
import type { Discharge } from '../sections';
import type { Trace } from '../trace';

/** A trace thinned for a picture: at most a given number of points, extremes kept. */
export interface Curve {
  timeS: Float32Array;
  voltageV: Float32Array;
  /** Charge since load-on, Ah; zero outside the discharge. */
  chargeAh: Float32Array;
  /** Current, A; zero where the log has none. */
  currentA: Float32Array;
}

/** Row numbers that keep the lowest and highest voltage of each bucket, ends included. */
export function extremeRows(
  values: Float64Array,
  from: number,
  to: number,
  points: number,
): number[] {
  const length = to - from + 1;
  if (length <= points) return Array.from({ length }, (_, i) => from + i);
  const buckets = Math.max(1, Math.floor((points - 2) / 2));
  const rows = [from];
  for (let bucket = 0; bucket < buckets; bucket++) {
    const start = from + 1 + Math.floor((bucket * (length - 2)) / buckets);
    const end = from + 1 + Math.floor(((bucket + 1) * (length - 2)) / buckets);
    let low = start;
    let high = start;
    for (let row = start; row < end; row++) {
      if (values[row]! < values[low]!) low = row;
      if (values[row]! > values[high]!) high = row;
    }
    if (end > start)
      rows.push(...(low === high ? [low] : [Math.min(low, high), Math.max(low, high)]));
  }
  rows.push(to);
  return rows;
}

/** Continues running charge over rows. @returns the last of it. */
function addSteps(trace: Trace, charge: Float64Array, from: number, to: number): number {
  const { timeS, currentA, sums } = trace;
  let ah = charge[from - 1]!;
  if (currentA && !sums) {
    let before = Math.abs(currentA[from - 1]!);
    for (let row = from; row <= to; row++) {
      const here = Math.abs(currentA[row]!);
      ah += trapezoid(before, here, (timeS[row]! - timeS[row - 1]!) / 3600);
      charge[row] = ah;
      before = here;
    }
    return ah;
  }
  for (let row = from; row <= to; row++) {
    ah += chargeStepAh(trace, row);
    charge[row] = ah;
  }
  return ah;
}

/** Charge since load-on at every row of a trace, Ah; of holes what may be counted. */
export function dischargedAh(trace: Trace, discharge: Discharge | null): Float64Array {
  const charge = new Float64Array(trace.timeS.length);
  const parts = discharge?.sections ?? [];
  const holes = holesWithin(
    trace,
    parts.map(({ fromIndex, toIndex }) => ({ from: fromIndex, to: toIndex })),
  );
  let ah = 0;
  for (const { fromIndex, toIndex } of parts) {
    charge[fromIndex] = ah;
    let next = fromIndex + 1;
    for (const hole of holes) {
      if (hole.row < next || hole.row > toIndex) continue;
      if (hole.row > next) ah = addSteps(trace, charge, next, hole.row - 1);
      ah += hole.ah;
      charge[hole.row] = ah;
      next = hole.row + 1;
    }
    if (next <= toIndex) ah = addSteps(trace, charge, next, toIndex);
  }
  return charge;
}

/** Thins rows `from` to `to` of a trace to about `points` points. */
export function curveOf(
  trace: Trace,
  chargeAh: Float64Array,
  range: { from: number; to: number; points: number },
): Curve {
  const rows = extremeRows(trace.voltageV, range.from, range.to, range.points);
  return {
    timeS: Float32Array.from(rows, (row) => trace.timeS[row]!),
    voltageV: Float32Array.from(rows, (row) => trace.voltageV[row]!),
    chargeAh: Float32Array.from(rows, (row) => chargeAh[row]!),
    currentA: Float32Array.from(rows, (row) => trace.currentA?.[row] ?? 0),
  };
}

const CURVE_COLUMNS = ['timeS', 'voltageV', 'chargeAh', 'currentA'] as const;

/** A curve as bytes: number of points (uint32), then four float32 columns, little endian. */
export function encodeCurve(curve: Curve): Uint8Array {
  const n = curve.timeS.length;
  const view = new DataView(new ArrayBuffer(4 + 16 * n));
  view.setUint32(0, n, true);
  CURVE_COLUMNS.forEach((name, column) => {
    for (let i = 0; i < n; i++) view.setFloat32(4 + 4 * (column * n + i), curve[name][i]!, true);
  });
  return new Uint8Array(view.buffer);
}

/** Reads a curve at `offset`; returns it and the offset behind it. */
export function decodeCurve(bytes: Uint8Array, offset = 0): { curve: Curve; next: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset + offset);
  const n = view.getUint32(0, true);
  const column = (index: number) =>
    Float32Array.from({ length: n }, (_, i) => view.getFloat32(4 + 4 * (index * n + i), true));
  return {
    curve: { timeS: column(0), voltageV: column(1), chargeAh: column(2), currentA: column(3) },
    next: offset + 4 + 16 * n,
  };
}
