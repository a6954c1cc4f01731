import { combineFew, median } from '../statistics';
import { type Figure, budgetPart } from '../units';
import type { Accuracy } from './accuracy';
import { typedLeadUncertainty } from './lead-resistance';
import {
  LEVEL,
  LINE,
  LOADED,
  MOST_ROWS,
  type ReadOff,
  readingError,
  readOff,
  rowsBetween,
} from './read-off';
import type { Discharge, Section } from './sections';
import { medianIntervalS, type Trace } from './trace';

/** Kept with every resistance from the moment a load comes on. */
export const LOAD_ON_METHOD = { name: 'dc-resistance-from-load-on', version: 3 };

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

/** Four wires, or leads nobody knows of. */
export const NO_LEADS: Lead = { mohm: 0, standardUncertaintyMohm: 0 };

/** Leads as options give them; a tenth of the value where nothing is said of its uncertainty. */
export const leadOf = (mohm?: number, standardUncertaintyMohm?: number): Lead =>
  mohm && mohm > 0
    ? { mohm, standardUncertaintyMohm: standardUncertaintyMohm ?? typedLeadUncertainty(mohm) }
    : NO_LEADS;

/** What leads add to a budget. */
export const leadPart = (lead: Lead) =>
  budgetPart(
    'leadResistance',
    lead.standardUncertaintyMohm,
    `${lead.mohm.toPrecision(4)} mΩ of leads, subtracted`,
  );

/** A figure, or why the log does not allow one. */
export type FigureOrReason =
  { figure: Figure; reason?: undefined } | { figure: null; reason: string };

const QUANTITY = { 1: 'dcResistance1s', 10: 'dcResistance10s', 30: 'dcResistance30s' } as const;

/** Rest before a load that tells its voltage, s. */
const REST_S = 120;

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

/** What was read off around one load-on. */
interface LoadOnRead {
  delayS: LoadOnDelayS;
  /** Length of the interval load-on lies in, its middle, and how long the current took to settle, s. */
  edgeS: number;
  zeroS: number;
  rampS: number;
  amps: number;
  before: ReadOff;
  loaded: ReadOff;
  rows: number;
}

/** The figure of a load-on with its budget. */
function loadOnFigure(
  trace: Trace,
  { delayS, edgeS, zeroS, rampS, amps, before, loaded, rows }: LoadOnRead,
  accuracy: Accuracy,
  lead: Lead,
): Figure {
  const totalMohm = ((before.value - loaded.value) / amps) * 1000;
  const mohm = totalMohm - lead.mohm;
  const error = readingError(trace);
  const perV = 1000 / amps;
  return {
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
      `Voltage ${delayS} s after load-on from a fit of a + b·√t + c·t to the ${rows} readings from ${WINDOW[0] * delayS} s to ${WINDOW[1] * delayS} s.`,
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
  return {
    figure: loadOnFigure(
      trace,
      { delayS, edgeS, zeroS, rampS, amps, before, loaded, rows: rows.length },
      accuracy,
      lead,
    ),
  };
}

function restStart(trace: Trace, loadRow: number): number {
  const { currentA } = trace;
  let row = loadRow - 1;
  const limit = 0.05 * Math.abs(currentA![loadRow]!);
  while (row > 0 && Math.abs(currentA![row - 1]!) <= limit) row--;
  return row;
}
