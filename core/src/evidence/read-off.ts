import { fitLinear } from '../statistics';
import type { Section } from './sections';
import type { Trace } from './trace';

/** A voltage read off a fit, with what its rows scatter by. */
export interface ReadOff {
  value: number;
  /** Standard error, widened where neighbours are off alike, V. */
  error: number;
  degrees: number;
  /** Sum of squares of its residuals, V², and the standard error for residuals of 1 V. */
  squares: number;
  leverage: number;
  /** dV/dt there, V/s. */
  slope: number;
}

/** Most rows a voltage is read off. */
export const MOST_ROWS = 2000;

/** Value and slope of a + b·f(t) + c·t at one time, by least squares over some rows. */
export function readOff(
  ts: readonly number[],
  volts: readonly number[],
  basisOf: (t: number) => number[],
  atT: number,
): ReadOff | null {
  const basis = ts.map(basisOf);
  const fit = fitLinear(basis, [...volts]);
  const at = basisOf(atT);
  if (!fit || volts.length < at.length) return null;
  const { coefficients, covariance, residualVariance } = fit;
  const valueAt = (terms: number[]) =>
    terms.reduce((sum, term, i) => sum + term * coefficients[i]!, 0);
  const variance = at.reduce(
    (sum, a, i) => sum + a * at.reduce((s, b, j) => s + covariance[i]![j]! * b, 0),
    0,
  );
  let [squares, lagged, before] = [0, 0, 0];
  volts.forEach((volt, i) => {
    const residual = volt - valueAt(basis[i]!);
    squares += residual * residual;
    if (i > 0) lagged += residual * before;
    before = residual;
  });
  // Where neighbours are off alike it is the shape of the curve, which more rows do not average out.
  const alike = Math.min(0.9, Math.max(0, squares > 0 ? lagged / squares : 0));
  const step = 1e-3 * Math.max(atT, 1e-3);
  return {
    value: valueAt(at),
    error: Math.sqrt(Math.max(0, variance) * ((1 + alike) / (1 - alike))),
    degrees: volts.length - at.length,
    squares,
    leverage: residualVariance > 0 ? Math.sqrt(Math.max(0, variance) / residualVariance) : 0,
    slope: (valueAt(basisOf(atT + step)) - valueAt(basisOf(atT - step))) / (2 * step),
  };
}

/** No term but the level. */
export const LEVEL = () => [1];
/** A straight line. */
export const LINE = (t: number) => [1, t];
/** An ohmic step, then diffusion as √t and emptying as t. */
export const LOADED = (t: number) => [1, Math.sqrt(Math.max(0, t)), t];

/** Rows of a section from one time after load-on to another. */
export function rowsBetween(
  { timeS }: Trace,
  { fromIndex, toIndex }: Section,
  [fromS, toS]: readonly [number, number],
): number[] {
  const rows: number[] = [];
  const count = toIndex - fromIndex + 1;
  const stride = Math.max(1, Math.floor(count / (50 * MOST_ROWS)));
  for (let row = fromIndex; row <= toIndex && rows.length < MOST_ROWS; row += stride) {
    if (timeS[row]! > toS) break;
    if (timeS[row]! >= fromS) rows.push(row);
  }
  return rows;
}

/** Error of a difference of two readings of one meter: its resolution; offsets cancel. */
export function readingError(trace: Trace): number {
  return 10 ** -trace.decimals.voltageV / Math.sqrt(12);
}
