import type { CounterWitness } from './counter-witness';
import { intervalOf, type Trace } from './trace';

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
