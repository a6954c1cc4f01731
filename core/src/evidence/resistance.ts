import { fitAt, lineAt } from '../statistics';
import { combineBudget, type Figure, budgetPart } from '../units';
import type { Accuracy } from './accuracy';
import { currentLevels, type Level } from './levels';
import { typedLeadUncertainty } from './lead-resistance';
import type { Discharge, Section } from './sections';
import { medianIntervalS, type Trace } from './trace';

/** Kept with every resistance from the moment a load comes on. */
export const LOAD_ON_METHOD = { name: 'dc-resistance-from-load-on', version: 2 };
/** Kept with every two-step resistance. */
export const TWO_STEP_METHOD = { name: 'dc-resistance-two-step', version: 2 };

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

/** Resting voltage just before a row: the mean of up to two minutes of rest. */
function restingVoltage(
  trace: Trace,
  loadRow: number,
  restFrom: number,
): { value: number; error: number } {
  const rows: number[] = [];
  for (let row = loadRow - 1; row >= restFrom && rows.length < 30; row--) {
    if (trace.timeS[loadRow]! - trace.timeS[row]! > 120 && rows.length > 0) break;
    rows.push(row);
  }
  const xs = rows.map((row) => trace.timeS[row]!);
  const ys = rows.map((row) => trace.voltageV[row]!);
  const mean = ys.reduce((a, b) => a + b, 0) / ys.length;
  const drift =
    rows.length >= 5 ? lineAt(xs, ys, trace.timeS[loadRow]!) : { value: mean, error: 0 };
  // A line helps only where the cell is still relaxing by more than the reading's own scatter.
  return Math.abs(drift.value - mean) > 3 * drift.error
    ? drift
    : { value: mean, error: drift.error };
}

/**
 * Voltage under load at `delayS` after load-on. A cell's voltage falls by an ohmic step, then by
 * diffusion as √t and by emptying as t, so V = a + b·√t + c·t is fitted by least squares to
 * the rows up to four times the delay; with fewer than five rows, a line.
 */
function loadedVoltage(
  trace: Trace,
  section: Section,
  delayS: number,
): { value: number; error: number } | null {
  if (section.toS < section.fromS + delayS) return null;
  const basis: number[][] = [];
  const volts: number[] = [];
  const settled = Math.abs(trace.currentA![section.fromIndex + 1] ?? 0);
  for (let row = section.fromIndex; row <= section.toIndex; row++) {
    const t = trace.timeS[row]! - section.fromS;
    if (t > 4 * delayS + 1e-9) break;
    if (t === 0 && Math.abs(trace.currentA![row]!) < 0.95 * settled) continue;
    basis.push([1, Math.sqrt(t), t]);
    volts.push(trace.voltageV[row]!);
  }
  const at = [1, Math.sqrt(delayS), delayS];
  if (volts.length >= 5) return fitAt(basis, volts, at);
  const xs = basis.map((terms) => terms[2]!);
  return volts.length >= 2 ? lineAt(xs, volts, delayS) : null;
}

/** Error of a difference of two readings of one meter: its resolution; offsets cancel. */
function readingError(trace: Trace): number {
  return 10 ** -trace.decimals.voltageV / Math.sqrt(12);
}

/**
 * DC resistance R(Δ) = (V before − V(Δ)) / I from load-on (handbook, chapter 3).
 * @param lead resistance of leads inside the logged voltage, subtracted, mΩ.
 * @returns a reason instead when there is no rest before the load, or rows are coarser than Δ.
 */
export function loadOnResistance(
  trace: Trace,
  discharge: Discharge | null,
  delayS: LoadOnDelayS,
  accuracy: Accuracy,
  lead: Lead = NO_LEADS,
): FigureOrReason {
  const section = discharge?.sections[0];
  if (!section) return { figure: null, reason: 'The log holds no discharge.' };
  const { currentA } = trace;
  if (!currentA) return { figure: null, reason: 'The log has no current column.' };
  if (section.fromIndex === 0)
    return { figure: null, reason: 'No reading at rest before load-on.' };
  const intervalS = medianIntervalS(
    trace.timeS.subarray(section.fromIndex, Math.min(section.toIndex + 1, section.fromIndex + 50)),
  );
  if (intervalS > delayS) {
    return {
      figure: null,
      reason: `Readings are ${intervalS.toPrecision(3)} s apart, coarser than ${delayS} s.`,
    };
  }
  const before = restingVoltage(trace, section.fromIndex, restStart(trace, section.fromIndex));
  const loaded = loadedVoltage(trace, section, delayS);
  if (!loaded) return { figure: null, reason: `The load did not last ${delayS} s.` };
  const currents = currentA.subarray(section.fromIndex, section.fromIndex + 3);
  const amps = Math.abs(currents.reduce((sum, value) => sum + value, 0) / currents.length);
  const dropV = before.value - loaded.value;
  const mohm = (dropV / amps) * 1000 - lead.mohm;
  const error = readingError(trace);
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
        `Resting voltage from the readings before ${section.fromS.toFixed(1)} s.`,
        `Voltage ${delayS} s after load-on from a fit of a + b·√t + c·t to the readings up to ${4 * delayS} s.`,
        lead.mohm > 0
          ? `R = (V before − V loaded) / I − ${lead.mohm} mΩ of leads.`
          : 'R = (V before − V loaded) / I.',
      ],
      findings: [],
      span: { fromS: section.fromS, toS: section.fromS + delayS },
      ...combineBudget([
        budgetPart(
          'voltageResolution',
          ((Math.SQRT2 * error) / amps) * 1000,
          `two readings at ${trace.decimals.voltageV} decimals, rectangular`,
        ),
        budgetPart(
          'voltageScatter',
          (Math.hypot(before.error, loaded.error) / amps) * 1000,
          'residuals of the two fits',
        ),
        budgetPart(
          'voltageGain',
          ((accuracy.voltageGainPct / 100) * Math.abs(mohm)) / Math.sqrt(3),
          `${accuracy.voltageGainPct} % of the difference, rectangular`,
        ),
        budgetPart(
          'current',
          ((accuracy.currentGainPct / 100 + accuracy.currentOffsetA / amps) * Math.abs(mohm)) /
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

/**
 * Two-step DC resistance R = (U1 − U2) / (I2 − I1) (IEC 61960-3): U1 at the end of about
 * 10 s at the lower current, U2 at the end of about 1 s at the higher one.
 * @returns a reason when the log shows no such pair of steps.
 */
export function twoStepResistance(
  trace: Trace,
  sections: Section[],
  accuracy: Accuracy,
  lead: Lead = NO_LEADS,
): FigureOrReason {
  if (!trace.currentA) return { figure: null, reason: 'The log has no current column.' };
  for (const section of sections) {
    if (section.kind !== 'discharge') continue;
    const levels = currentLevels(trace.currentA, section);
    for (let i = 1; i < levels.length; i++) {
      const found = twoStepAt(trace, levels[i - 1]!, levels[i]!, accuracy, lead);
      if (found) return { figure: found };
    }
  }
  return { figure: null, reason: 'The log shows no two-step pulse.' };
}

function twoStepAt(
  trace: Trace,
  low: Level,
  high: Level,
  accuracy: Accuracy,
  lead: Lead,
): Figure | null {
  const { timeS, voltageV } = trace;
  const stepS = timeS[high.from]!;
  const lowS = stepS - timeS[low.from]!;
  const highS = timeS[high.to]! - stepS;
  const isPulse = lowS >= 5 && lowS <= 30 && highS >= 0.5 && highS <= 5 && high.amps > 2 * low.amps;
  if (!isPulse || low.to - low.from < 3) return null;
  const firstRow = Math.max(low.from, low.to - 3);
  const rows = Array.from({ length: low.to - firstRow + 1 }, (_, i) => firstRow + i);
  const before = lineAt(
    rows.map((row) => timeS[row]!),
    rows.map((row) => voltageV[row]!),
    stepS,
  );
  const atS = Math.min(stepS + 1, timeS[high.to]!);
  let row = high.from;
  while (row < high.to && timeS[row]! < atS - 1e-9) row++;
  const loaded = voltageV[row]!;
  const stepA = high.amps - low.amps;
  const mohm = ((before.value - loaded) / stepA) * 1000 - lead.mohm;
  const error = readingError(trace);
  return {
    quantity: 'dcResistanceTwoStep',
    value: mohm,
    unit: 'mΩ',
    bound: 'exact',
    method: TWO_STEP_METHOD,
    inputs: [
      { name: 'U1', value: before.value, unit: 'V' },
      { name: 'U2', value: loaded, unit: 'V' },
      { name: 'I1', value: low.amps, unit: 'A' },
      { name: 'I2', value: high.amps, unit: 'A' },
    ],
    steps: [
      `U1 at the end of ${lowS.toFixed(1)} s at ${low.amps.toFixed(3)} A, carried to the step.`,
      `U2 after ${(timeS[row]! - stepS).toFixed(1)} s at ${high.amps.toFixed(3)} A.`,
      `R = (U1 − U2) / (I2 − I1)${lead.mohm > 0 ? ` − ${lead.mohm} mΩ of leads` : ''}, after IEC 61960-3.`,
    ],
    findings: [],
    span: { fromS: timeS[low.from]!, toS: timeS[high.to]! },
    ...combineBudget([
      budgetPart(
        'voltage',
        (Math.hypot(error * Math.SQRT2, before.error) / stepA) * 1000,
        'resolution of two readings and scatter of U1',
      ),
      budgetPart(
        'current',
        ((accuracy.currentGainPct / 100) * Math.abs(mohm)) / Math.sqrt(3),
        `${accuracy.currentGainPct} % of the difference, rectangular`,
      ),
      budgetPart(
        'voltageGain',
        ((accuracy.voltageGainPct / 100) * Math.abs(mohm)) / Math.sqrt(3),
        `${accuracy.voltageGainPct} % of the difference, rectangular`,
      ),
      leadPart(lead),
    ]),
  };
}
