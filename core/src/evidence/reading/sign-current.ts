import type { Finding } from '../../units';
import { RowMode, type Trace } from '../trace';

/** Rows over which a voltage that moves against the current by so much, V, is told. */
const RISING_ROWS = 9;
const RISING_V = 0.05;

/** Largest of 3 × noise, 0.002 It and, where It is unknown, 0.002 of the largest current; A. */
export function currentDeadBandA(currentA: Float64Array, referenceCurrentA?: number): number {
  const stride = Math.max(1, Math.floor(currentA.length / 20000));
  const differences = new Float64Array(Math.floor(Math.max(0, currentA.length - 1) / stride));
  let largest = 0;
  for (let i = 0; i < currentA.length; i++) {
    const size = Math.abs(currentA[i]!);
    if (size > largest) largest = size;
  }
  for (let i = 0; i < differences.length; i++) {
    const row = (i + 1) * stride;
    differences[i] = Math.abs(currentA[row]! - currentA[row - 1]!);
  }
  differences.sort();
  const noise = (1.4826 * (differences[differences.length >> 1] ?? 0)) / Math.SQRT2;
  const byRule = Math.max(
    Math.min(3 * noise, 0.05 * largest),
    0.002 * (referenceCurrentA ?? largest),
  );
  const idle = idleReading(
    currentA,
    referenceCurrentA ? IDLE_SHARE * referenceCurrentA : IDLE_OF_LARGEST * largest,
  );
  return Math.max(byRule, idle);
}

/** What an ammeter shows at rest stays below this share of It, or of the largest current. */
const IDLE_SHARE = 0.006;
const IDLE_OF_LARGEST = 0.015;
const FEWEST_IDLE = 5;

/** The most that is shown where no current flows: a steady offset with its noise, A; 0 for none. */
function idleReading(currentA: Float64Array, most: number): number {
  const small: number[] = [];
  const stride = Math.max(1, Math.floor(currentA.length / 20000));
  for (let i = 0; i < currentA.length; i += stride)
    if (Math.abs(currentA[i]!) < most) small.push(Math.abs(currentA[i]!));
  if (small.length < FEWEST_IDLE) return 0;
  small.sort((a, b) => a - b);
  const middle = small[small.length >> 1]!;
  const apart = small.map((value) => Math.abs(value - middle)).sort((a, b) => a - b);
  const spread = 1.4826 * apart[apart.length >> 1]!;
  return Math.min(most, middle + 4 * spread + 1e-9);
}

/**
 * How the voltage moved over rows `from` to `to` under load, in V: step at load-on, trend, and
 * the recovery after load-off turned round. Negative means discharge.
 */
export function voltageMovement(voltageV: Float64Array, from: number, to: number): number {
  const before = from > 0 ? voltageV[from - 1]! : voltageV[from]!;
  const after = to + 1 < voltageV.length ? voltageV[to + 1]! : voltageV[to]!;
  return voltageV[to]! - before - (after - voltageV[to]!);
}

interface Run {
  from: number;
  to: number;
  sign: number;
  /** A hole lies before its first row. */
  afterHole: boolean;
}

/** How the voltage moved over a run; what it was beyond a hole says nothing of this one. */
function movementOf(voltageV: Float64Array, { from, to, afterHole }: Run, nextAfterHole: boolean) {
  const [first, last] = [afterHole ? from : from - 1, nextAfterHole ? to : to + 1];
  const before = voltageV[Math.max(0, first)]!;
  const after = voltageV[Math.min(voltageV.length - 1, last)]!;
  return voltageV[to]! - before - (after - voltageV[to]!);
}

/** Runs of one sign; a new step or a hole without readings begins a new one. */
function loadedRuns(trace: Trace, currentA: Float64Array, deadBand: number): Run[] {
  const { step, timeS, holes } = trace;
  const runs: Run[] = [];
  let from = -1;
  let sign = 0;
  let nextHole = 0;
  let fromHole = false;
  const close = (to: number) => {
    if (from >= 0) runs.push({ from, to, sign, afterHole: fromHole });
    from = -1;
  };
  for (let i = 0; i < currentA.length; i++) {
    const value = currentA[i]!;
    const here = value > deadBand ? 1 : value < -deadBand ? -1 : 0;
    const afterHole = nextHole < holes.length && timeS[i]! >= holes[nextHole]!.toS;
    if (afterHole) nextHole++;
    if (here !== sign || afterHole || (step !== null && i > 0 && step[i] !== step[i - 1])) {
      close(i - 1);
      sign = here;
    }
    if (here !== 0 && from < 0) {
      from = i;
      fromHole = afterHole;
    }
  }
  close(currentA.length - 1);
  return runs;
}

function flip(currentA: Float64Array, from: number, to: number): void {
  for (let i = from; i <= to; i++) currentA[i] = -currentA[i]!;
}

/** Signs the current by the row modes. @returns whether the log names any. */
export function signByMode({ currentA, mode }: Trace): boolean {
  if (!currentA || !mode?.some((m) => m === RowMode.Charge || m === RowMode.Discharge))
    return false;
  for (let i = 0; i < currentA.length; i++) {
    if (mode[i] === RowMode.Discharge) currentA[i] = -Math.abs(currentA[i]!);
    else if (mode[i] === RowMode.Charge) currentA[i] = Math.abs(currentA[i]!);
  }
  return true;
}

/**
 * Turns the current of a trace to the inside convention, discharge negative: by the
 * row modes where the log names them, else by how the voltage moved. A column that writes a sign is
 * turned as a whole or not at all (handbook, chapter 3); only one without any, all of it positive,
 * is told apart stretch by stretch. Changes the trace.
 */
export function signCurrent(trace: Trace, findings: Finding[]): void {
  const { currentA, voltageV, timeS, holes } = trace;
  if (!currentA || signByMode(trace)) return;
  const runs = loadedRuns(trace, currentA, currentDeadBandA(currentA));
  const holeEnds = new Set(holes.map(({ toS }) => toS));
  const movements = runs.map((run) =>
    movementOf(voltageV, run, holeEnds.has(timeS[run.to + 1] ?? NaN)),
  );
  if (runs.some(({ sign }) => sign < 0)) {
    const vote = runs.reduce(
      (sum, { sign, from, to }, i) => sum + sign * movements[i]! * (to - from + 1),
      0,
    );
    const turned = vote < 0 ? -1 : 1;
    if (turned < 0) flip(currentA, 0, currentA.length - 1);
    if (runs.some(({ sign }) => sign > 0)) return;
    const odd = runs.find(
      ({ from, to }) =>
        to - from >= RISING_ROWS && turned * (voltageV[to]! - voltageV[from]!) > RISING_V,
    );
    if (odd)
      findings.push({
        code: 'voltage-against-current',
        text: `All current is written negative, but from ${timeS[odd.from]!.toFixed(0)} s to ${timeS[odd.to]!.toFixed(0)} s the voltage moved the other way: charge and discharge may be written alike. Expected a sign, or a column that names the step.`,
        severity: 'warning',
      });
    return;
  }
  const leastV = 2 * 10 ** -trace.decimals.voltageV;
  let last: 1 | -1 = -1;
  runs.forEach((run, i) => {
    const moved = movements[i]!;
    // What goes on after a hole at a voltage that hardly moves goes on as before.
    const says = run.afterHole && i > 0 && Math.abs(moved) < leastV ? last : moved <= 0 ? -1 : 1;
    if (says !== run.sign) flip(currentA, run.from, run.to);
    last = says;
  });
  if (runs.some((run) => currentA[run.from]! < 0))
    findings.push({
      code: 'unsigned-current',
      text: 'Current is logged without direction; charge and discharge were told apart by the voltage.',
      severity: 'note',
    });
}
