import type {
  Accuracy,
  CurveShape,
  Dialect,
  LogSanity,
  Section,
  SustainedCurrent,
} from '@dusk-tally/core/evidence';
import type { Bound, Figure, Finding, Quantity } from '@dusk-tally/core/units';
import type { ReadingPurpose } from '@dusk-tally/core/arrivals';
import type { Clamping } from '@dusk-tally/core/chemistry';
import type { ProbePlace } from '@dusk-tally/core/verdicts';

/** `system` is no person: what the app does by itself. */
export type InstrumentKind = 'tester' | 'acMeter' | 'voltmeter' | 'scale' | 'caliper';
export interface InstrumentRow {
  id: number;
  name: string;
  kind: InstrumentKind;
  serial: string | null;
  /** For testers; meters use gain and offset of their one quantity. */
  accuracy: Accuracy | { gainPct: number; offset: number; source: string };
  calibratedOn: string | null;
  dueOn: string | null;
  version: number;
}
export interface LogFileRow {
  id: number;
  sha256: string;
  name: string;
  bytes: number;
  lotId: number;
  personId: number;
  at: Date;
}
export interface StringSummary {
  lowA: number;
  highA: number;
  atS: number;
  /** One per cell, mΩ, with expanded uncertainties and what stands out. */
  cells: { mohm: number; expandedMohm: number | null; z: number | null; standsOut: boolean }[];
}
export interface RunSummary {
  sections: Section[];
  findings: Finding[];
  dialect: Omit<Dialect, 'preamble'>;
  meanCurrentA: number | null;
  restBeforeS: number | null;
  meanTemperatureC: number | null;
  maxTemperatureC: number | null;
  lowestV: number;
  cutoffV: number;
  /** Rows used to compute, for the trail. */
  loadOnS: number | null;
  endS: number | null;
  counterAh: number | null;
  /** Whole charge of the discharge, past the cut-off too; absent in older runs. */
  dischargedAh?: number | null;
  leaderShare: number[] | null;
  /** ΔV / ΔI of each cell of a string between two loads; absent in older runs. */
  string?: StringSummary | null;
  /** Stretches without readings; absent in older runs. */
  holes?: { fromS: number; toS: number }[];
  /** What a log shows that could not be; absent in older runs. */
  sanity?: LogSanity;
  /** Clocks of agent and instrument apart over a driven run, as a share; absent elsewhere. */
  clocksApart?: number | null;
  /** Currents that were kept, strongest first; absent in older runs. */
  currents?: SustainedCurrent[];
  /** Absent in runs taken in before shapes were kept. */
  shape?: CurveShape;
  refusedResistances: { r1s: string | null; r10s: string | null; r30s: string | null };
}
export interface RunRow {
  id: number;
  cellId: number;
  lotId: number;
  logFileId: number;
  instrumentId: number | null;
  channelId: number | null;
  /** Of the room, read beside the run. */
  ambientC: number | null;
  /** How the cell was held; null where nobody recorded it. */
  clamping: Clamping | null;
  personId: number;
  rows: number;
  durationS: number;
  startedAt: Date | null;
  leadMohm: number | null;
  /** Standard uncertainty of it, mΩ; null for a tenth as limits. */
  leadUncertaintyMohm: number | null;
  summary: RunSummary;
  /** Hash of all its figures were computed from beside the trace; null for one to be made new. */
  inputHash: string | null;
  /** Thinned discharge, from `encodeCurve`. */
  curve: Buffer;
  createdAt: Date;
}
export interface TraceBlockRow {
  runId: number;
  columnName: string;
  blockIndex: number;
  payload: Buffer;
}
export type ReadingKind =
  | 'acResistance'
  | 'openCircuitVoltage'
  | 'capacity'
  | 'mass'
  | 'thickness'
  | 'energyBehindInverter'
  | 'energyShown'
  | 'currentShown'
  | 'durationShown';
export interface ReadingRow {
  id: number;
  cellId: number;
  lotId: number;
  kind: ReadingKind;
  /** Null takes the earlier reading of this kind back. */
  value: number | null;
  decimals: number;
  /** Single readings whose median is the value; null for one. */
  repeats: number[] | null;
  /** Where the probes of an AC reading were. */
  probe: ProbePlace | null;
  /** What it was taken for; voltages of other purposes than arrival never change triage. */
  purpose: ReadingPurpose;
  /** Of the cell or the room then, °C; null where it was not read. */
  temperatureC?: number | null;
  instrumentId: number | null;
  /** The hand log it is the result of; its figure comes from the points of that. */
  handLogId?: number | null;
  /** Made by the browser, so that a repeated send is stored once. */
  clientKey: string;
  /** The question that was asked and answered with "keep". */
  keptDespite: string | null;
  personId: number;
  at: Date;
}
export interface FigureRow {
  id: number;
  cellId: number;
  lotId: number;
  runId: number | null;
  readingId: number | null;
  quantity: Quantity;
  cutoffV: number | null;
  value: number;
  unit: string;
  standardUncertainty: number | null;
  bound: Bound;
  method: string;
  methodVersion: number;
  inputHash: string;
  detail: Figure;
}
