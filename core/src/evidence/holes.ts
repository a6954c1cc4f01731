import { trapezoid } from '../units';
import { chargeStepAh, energyStepWh } from './charge-steps';
import { counterResolution, CounterWitness, type RowRange } from './counter-witness';
import { type Context, type Edge, edgeOf, voltageSays } from './hole-voltage';
import { rowAt, type Trace } from './trace';

/**
 * Who says what flowed in a hole. Where nobody does, charge counts up to there (`nobody`, and
 * `charged` where the voltage stood higher afterwards); after it, too, where nothing can have been
 * charged meanwhile (`off`).
 */
export type HoleWitness = 'counter' | 'slope' | 'small' | 'off' | 'nobody' | 'charged';

/** A hole that ends what may be counted. */
export const endsCount = (witness: HoleWitness): boolean =>
  witness === 'nobody' || witness === 'charged';
/** A hole of which nothing is counted. */
export const isUncounted = (witness: HoleWitness): boolean =>
  witness === 'off' || endsCount(witness);

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
/** The voltage stood so much higher afterwards that the cell may have been charged, V. */
const CHARGED_V = 0.01;

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
  /** Charge by the counter, Ah; null without one that is believed. */
  counted: number | null;
  says: ReturnType<typeof voltageSays>;
}

/** Whether nothing can have been charged in a hole: the channel only loads, or its step went on. */
function excludesCharging({ loadOnly, step }: Trace, row: number): boolean {
  if (loadOnly) return true;
  const number = step?.[row];
  return number !== undefined && !Number.isNaN(number) && step![row - 1] === number;
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
  const charged = direction === 1 && after.voltageV - before.voltageV > CHARGED_V;
  if (counted !== null && !(charged && counted < fullAh / 2 && !excludesCharging(trace, row)))
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
  if (excludesCharging(trace, row))
    return step('off', 0, 0, 'nothing says what flowed; nothing can have been charged');
  return step(charged ? 'charged' : 'nobody', 0, 0, 'nothing says what flowed');
}

/**
 * The holes inside stretches under load, and what may be counted for each (handbook, chapter 3):
 * the instrument’s own counter where it spans the hole; without a counter, where the voltage bears
 * witness that current flowed, its edges; else nothing, and the charge is only a lower bound. A
 * counter that contradicts forbids to bridge the hole, whatever the voltage says.
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
    const mayBridge = isSteady && !trace.counterAh;
    const says = mayBridge ? voltageSays(before, after, fullAh, { stepV, direction }) : 'not';
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

/**
 * Holes in the pauses between parts of one discharge, at the row the load came back: nothing flowed
 * that could be counted, but the cell may have been charged, unless the channel, the step or a
 * counter that stood still says not.
 */
export function holesInPauses(trace: Trace, parts: readonly RowRange[]): HoleStep[] {
  const { timeS, counterAh, holes } = trace;
  return parts.slice(1).flatMap(({ from }, i): HoleStep[] => {
    const before = parts[i]!.to;
    const hole = holes.find(({ fromS, toS }) => fromS >= timeS[before]! && toS <= timeS[from]!);
    if (!hole) return [];
    const [first, last] = [rowAt(timeS, hole.fromS), rowAt(timeS, hole.toS)];
    const resolution = counterAh ? counterResolution(counterAh, parts) : 0;
    const stood = counterAh && Math.abs(counterAh[last]! - counterAh[first]!) <= 2 * resolution;
    if (resolution > 0 && stood) return [];
    const off = excludesCharging(trace, last);
    return [
      {
        row: from,
        ...hole,
        witness: off ? 'off' : 'nobody',
        ah: 0,
        wh: 0,
        standardUncertaintyAh: 0,
        basis: `${Math.round(hole.toS - hole.fromS)} s without readings in a pause, nothing says what flowed`,
      },
    ];
  });
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
