import { combineFew } from '../statistics';
import { budgetPart, type Figure } from '../units';
import type { Accuracy } from './accuracy';
import { currentLevels, type Level } from './levels';
import { LINE, type ReadOff, readingError, readOff } from './read-off';
import { type FigureOrReason, type Lead, leadPart, NO_LEADS } from './resistance';
import type { Section } from './sections';
import { medianIntervalS, type Trace } from './trace';

/** Kept with every two-step resistance. */
export const TWO_STEP_METHOD = { name: 'dc-resistance-two-step', version: 3 };

/** Rows of a pulse further apart than this give no two-step resistance, s. */
const MOST_PULSE_INTERVAL_S = 0.2;
/** Time before the step, and of the pulse, that the two voltages are read off, s. */
const BEFORE_STEP_S = 2;
const PULSE_FROM_S = 0.4;

/**
 * Two-step DC resistance R = (U1 − U2) / (I2 − I1) (IEC 61960-3): U1 at the end of about
 * 10 s at the lower current, U2 1 s after the step to the higher one, which lies in the middle
 * between the last row at the one and the first at the other.
 * @returns a reason when the log shows no such pair of steps, or rows further apart than 0.2 s.
 */
export function twoStepResistance(
  trace: Trace,
  sections: Section[],
  accuracy: Accuracy,
  lead: Lead = NO_LEADS,
): FigureOrReason {
  if (!trace.currentA) return { figure: null, reason: 'The log has no current column.' };
  let reason = 'The log shows no two-step pulse.';
  for (const section of sections) {
    if (section.kind !== 'discharge') continue;
    const levels = currentLevels(trace.currentA, section);
    for (let i = 1; i < levels.length; i++) {
      const found = twoStepAt(trace, levels[i - 1]!, levels[i]!, accuracy, lead);
      if (found?.figure) return found;
      if (found) reason = found.reason;
    }
  }
  return { figure: null, reason };
}

/** Mean size of the current over a level, A. */
function meanOf({ currentA }: Trace, { from, to }: Level): number {
  let sum = 0;
  for (let row = from; row <= to; row++) sum += Math.abs(currentA![row]!);
  return sum / (to - from + 1);
}

/** What was read off around one step. */
interface StepRead {
  low: Level;
  /** Length of the interval the step lies in, its middle, and times beside it, s. */
  edgeS: number;
  stepS: number;
  lowS: number;
  atS: number;
  toS: number;
  before: ReadOff;
  loaded: ReadOff;
  lowA: number;
  highA: number;
  /** Degrees of freedom and scatter of both fits together, V. */
  degrees: number;
  scatter: number;
}

/** The figure of two steps with its budget. */
function twoStepFigure(
  trace: Trace,
  { low, edgeS, stepS, lowS, atS, toS, before, loaded, lowA, highA, degrees, scatter }: StepRead,
  accuracy: Accuracy,
  lead: Lead,
): Figure {
  const stepA = highA - lowA;
  const totalMohm = ((before.value - loaded.value) / stepA) * 1000;
  const mohm = totalMohm - lead.mohm;
  const error = readingError(trace);
  const perV = 1000 / stepA;
  const slope = Math.hypot(before.slope, loaded.slope);
  return {
    quantity: 'dcResistanceTwoStep',
    value: mohm,
    unit: 'mΩ',
    bound: 'exact',
    method: TWO_STEP_METHOD,
    inputs: [
      { name: 'U1', value: before.value, unit: 'V' },
      { name: 'U2', value: loaded.value, unit: 'V' },
      { name: 'I1', value: lowA, unit: 'A' },
      { name: 'I2', value: highA, unit: 'A' },
    ],
    steps: [
      `U1 at the end of ${lowS.toFixed(1)} s at ${lowA.toFixed(3)} A, carried to the step.`,
      `U2 ${(atS - stepS).toFixed(1)} s after the step, at ${highA.toFixed(3)} A, from a line over the readings around it.`,
      `R = (U1 − U2) / (I2 − I1)${lead.mohm > 0 ? ` − ${lead.mohm} mΩ of leads` : ''}, after IEC 61960-3.`,
    ],
    findings: [],
    span: { fromS: trace.timeS[low.from]!, toS },
    ...combineFew([
      budgetPart(
        'voltageResolution',
        Math.SQRT2 * error * perV,
        `two readings at ${trace.decimals.voltageV} decimals, rectangular`,
      ),
      {
        ...budgetPart(
          'voltageScatter',
          scatter * Math.hypot(before.leverage, loaded.leverage) * perV,
          'residuals of both fits together',
        ),
        degrees,
      },
      budgetPart(
        'loadOn',
        (slope * edgeS * perV) / (2 * Math.sqrt(3)),
        `the step anywhere in ${edgeS.toPrecision(2)} s, at ${(slope * 1000).toPrecision(2)} mV/s, rectangular`,
      ),
      budgetPart(
        'current',
        ((accuracy.currentGainPct / 100) * Math.abs(totalMohm)) / Math.sqrt(3),
        `${accuracy.currentGainPct} % of the difference, rectangular`,
      ),
      budgetPart(
        'voltageGain',
        ((accuracy.voltageGainPct / 100) * Math.abs(totalMohm)) / Math.sqrt(3),
        `${accuracy.voltageGainPct} % of the difference, rectangular`,
      ),
      leadPart(lead),
    ]),
  };
}

function twoStepAt(
  trace: Trace,
  low: Level,
  high: Level,
  accuracy: Accuracy,
  lead: Lead,
): FigureOrReason | null {
  const { timeS, voltageV } = trace;
  const edgeS = timeS[high.from]! - timeS[low.to]!;
  const stepS = timeS[high.from]! - edgeS / 2;
  const lowS = stepS - timeS[low.from]!;
  const highS = timeS[high.to]! - stepS;
  const isPulse = lowS >= 5 && lowS <= 30 && highS >= 0.5 && highS <= 5 && high.amps > 2 * low.amps;
  if (!isPulse || low.to - low.from < 3) return null;
  const intervalS = Math.max(edgeS, medianIntervalS(timeS.subarray(low.from, high.to + 1)));
  if (intervalS > MOST_PULSE_INTERVAL_S * (1 + 1e-6))
    return {
      figure: null,
      reason: `Readings of the two-step pulse are ${intervalS.toPrecision(2)} s apart, coarser than ${MOST_PULSE_INTERVAL_S} s.`,
    };
  const read = (
    { from, to }: Level,
    [fromS, toS]: readonly [number, number],
    atS: number,
    basis: typeof LINE,
  ) => {
    const rows: number[] = [];
    for (let row = from; row <= to; row++)
      if (timeS[row]! >= fromS - 1e-9 && timeS[row]! <= toS + 1e-9) rows.push(row);
    return readOff(
      rows.map((row) => timeS[row]! - stepS),
      rows.map((row) => voltageV[row]!),
      basis,
      atS - stepS,
    );
  };
  const before = read(low, [stepS - BEFORE_STEP_S, stepS], stepS, LINE);
  const atS = stepS + Math.min(1, highS);
  const loaded = read(high, [stepS + PULSE_FROM_S, stepS + 1.6], atS, LINE);
  if (!before || !loaded) return null;
  const degrees = Math.max(1, before.degrees + loaded.degrees);
  const scatter = Math.sqrt((before.squares + loaded.squares) / degrees);
  const [lowA, highA] = [meanOf(trace, low), meanOf(trace, high)];
  const known = { low, edgeS, stepS, lowS, atS, before, loaded, lowA, highA, degrees, scatter };
  return { figure: twoStepFigure(trace, { ...known, toS: timeS[high.to]! }, accuracy, lead) };
}
