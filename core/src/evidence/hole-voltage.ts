import { fitLinear } from '../statistics';
import { chargeStepAh } from './charge-steps';
import type { RowRange } from './counter-witness';
import type { Trace } from './trace';

/** Steps of the voltmeter a fall has to be to bear witness (handbook, chapter 3). */
const LEAST_STEPS = 10;
/** What a fall may be of the one expected for the charge to be believed. */
const LEAST_FALL = 2 / 3;
const MOST_FALL = 3 / 2;
/** Rows that speak for the voltage at an edge. */
const EDGE_ROWS = 10;
const MOST_ROWS_BESIDE = 2000;

/** The voltage beside a hole: at its edge, and what it does with charge. */
export interface Edge {
  voltageV: number;
  errorV: number;
  /** dV/dQ, V/Ah; NaN where too few rows are there. */
  slope: number;
}

/** Where the voltage is looked at. */
export interface Context {
  trace: Trace;
  holeRows: ReadonlySet<number>;
  /** Part the hole lies in. */
  part: RowRange;
  voltageAt: (row: number) => number;
}

/** Rows from `start` in one direction up to the next hole, until `ah` flowed over them. */
export function edgeOf(
  { trace, holeRows, part, voltageAt }: Context,
  start: number,
  ah: number,
): Edge {
  const step = start < part.to && holeRows.has(start) ? 1 : -1;
  const xs: number[] = [];
  const ys: number[] = [];
  let charge = 0;
  for (
    let row = start;
    row >= part.from && row <= part.to && xs.length < MOST_ROWS_BESIDE;
    row += step
  ) {
    if (xs.length > 0) {
      const after = step === 1 ? row : row + 1;
      if (holeRows.has(after)) break;
      charge += chargeStepAh(trace, after);
    }
    xs.push(step * charge);
    ys.push(voltageAt(row));
    if (charge >= ah && xs.length >= EDGE_ROWS) break;
  }
  const line = (count: number) =>
    fitLinear(
      xs.slice(0, count).map((x) => [1, x]),
      ys.slice(0, count),
    );
  const near = line(EDGE_ROWS);
  const whole = line(xs.length);
  return {
    voltageV: near && xs.length >= 3 ? near.coefficients[0]! : ys[0]!,
    errorV: near && xs.length >= 3 ? Math.sqrt(Math.max(0, near.covariance[0]![0]!)) : 0,
    slope: whole && xs.length >= 3 ? whole.coefficients[1]! : NaN,
  };
}

/** What the voltage says of `ah` having flowed in a hole. */
export function voltageSays(
  before: Edge,
  after: Edge,
  ah: number,
  { stepV, direction }: { stepV: number; direction: 1 | -1 },
): 'flowed' | 'flat' | 'not' {
  const fall = direction * (before.voltageV - after.voltageV);
  const slopes = [before.slope, after.slope].filter(Number.isFinite);
  if (slopes.length === 0) return 'not';
  const expected = direction * (-slopes.reduce((a, b) => a + b, 0) / slopes.length) * ah;
  const least = Math.max(LEAST_STEPS * stepV, 6 * Math.hypot(before.errorV, after.errorV));
  const agrees = fall >= LEAST_FALL * expected && fall <= MOST_FALL * expected;
  if (agrees && fall >= least) return 'flowed';
  return agrees || Math.max(Math.abs(fall), expected) < least ? 'flat' : 'not';
}
