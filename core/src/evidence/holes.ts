import { trapezoid } from '../units';
import { fitLinear } from '../statistics';
import { chargeStepAh, energyStepWh } from './charge-steps';
import { CounterWitness, type RowRange } from './counter-witness';
import type { Trace } from './trace';

/** Who says what flowed in a hole. */
export type HoleWitness = 'counter' | 'slope' | 'small' | 'nobody' | 'charged';

/** A stretch of a discharge without readings, and the charge that may be counted for it. */
export interface HoleStep {
  /** The row after it. */
  row: number;
  fromS: number;
  toS: number;
  witness: HoleWitness;
  /** Charge counted, Ah; 0 where nobody bears witness. */
  ah: number;
  /** Energy of it, Wh. */
  wh: number;
  /** Standard uncertainty of the charge, Ah. */
  standardUncertaintyAh: number;
  /** Where the uncertainty comes from, in words. */
  basis: string;
}

/** Limits of the rule (handbook, chapter 3, "Reading a log"). */
const EDGES_AGREE = 0.02;
const MOST_SLOPED_SHARE = 0.1;
const MOST_FLAT_SHARE = 0.02;
const LEAST_STEPS = 10;
/** The voltage stood so much higher afterwards that the cell may have been charged, V. */
const CHARGED_V = 0.01;
/** Rows that speak for the voltage at an edge. */
const EDGE_ROWS = 10;
const MOST_ROWS_BESIDE = 2000;

/** The voltage beside a hole: at its edge, and what it does with charge. */
interface Edge {
  voltageV: number;
  errorV: number;
  /** dV/dQ, V/Ah; NaN where too few rows are there. */
  slope: number;
}

interface Context {
  trace: Trace;
  holeRows: ReadonlySet<number>;
  /** Part the hole lies in. */
  part: RowRange;
  voltageAt: (row: number) => number;
}

/** Rows from `start` in one direction up to the next hole, until `ah` flowed over them. */
function edgeOf({ trace, holeRows, part, voltageAt }: Context, start: number, ah: number): Edge {
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
function voltageSays(
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
  const agrees = fall >= expected / 2 && fall <= 2 * expected;
  if (agrees && fall >= least) return 'flowed';
  return agrees || Math.max(fall, expected) < least ? 'flat' : 'not';
}

/** Currents on the two sides of a hole, A, not negative. */
function edgeCurrents(trace: Trace, part: RowRange, row: number): [number, number] {
  const { currentA, counterAh, timeS } = trace;
  if (currentA) return [Math.abs(currentA[row - 1]!), Math.abs(currentA[row]!)];
  const pace = (from: number, to: number) => {
    const hours = (timeS[to]! - timeS[from]!) / 3600;
    return hours > 0 ? Math.abs(counterAh![to]! - counterAh![from]!) / hours : 0;
  };
  return [pace(Math.max(part.from, row - 21), row - 1), pace(row, Math.min(part.to, row + 20))];
}

/** A hole with what its edges and the voltage say of it. */
interface JudgedHole {
  row: number;
  before: Edge;
  after: Edge;
  fullAh: number;
  counted: number | null;
  says: ReturnType<typeof voltageSays>;
}

/** What may be counted for a hole, and on whose word. */
function stepOf(
  { row, before, after, fullAh, counted, says }: JudgedHole,
  {
    trace,
    direction,
    slopedHolds,
    flatHolds,
    counterStepAh,
  }: {
    trace: Trace;
    direction: 1 | -1;
    slopedHolds: boolean;
    flatHolds: boolean;
    counterStepAh: number;
  },
): HoleStep {
  const { timeS, voltageV } = trace;
  const at = { row, fromS: timeS[row - 1]!, toS: timeS[row]! };
  const seconds = Math.round(at.toS - at.fromS);
  const meanV = (voltageV[row - 1]! + voltageV[row]!) / 2;
  const step = (witness: HoleWitness, ah: number, u: number, basis: string): HoleStep => ({
    ...at,
    witness,
    ah,
    wh: counted !== null || ah > 0 ? energyOf(trace, row, ah, meanV) : 0,
    standardUncertaintyAh: u,
    basis: `${seconds} s without readings, ${basis}`,
  });
  if (counted !== null)
    return step(
      'counter',
      counted,
      counterStepAh / Math.sqrt(6),
      `counted by the instrument in steps of ${counterStepAh.toPrecision(2)} Ah`,
    );
  if (says === 'flowed' && slopedHolds)
    return step(
      'slope',
      fullAh,
      fullAh / (2 * Math.sqrt(3)),
      `the voltage fell as if ${fullAh.toPrecision(3)} Ah had flowed; limits of half of it`,
    );
  if (says === 'flat' && flatHolds)
    return step(
      'small',
      fullAh,
      fullAh / Math.sqrt(3),
      `too flat a voltage to tell; limits of all ${fullAh.toPrecision(3)} Ah`,
    );
  const charged = direction === 1 && after.voltageV - before.voltageV > CHARGED_V;
  return step(charged ? 'charged' : 'nobody', 0, 0, 'nothing says what flowed');
}

/**
 * The holes inside stretches under load, and what may be counted for each (handbook, chapter 3):
 * the instrument’s own counter where it spans the hole; else, where the voltage bears witness that
 * current flowed, its edges; else nothing, and the charge is only a lower bound.
 * @param parts of one discharge or charge, in order. @param leadOhm leads inside the voltage, Ω.
 * @param direction 1 where the voltage falls with charge, −1 on charge.
 */
export function holesWithin(
  trace: Trace,
  parts: readonly RowRange[],
  leadOhm = 0,
  direction: 1 | -1 = 1,
): HoleStep[] {
  const { timeS, voltageV, holes, currentA } = trace;
  if (holes.length === 0) return [];
  const starts = new Set(holes.map((hole) => hole.fromS));
  const inside: { row: number; part: RowRange }[] = [];
  for (const part of parts)
    for (let row = part.from + 1; row <= part.to; row++)
      if (starts.has(timeS[row - 1]!)) inside.push({ row, part });
  if (inside.length === 0) return [];
  const holeRows = new Set(inside.map(({ row }) => row));
  const counter = CounterWitness.of(trace, parts, holeRows);
  let outside = 0;
  for (const { from, to } of parts)
    for (let row = from + 1; row <= to; row++)
      if (!holeRows.has(row)) outside += chargeStepAh(trace, row);
  const stepV = 10 ** -trace.decimals.voltageV;
  const judged = inside.map(({ row, part }) => {
    const [beforeA, afterA] = edgeCurrents(trace, part, row);
    const hours = (timeS[row]! - timeS[row - 1]!) / 3600;
    const fullAh = trapezoid(beforeA, afterA, hours);
    const context: Context = {
      trace,
      holeRows,
      part,
      voltageAt: (at) => voltageV[at]! + (currentA ? Math.abs(currentA[at]!) * leadOhm : 0),
    };
    const [before, after] = [edgeOf(context, row - 1, fullAh), edgeOf(context, row, fullAh)];
    const counted =
      counter?.between(row - 1, row, 1.05 * Math.max(beforeA, afterA) * hours) ?? null;
    const disagreement = Math.abs(afterA - beforeA) / Math.max((afterA + beforeA) / 2, 1e-12);
    const isSteady = currentA !== null && disagreement <= EDGES_AGREE;
    const says = isSteady ? voltageSays(before, after, fullAh, { stepV, direction }) : 'not';
    return { row, before, after, fullAh, counted, says };
  });
  const open = judged.filter(({ counted }) => counted === null);
  const sum = (list: typeof judged) => list.reduce((total, { fullAh }) => total + fullAh, 0);
  const known = outside + judged.reduce((total, { counted }) => total + (counted ?? 0), 0);
  const whole = known + sum(open);
  const flat = open.filter(({ says }) => says === 'flat');
  const slopedHolds = sum(open) <= MOST_SLOPED_SHARE * whole;
  const flatHolds = slopedHolds && sum(flat) <= MOST_FLAT_SHARE * whole;
  const rules = {
    trace,
    direction,
    slopedHolds,
    flatHolds,
    counterStepAh: counter?.resolutionAh ?? 0,
  };
  return judged.map((hole) => stepOf(hole, rules));
}

/** Energy of a hole's charge, Wh: the instrument’s counter where it counts energy alone. */
function energyOf(trace: Trace, row: number, ah: number, meanV: number): number {
  const byCounter = !trace.currentA && trace.counterWh ? energyStepWh(trace, row) : NaN;
  return byCounter > 0 ? byCounter : ah * meanV;
}

/** Rows inside the parts that follow a hole. */
export function holeRowsOf(trace: Trace, parts: readonly RowRange[]): Set<number> {
  const rows = new Set<number>();
  if (trace.holes.length === 0) return rows;
  const ends = new Set(trace.holes.map(({ toS }) => toS));
  for (const { from, to } of parts)
    for (let row = from + 1; row <= to; row++) if (ends.has(trace.timeS[row]!)) rows.add(row);
  return rows;
}
