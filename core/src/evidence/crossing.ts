import { median } from '../statistics';
import type { RunningTotals } from './running-totals';

/** Where a falling voltage meets a cut-off, in charge. */
export interface Crossing {
  /** Charge from load-on, Ah; beyond the last row where the line leads there. */
  ah: number;
  /** Standard error from the scatter of the voltage, Ah. */
  noiseAh: number;
  /** Limits of what the bend of the curve may have moved it by, Ah. */
  bendAh: number;
  /** |dQ/dV| there, Ah/V. */
  perVolt: number;
  /** Voltage by the line at the last row used, V. */
  lastV: number;
  by: 'interval' | 'line';
  /** Rows the line was laid through. */
  rows: number;
}

/** A noise height: what nearly all readings stay within, in standard deviations. */
const HEIGHT = 4;
/** A line is laid over at least so many noise heights of fall. */
const HEIGHTS = 3;
/** Rows before the crossing that tell the noise, and the shortest and longest line. */
const NOISE_ROWS = 60;
const LEAST_ROWS = 5;
const MOST_ROWS = 20_000;

/**
 * Standard deviation of the voltage about a smooth curve, V: from each row’s distance to the
 * line between its neighbours, with the resolution of the voltmeter as the least.
 */
export function voltageNoise(totals: RunningTotals, position: number, resolutionV: number): number {
  const { from } = totals.around(position);
  const last = position - 1;
  const first = Math.max(from + 1, last - NOISE_ROWS);
  if (last - first < 5) return resolutionV / Math.sqrt(12);
  const q = totals.ahOver(first - 1, last);
  const off: number[] = [];
  for (let at = first; at < last; at++) {
    const [a, b, c] = [totals.cellVAt(at - 1), totals.cellVAt(at), totals.cellVAt(at + 1)];
    const i = at - first + 1;
    const span = q[i + 1]! - q[i - 1]!;
    const share = span > 0 ? (q[i]! - q[i - 1]!) / span : 0.5;
    const own = Math.sqrt(1 + share * share + (1 - share) * (1 - share));
    off.push(Math.abs(b - a - share * (c - a)) / own);
  }
  const scatter = 1.4826 * median(off);
  return Math.max(scatter, resolutionV / Math.sqrt(12));
}

interface Line {
  /** Of V against Q − q0. */
  intercept: number;
  slope: number;
  q0: number;
  n: number;
  meanX: number;
  sxx: number;
  /** Standard deviation about the line, widened where neighbours are off alike, V. */
  scatter: number;
  /** Second-order term of a parabola through the same rows, V/Ah². */
  bend: number;
}

/** Straight line and parabola by orthogonal polynomials. */
function fitCurve(q: Float64Array, v: Float64Array): Line {
  const n = q.length;
  const q0 = q[0]!;
  let [meanX, meanV] = [0, 0];
  for (let i = 0; i < n; i++) {
    meanX += (q[i]! - q0) / n;
    meanV += v[i]! / n;
  }
  let [sxx, sxv, sxxx] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const x = q[i]! - q0 - meanX;
    sxx += x * x;
    sxv += x * v[i]!;
    sxxx += x * x * x;
  }
  const slope = sxx > 0 ? sxv / sxx : 0;
  const tilt = sxx > 0 ? sxxx / sxx : 0;
  let [pp, pv, squares, lagged, before] = [0, 0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    const x = q[i]! - q0 - meanX;
    const p = x * x - sxx / n - tilt * x;
    const residual = v[i]! - meanV - slope * x;
    pp += p * p;
    pv += p * residual;
    squares += residual * residual;
    if (i > 0) lagged += residual * before;
    before = residual;
  }
  const alike = Math.min(0.9, Math.max(0, squares > 0 ? lagged / squares : 0));
  return {
    intercept: meanV - slope * meanX,
    slope,
    q0,
    n,
    meanX,
    sxx,
    scatter: Math.sqrt((squares / Math.max(1, n - 2)) * ((1 + alike) / (1 - alike))),
    bend: pp > 0 ? pv / pp : 0,
  };
}

/** Where the parabola of the same rows meets the voltage near `x`, as a distance from the line’s. */
function bendShift(line: Line, x: number): number {
  const { bend, slope, meanX, sxx, n } = line;
  if (!(slope < 0)) return 0;
  const tilted = x - meanX;
  const off = bend * (tilted * tilted - sxx / n);
  return Math.abs(off / slope);
}

/**
 * The crossing of a straight line laid over the rows around it (handbook, chapter 3, *the
 * crossing*): a window at least as long as three noise heights of fall.
 * @param position a first guess. @returns null where the voltage does not fall over the window.
 */
export function lineCrossing(
  totals: RunningTotals,
  position: number,
  cutoffV: number,
  noiseV: number,
): Crossing | null {
  const { from, to } = totals.around(Math.min(position, totals.length - 1));
  const fall = HEIGHTS * HEIGHT * noiseV;
  let centre = position;
  let found: Crossing | null = null;
  for (let round = 0; round < 4; round++) {
    let half = LEAST_ROWS;
    let line: Line | null = null;
    let ah: Float64Array = new Float64Array(0);
    let [first, last] = [centre, centre];
    while (true) {
      first = Math.max(from, centre - half);
      last = Math.min(to, centre + half);
      if (last - first + 1 < 3) return null;
      ah = totals.ahOver(first, last);
      const v = Float64Array.from(ah, (_, i) => totals.cellVAt(first + i));
      line = fitCurve(ah, v);
      const span = ah[ah.length - 1]! - ah[0]!;
      const isWhole = (first === from && last === to) || half >= MOST_ROWS;
      if (-line.slope * span >= fall || isWhole) break;
      half = Math.ceil(half * 1.5);
    }
    if (!line || !(line.slope < 0)) return found;
    const x = (cutoffV - line.intercept) / line.slope;
    const perVolt = -1 / line.slope;
    const scatter = Math.max(line.scatter, noiseV);
    found = {
      ah: line.q0 + x,
      noiseAh: scatter * perVolt * Math.sqrt(1 / line.n + (x - line.meanX) ** 2 / line.sxx),
      bendAh: bendShift(line, x),
      perVolt,
      lastV: line.intercept + line.slope * (ah[ah.length - 1]! - line.q0),
      by: 'line',
      rows: line.n,
    };
    // Where the line meets the cut-off is the middle of the next window.
    let next = first;
    while (next < last && ah[next - first]! < found.ah) next++;
    if (found.ah > ah[ah.length - 1]! && last < to) next = Math.min(to, last + half);
    if (Math.abs(next - centre) <= Math.max(1, half / 10)) break;
    centre = next;
  }
  return found;
}

/**
 * The crossing inside one interval, bent as the rows before it are: the voltage falls faster and
 * faster at a knee, and a straight chord meets the cut-off too early. The second difference of
 * the rows says how much; all of that is kept as limits.
 * @param position of the first row at or below the cut-off, at least 1.
 */
export function intervalCrossing(
  totals: RunningTotals,
  position: number,
  cutoffV: number,
): { share: number; bendShare: number } {
  const [high, low] = [totals.cellVAt(position - 1), totals.cellVAt(position)];
  if (!(high > low)) return { share: 1, bendShare: 0 };
  const share = Math.min(1, Math.max(0, (high - cutoffV) / (high - low)));
  const { from } = totals.around(position);
  if (position - 2 < from) return { share, bendShare: share * (1 - share) };
  const q = totals.ahOver(position - 2, position);
  const bent = kneeShare(
    { fall: totals.cellVAt(position - 2) - high, width: q[1]! - q[0]! },
    { fall: high - low, width: q[2]! - q[1]! },
    share,
  );
  return { share: bent, bendShare: Math.abs(bent - share) };
}

/** One interval of a falling voltage: its fall, V, and its charge, Ah. */
interface Fall {
  fall: number;
  width: number;
}

/**
 * Share of the second interval at which it has fallen by `share` of its whole fall, where the
 * voltage leaves a plateau exponentially with charge: V = a − b·exp(k·Q) through three rows.
 * Where it does not fall faster than in the interval before, the chord stands.
 */
function kneeShare(before: Fall, within: Fall, share: number): number {
  if (!(before.width > 0 && within.width > 0)) return share;
  const leastFall = Math.max(before.fall, 1e-4 * within.fall);
  const wanted = within.fall / leastFall;
  if (!(wanted * before.width > within.width)) return share;
  // Falls of an exponential over the two widths, by its exponent over the first.
  const ratio = (k: number) =>
    (Math.exp(k) * Math.expm1((k * within.width) / before.width)) / Math.expm1(k);
  let [low, high] = [1e-9, 40];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (ratio(middle) < wanted) low = middle;
    else high = middle;
  }
  const k = (low * within.width) / before.width;
  return Math.log1p(share * Math.expm1(k)) / k;
}
