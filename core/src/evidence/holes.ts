import { fitLinear } from '../statistics';
import { chargeStepAh, energyStepWh } from './charge-steps';
import { CounterWitness, type RowRange } from './counter-witness';
import { intervalOf, type Trace } from './trace';

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
    const fullAh = ((beforeA + afterA) / 2) * hours;
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
  return judged.map(({ row, before, after, fullAh, counted, says }) => {
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
        counter!.resolutionAh / Math.sqrt(6),
        `counted by the instrument in steps of ${counter!.resolutionAh.toPrecision(2)} Ah`,
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
  });
}

/** Energy of a hole's charge, Wh: the instrument’s counter where it counts energy alone. */
function energyOf(trace: Trace, row: number, ah: number, meanV: number): number {
  const byCounter = !trace.currentA && trace.counterWh ? energyStepWh(trace, row) : NaN;
  return byCounter > 0 ? byCounter : ah * meanV;
}

/** What is known of the time between a row without and a row with current beside it. */
export interface LoadEdge {
  /** Charge counted, Ah. */
  ah: number;
  /** Limits of its error, Ah. */
  limitAh: number;
  by: 'counter' | 'marker' | 'half' | 'first row' | 'hole';
  /** Length of the interval, s. */
  intervalS: number;
  currentA: number;
}

const isInHole = (trace: Trace, row: number) =>
  trace.holes.some(({ toS }) => toS === trace.timeS[row]!);

/** Whether the row was written because a step began there, not because it was due. */
function isMarked(
  trace: Trace,
  row: number,
  outer: number,
  intervalS: number,
): 'at' | 'before' | null {
  const { step, mode, timeS } = trace;
  const same = (a: number, b: number) =>
    (!step || Object.is(step[a], step[b])) && (!mode || mode[a] === mode[b]);
  if (!step && !mode) return null;
  // The row without current already belongs to the step under load: the step began there.
  if (same(row, outer)) {
    const beyond = outer + Math.sign(outer - row);
    const changes = beyond >= 0 && beyond < timeS.length && !same(outer, beyond);
    return changes ? 'before' : null;
  }
  // Off the beat of the log: written at the instant the step began.
  return Math.abs(timeS[row]! - timeS[outer]!) < 0.9 * intervalS ? 'at' : null;
}

/**
 * Charge between the last row without and the first row with current (handbook, chapter 3,
 * load-on): half the interval at the first current with limits of half of it, unless the
 * counter or a step marker says when. Mirror for the end of a part.
 * @param row first (or last) row under load. @param outer the row beyond it, −1 for none.
 * @param witness the instrument’s counter over this discharge, where it is believed.
 */
export function loadEdge(
  trace: Trace,
  row: number,
  outer: number,
  witness: CounterWitness | null,
): LoadEdge {
  const { timeS, currentA } = trace;
  const usual = intervalOf(trace);
  const isStart = outer < row;
  const amps = currentA
    ? Math.max(Math.abs(currentA[row]!), Math.abs(currentA[row + (isStart ? 1 : -1)] ?? 0) * 0.5)
    : 0;
  if (outer < 0 || outer >= timeS.length)
    return {
      ah: 0,
      limitAh: (amps * usual) / 3600,
      by: 'first row',
      intervalS: usual,
      currentA: amps,
    };
  const intervalS = Math.abs(timeS[row]! - timeS[outer]!);
  // Counters only: the row before is the last one that stands where the counter began.
  if (!currentA) return { ah: 0, limitAh: 0, by: 'counter', intervalS, currentA: 0 };
  const mostAh = (1.05 * amps * intervalS) / 3600;
  const edge = (ah: number, limitAh: number, by: LoadEdge['by']): LoadEdge => ({
    ah,
    limitAh,
    by,
    intervalS,
    currentA: amps,
  });
  // A counter too coarse to say more than half the interval does is no help.
  const fine = witness !== null && witness.resolutionAh < mostAh / 2;
  const counted = !fine
    ? null
    : isStart
      ? witness.sinceLoadOn(row, mostAh)
      : witness.between(row, outer, mostAh);
  if (counted !== null) return edge(counted, witness!.resolutionAh, 'counter');
  if (isInHole(trace, isStart ? row : outer)) return edge(0, 0, 'hole');
  const marked = isMarked(trace, row, outer, usual);
  const tick = (amps * Math.min(intervalS, 1)) / 3600;
  if (marked === 'before') return edge((amps * intervalS) / 3600, tick, 'marker');
  if (marked === 'at') return edge(0, tick, 'marker');
  const half = (amps * intervalS) / 7200;
  return edge(half, half, 'half');
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
