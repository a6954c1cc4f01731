import type { Discharge, Section } from './sections';
import type { Trace } from './trace';

/** What a log shows that could not be, whatever the claim says. */
export interface LogSanity {
  /** Cell voltage that 1 % of the time was below, and above, V. */
  lowV: number;
  highV: number;
  /** Charge put in since the cell was last emptied within this log, Ah; null where it was not. */
  putInAh: number | null;
  /** Relative difference of counter and integral outside the holes; null without both. */
  countsApart: number | null;
}

/** Share of the time that does not count at either end. */
const ODD_SHARE = 0.01;
/** Voltages are counted in steps of, V. */
const STEP_V = 0.002;
const MOST_V = 120;
const MOST_ROWS = 100_000;

/**
 * Voltages that the given share of the time is below, and above: by time, not by rows. Low ones
 * count up to the end of the discharge only: a load that was switched off late leaves a cell there.
 */
function voltageSpan(
  trace: Trace,
  leadOhm: number,
  lastRow: number,
): { lowV: number; highV: number } {
  const { timeS, voltageV, currentA, cellVoltagesV } = trace;
  const bins = Math.ceil(MOST_V / STEP_V);
  const [low, high] = [new Float64Array(bins), new Float64Array(bins)];
  const binOf = (v: number) => Math.min(bins - 1, Math.max(0, Math.floor(v / STEP_V)));
  let [total, lowTotal] = [0, 0];
  // Of a long log one row in so many tells the shares of time well enough.
  const stride = Math.max(1, Math.floor(timeS.length / MOST_ROWS));
  for (let i = stride; i < timeS.length; i += stride) {
    // A hole says nothing of the voltage in it: at most two minutes of it count.
    const span = Math.min(120 * stride, timeS[i]! - timeS[i - stride]!);
    if (!(span > 0)) continue;
    const drop = currentA ? -currentA[i]! * leadOhm : 0;
    let [least, most] = [voltageV[i]! + drop, voltageV[i]! + drop];
    if (cellVoltagesV.length > 0) {
      [least, most] = [Infinity, -Infinity];
      for (const cell of cellVoltagesV) {
        least = Math.min(least, cell[i]!);
        most = Math.max(most, cell[i]!);
      }
    }
    if (i <= lastRow) {
      low[binOf(least)]! += span;
      lowTotal += span;
    }
    high[binOf(most)]! += span;
    total += span;
  }
  const below = (of: Float64Array, within: number) => {
    let sum = 0;
    for (let bin = 0; bin < bins; bin++) {
      sum += of[bin]!;
      if (sum > within) return (bin + 0.5) * STEP_V;
    }
    return NaN;
  };
  return {
    lowV: below(low, ODD_SHARE * lowTotal),
    highV: below(high, (1 - ODD_SHARE) * total),
  };
}

/** Charge put in between the last time the cell was empty in this log and the main discharge. */
function putIn(
  trace: Trace,
  sections: readonly Section[],
  discharge: Discharge | null,
  cutoffV: number,
): number | null {
  const first = discharge?.sections[0];
  if (!first) return null;
  const at = sections.indexOf(first);
  const emptied = sections
    .slice(0, at)
    .findLastIndex(
      ({ kind, toIndex }) => kind === 'discharge' && trace.voltageV[toIndex]! <= cutoffV + 0.01,
    );
  if (emptied < 0) return null;
  const between = sections.slice(emptied + 1, at);
  // A charge with a hole that nobody bears witness for put in more than is known.
  if (between.some(({ holes }) => holes?.some(({ ah }) => ah === null))) return null;
  const sum = (wanted: Section['kind']) =>
    between.reduce((total, { kind, ah }) => total + (kind === wanted ? ah : 0), 0);
  const net = sum('charge') - sum('discharge');
  return net > 0 ? net : null;
}

/** Difference of counter and integral over the rows of a discharge, holes left out, as a share. */
function countsApart(
  { counterAh, currentA, holes, timeS }: Trace,
  discharge: Discharge | null,
): number | null {
  if (!counterAh || !currentA || !discharge) return null;
  const ends = new Set(holes.map(({ toS }) => toS));
  let [counted, integrated] = [0, 0];
  for (const { fromIndex, toIndex } of discharge.sections)
    for (let row = fromIndex + 1; row <= toIndex; row++) {
      if (ends.has(timeS[row]!)) continue;
      const step = counterAh[row]! - counterAh[row - 1]!;
      integrated +=
        ((Math.abs(currentA[row]!) + Math.abs(currentA[row - 1]!)) *
          (timeS[row]! - timeS[row - 1]!)) /
        7200;
      counted += step;
    }
  return integrated > 0 ? Math.abs(counted) / integrated - 1 : null;
}

/**
 * What holds are decided by that only the trace can tell (handbook, chapter 3, *What may not reach
 * a verdict by itself*).
 * @param cutoffV of the capacity asked for, V. @param leadOhm leads inside the voltage, Ω.
 */
export function sanityOf(
  trace: Trace,
  sections: readonly Section[],
  discharge: Discharge | null,
  { cutoffV, leadOhm = 0 }: { cutoffV: number; leadOhm?: number },
): LogSanity {
  const last = discharge?.sections[discharge.sections.length - 1];
  return {
    ...voltageSpan(trace, leadOhm, last?.toIndex ?? trace.timeS.length - 1),
    putInAh: putIn(trace, sections, discharge, cutoffV),
    countsApart: trace.sums ? null : countsApart(trace, discharge),
  };
}
