import { extremeRows } from './curve';
import type { PyramidLevel } from './pyramid-chunks';

/** Part of a trace as it is drawn: at most a few points per pixel, extremes kept. */
export interface TraceView {
  /** Whether every sample of the part is there. */
  isWhole: boolean;
  timeS: Float64Array;
  voltageV: Float32Array;
  /** A; NaN where the log has none. */
  currentA: Float32Array;
  /** °C; NaN where the log has none. */
  temperatureC: Float32Array;
  /** Charge given since load-on, Ah. */
  chargeAh: Float32Array;
}

const FLOATS = ['voltageV', 'currentA', 'temperatureC', 'chargeAh'] as const;

function emptyView(n: number, isWhole: boolean): TraceView {
  return {
    isWhole,
    timeS: new Float64Array(n),
    voltageV: new Float32Array(n),
    currentA: new Float32Array(n).fill(NaN),
    temperatureC: new Float32Array(n).fill(NaN),
    chargeAh: new Float32Array(n),
  };
}

/** Columns of a part of a trace. */
export interface SampledPart {
  timeS: Float64Array;
  voltageV: Float64Array;
  currentA: Float64Array | null;
  temperatureC: Float64Array | null;
  chargeAh: Float64Array;
}

/** A view from samples: rows `from` to `to`, thinned to about `points` where they are more. */
export function viewSamples(
  part: SampledPart,
  { from, to, points }: { from: number; to: number; points: number },
): TraceView {
  if (to < from) return emptyView(0, true);
  const rows = extremeRows(part.voltageV, from, to, points);
  const view = emptyView(rows.length, rows.length === to - from + 1);
  rows.forEach((row, i) => {
    view.timeS[i] = part.timeS[row]!;
    view.voltageV[i] = part.voltageV[row]!;
    view.chargeAh[i] = part.chargeAh[row]!;
    if (part.currentA) view.currentA[i] = part.currentA[row]!;
    if (part.temperatureC) view.temperatureC[i] = part.temperatureC[row]!;
  });
  return view;
}

/** A view from buckets `from` to `to` of a level: two points for each group of them. */
export function viewBuckets(
  level: PyramidLevel,
  { from, to, points }: { from: number; to: number; points: number },
): TraceView {
  const buckets = to - from + 1;
  const groups = Math.max(1, Math.min(buckets, points >> 1));
  const view = emptyView(2 * groups, false);
  for (let group = 0; group < groups; group++) {
    const first = from + Math.floor((group * buckets) / groups);
    const end = from + Math.floor(((group + 1) * buckets) / groups);
    let [least, most] = [first, first];
    for (let i = first; i < end; i++) {
      if (level.leastV[i]! < level.leastV[least]!) least = i;
      if (level.mostV[i]! > level.mostV[most]!) most = i;
    }
    const next = level.timeS[Math.min(end, level.timeS.length - 1)]!;
    const at = 2 * group;
    view.timeS[at] = level.timeS[first]!;
    view.timeS[at + 1] = (level.timeS[first]! + next) / 2;
    const mostFirst = most < least || (most === least && level.mostFirst[most] === 1);
    view.voltageV[at] = mostFirst ? level.mostV[most]! : level.leastV[least]!;
    view.voltageV[at + 1] = mostFirst ? level.leastV[least]! : level.mostV[most]!;
    view.currentA[at] = level.leastA[first]!;
    view.currentA[at + 1] = level.mostA[first]!;
    view.temperatureC[at] = level.leastC[first]!;
    view.temperatureC[at + 1] = level.mostC[first]!;
    view.chargeAh[at] = view.chargeAh[at + 1] = level.chargeAh[first]!;
  }
  return view;
}

/** A view as bytes, little endian: number of points and wholeness (uint32), then its columns. */
export function encodeView(view: TraceView): Uint8Array {
  const n = view.timeS.length;
  const bytes = new DataView(new ArrayBuffer(8 + 24 * n));
  bytes.setUint32(0, n, true);
  bytes.setUint32(4, view.isWhole ? 1 : 0, true);
  for (let i = 0; i < n; i++) bytes.setFloat64(8 + 8 * i, view.timeS[i]!, true);
  FLOATS.forEach((name, column) => {
    const start = 8 + 8 * n + 4 * n * column;
    for (let i = 0; i < n; i++) bytes.setFloat32(start + 4 * i, view[name][i]!, true);
  });
  return new Uint8Array(bytes.buffer);
}

/** Inverse of `encodeView`. */
export function decodeView(bytes: Uint8Array): TraceView {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const n = view.getUint32(0, true);
  const decoded = emptyView(n, view.getUint32(4, true) === 1);
  for (let i = 0; i < n; i++) decoded.timeS[i] = view.getFloat64(8 + 8 * i, true);
  FLOATS.forEach((name, column) => {
    const start = 8 + 8 * n + 4 * n * column;
    for (let i = 0; i < n; i++) decoded[name][i] = view.getFloat32(start + 4 * i, true);
  });
  return decoded;
}
