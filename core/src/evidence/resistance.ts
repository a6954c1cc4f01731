import { combineFew, fitLinear, median } from '../statistics';
import { type Figure, budgetPart } from '../units';
import type { Accuracy } from './accuracy';
import { currentLevels, type Level } from './levels';
import { typedLeadUncertainty } from './lead-resistance';
import type { Discharge, Section } from './sections';
import { medianIntervalS, type Trace } from './trace';

/** Kept with every resistance from the moment a load comes on. */
export const LOAD_ON_METHOD = { name: 'dc-resistance-from-load-on', version: 3 };
/** Kept with every two-step resistance. */
export const TWO_STEP_METHOD = { name: 'dc-resistance-two-step', version: 3 };

/** Delays after which a load-on resistance is read, s (handbook, chapter 2). */
export const LOAD_ON_DELAYS_S = [1, 10, 30] as const;
/** One of the delays a load-on resistance is read after, s. */
export type LoadOnDelayS = (typeof LOAD_ON_DELAYS_S)[number];

/** Leads between cell and tester inside the logged voltage. */
export interface Lead {
  mohm: number;
  /** Standard uncertainty, mΩ. */
  standardUncertaintyMohm: number;
}

const NO_LEADS: Lead = { mohm: 0, standardUncertaintyMohm: 0 };

/** Leads as options give them; a tenth of the value where nothing is said of its uncertainty. */
export const leadOf = (mohm?: number, standardUncertaintyMohm?: number): Lead =>
  mohm && mohm > 0
    ? { mohm, standardUncertaintyMohm: standardUncertaintyMohm ?? typedLeadUncertainty(mohm) }
    : NO_LEADS;

const leadPart = (lead: Lead) =>
  budgetPart(
    'leadResistance',
    lead.standardUncertaintyMohm,
    `${lead.mohm.toPrecision(4)} mΩ of leads, subtracted`,
  );

/** A figure, or why the log does not allow one. */
export type FigureOrReason =
  { figure: Figure; reason?: undefined } | { figure: null; reason: string };

const QUANTITY = { 1: 'dcResistance1s', 10: 'dcResistance10s', 30: 'dcResistance30s' } as const;

/** A voltage read off a fit, with what its rows scatter by. */
interface ReadOff {
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
const MOST_ROWS = 2000;
/** Rest before a load that tells its voltage, s. */
const REST_S = 120;

/** Value and slope of a + b·f(t) + c·t at one time, by least squares over some rows. */
function readOff(
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

const LEVEL = () => [1];
const LINE = (t: number) => [1, t];
/** An ohmic step, then diffusion as √t and emptying as t. */
const LOADED = (t: number) => [1, Math.sqrt(Math.max(0, t)), t];

/** Resting voltage at the instant of load-on, from up to two minutes of rest. */
function restingVoltage(
  trace: Trace,
  loadRow: number,
  { restFrom, zeroS }: { restFrom: number; zeroS: number },
): ReadOff | null {
  const ts: number[] = [];
  const volts: number[] = [];
  for (let row = loadRow - 1; row >= restFrom && ts.length < MOST_ROWS; row--) {
    if (zeroS - trace.timeS[row]! > REST_S && ts.length > 0) break;
    ts.unshift(trace.timeS[row]! - zeroS);
    volts.unshift(trace.voltageV[row]!);
  }
  const mean = readOff(ts, volts, LEVEL, 0);
  const drift = ts.length >= 5 ? readOff(ts, volts, LINE, 0) : null;
  // A line helps only where the cell is still relaxing by more than the reading's own scatter.
  return drift && mean && Math.abs(drift.value - mean.value) > 3 * drift.error ? drift : mean;
}

/** Rows of a section from one time after load-on to another. */
function rowsBetween(
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
function readingError(trace: Trace): number {
  return 10 ** -trace.decimals.voltageV / Math.sqrt(12);
}

/** Rows are read between half and twice the delay after load-on. */
const WINDOW = [0.5, 2] as const;
/** Rows are no further apart, and a ramp ends, within this share of the delay. */
const WITHIN = 1 / 5;
/** A current at this share of the settled one has settled. */
const SETTLED = 0.98;
/** What flows up to so long after load-on tells what it settles at, s. */
const SETTLED_BY_S = 20;

/** The current a load settles at, and when it was there, s after load-on. */
function settledCurrent(
  trace: Trace,
  section: Section,
  { rows, zeroS, delayS }: { rows: readonly number[]; zeroS: number; delayS: number },
): { amps: number; settledA: number; rampS: number } {
  const { fromIndex, toIndex } = section;
  const sizeAt = (row: number) => Math.abs(trace.currentA![row]!);
  const sizes = rows.map(sizeAt);
  const amps = median(sizes);
  const laterS = zeroS + Math.max(SETTLED_BY_S, 4 * delayS);
  const later = rowsBetween(trace, section, [zeroS + delayS, laterS]).map(sizeAt);
  const scatter = 1.4826 * median(sizes.map((size) => Math.abs(size - amps)));
  const least = SETTLED * amps - Math.min(3 * scatter, (1 - SETTLED) * amps);
  let row = fromIndex;
  while (row < toIndex && sizeAt(row) < least) row++;
  return {
    amps,
    settledA: later.length > 0 ? median(later) : amps,
    rampS: row === fromIndex ? 0 : trace.timeS[row]! - zeroS,
  };
}

/**
 * DC resistance R(Δ) = (V before − V(Δ)) / I from load-on (handbook, chapter 3). Load-on lies
 * between the last row without and the first row with load: Δ counts from the middle of that
 * interval. I is the settled current.
 * @param lead resistance of leads inside the logged voltage, subtracted, mΩ.
 * @returns a reason instead when there is no rest before the load, rows are further apart than Δ/5,
 *   or the current took longer than Δ/5 to settle.
 */
export function loadOnResistance(
  trace: Trace,
  discharge: Discharge | null,
  delayS: LoadOnDelayS,
  accuracy: Accuracy,
  lead: Lead = NO_LEADS,
): FigureOrReason {
  const section = discharge?.sections[0];
  const refused = (reason: string): FigureOrReason => ({ figure: null, reason });
  if (!section) return refused('The log holds no discharge.');
  const { currentA, timeS } = trace;
  if (!currentA) return refused('The log has no current column.');
  const first = section.fromIndex;
  if (first === 0) return refused('No reading at rest before load-on.');
  const edgeS = timeS[first]! - timeS[first - 1]!;
  const intervalS = Math.max(
    edgeS,
    medianIntervalS(timeS.subarray(first, Math.min(section.toIndex + 1, first + 50))),
  );
  const zeroS = timeS[first]! - edgeS / 2;
  if (section.toS < zeroS + delayS) return refused(`The load did not last ${delayS} s.`);
  const most = WITHIN * delayS;
  // At a fifth itself load-on anywhere in the interval is worth more than the figure.
  if (intervalS > most * (1 - 1e-6))
    return refused(
      `Readings are ${intervalS.toPrecision(3)} s apart, not closer than ${most.toPrecision(2)} s, a fifth of ${delayS} s.`,
    );
  const rows = rowsBetween(trace, section, [
    zeroS + WINDOW[0] * delayS,
    zeroS + WINDOW[1] * delayS,
  ]);
  const loaded = readOff(
    rows.map((row) => timeS[row]! - zeroS),
    rows.map((row) => trace.voltageV[row]!),
    LOADED,
    delayS,
  );
  const before = restingVoltage(trace, first, { restFrom: restStart(trace, first), zeroS });
  if (!loaded || !before) return refused(`The load did not last ${delayS} s.`);
  const { amps, rampS, settledA } = settledCurrent(trace, section, { rows, zeroS, delayS });
  if (Math.abs(settledA - amps) > (1 - SETTLED) * settledA)
    return refused(
      `The current had not settled ${delayS} s after load-on: ${amps.toPrecision(3)} A there, ${settledA.toPrecision(3)} A later.`,
    );
  if (rampS > most)
    return refused(
      `The current took ${rampS.toPrecision(2)} s to settle, longer than ${most.toPrecision(2)} s, a fifth of ${delayS} s.`,
    );
  const totalMohm = ((before.value - loaded.value) / amps) * 1000;
  const mohm = totalMohm - lead.mohm;
  const error = readingError(trace);
  const perV = 1000 / amps;
  return {
    figure: {
      quantity: QUANTITY[delayS],
      value: mohm,
      unit: 'mΩ',
      bound: 'exact',
      method: LOAD_ON_METHOD,
      inputs: [
        { name: 'voltage before', value: before.value, unit: 'V' },
        { name: `voltage at ${delayS} s`, value: loaded.value, unit: 'V' },
        { name: 'current', value: amps, unit: 'A' },
      ],
      steps: [
        `Load-on at ${zeroS.toFixed(2)} s, the middle of the ${edgeS.toPrecision(3)} s between the last reading without and the first with load.`,
        `Resting voltage there from the readings before it.`,
        `Voltage ${delayS} s after load-on from a fit of a + b·√t + c·t to the ${rows.length} readings from ${WINDOW[0] * delayS} s to ${WINDOW[1] * delayS} s.`,
        lead.mohm > 0
          ? `R = (V before − V loaded) / I − ${lead.mohm} mΩ of leads, I the settled current.`
          : 'R = (V before − V loaded) / I, I the settled current.',
      ],
      findings: [],
      span: { fromS: zeroS, toS: zeroS + delayS },
      ...combineFew([
        budgetPart(
          'voltageResolution',
          Math.SQRT2 * error * perV,
          `two readings at ${trace.decimals.voltageV} decimals, rectangular`,
        ),
        {
          ...budgetPart('voltageScatter', loaded.error * perV, 'residuals of the fit under load'),
          degrees: loaded.degrees,
        },
        {
          ...budgetPart('voltageScatter', before.error * perV, 'residuals of the rest before'),
          degrees: before.degrees,
        },
        budgetPart(
          'loadOn',
          (Math.abs(loaded.slope) * Math.hypot(edgeS, rampS) * perV) / (2 * Math.sqrt(3)),
          `load-on anywhere in ${edgeS.toPrecision(3)} s${rampS > 0 ? `, a ramp of ${rampS.toPrecision(2)} s` : ''}, at ${(Math.abs(loaded.slope) * 1000).toPrecision(2)} mV/s, rectangular`,
        ),
        budgetPart(
          'voltageGain',
          ((accuracy.voltageGainPct / 100) * Math.abs(totalMohm)) / Math.sqrt(3),
          `${accuracy.voltageGainPct} % of the difference, rectangular`,
        ),
        budgetPart(
          'current',
          ((accuracy.currentGainPct / 100 + accuracy.currentOffsetA / amps) * Math.abs(totalMohm)) /
            Math.sqrt(3),
          `${accuracy.currentGainPct} % and ${(accuracy.currentOffsetA * 1000).toPrecision(3)} mA, rectangular (${accuracy.source})`,
        ),
        leadPart(lead),
      ]),
    },
  };
}

function restStart(trace: Trace, loadRow: number): number {
  const { currentA } = trace;
  let row = loadRow - 1;
  const limit = 0.05 * Math.abs(currentA![loadRow]!);
  while (row > 0 && Math.abs(currentA![row - 1]!) <= limit) row--;
  return row;
}

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
  const stepA = highA - lowA;
  const totalMohm = ((before.value - loaded.value) / stepA) * 1000;
  const mohm = totalMohm - lead.mohm;
  const error = readingError(trace);
  const perV = 1000 / stepA;
  const slope = Math.hypot(before.slope, loaded.slope);
  return {
    figure: {
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
      span: { fromS: timeS[low.from]!, toS: timeS[high.to]! },
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
    },
  };
}
