import type {
  Accuracy,
  CalibrationPoint,
  ChannelEffect,
  CorrectionFactors,
  LogMapping,
} from '@dusk-tally/core/evidence';

/** One place of an instrument that can load, charge or watch a cell. */
export interface ChannelRow {
  id: number;
  instrumentId: number;
  name: string;
  calibratedOn: string | null;
  dueOn: string | null;
  /** Voltages compared with a reference meter; empty when none were. */
  voltageTable: CalibrationPoint[];
  version: number;
}

/** What held of an instrument, or of one of its channels, from a day on. */
export interface MeterPeriodRow {
  id: number;
  instrumentId: number;
  /** Null for the instrument itself. */
  channelId: number | null;
  /** On the lab’s calendar. */
  holdsFrom: string;
  /** Fields of the instrument or channel, as they are in their row. */
  data: {
    accuracy?: Accuracy | { gainPct: number; offset: number; source: string };
    calibratedOn: string | null;
    dueOn: string | null;
    voltageTable?: CalibrationPoint[];
  };
  reason: string;
  personId: number | null;
  at: Date;
}

/** What repeats say of a channel: derived and replaceable. */
export interface ChannelEffectRow {
  channelId: number;
  effect: ChannelEffect | null;
  /** Results of runs after this one wait for a look; 0 holds all of them, null none. */
  heldAfterRunId: number | null;
  heldReason: string | null;
  updatedAt: Date;
}

/** What runs of a model say of rate and temperature: derived and replaceable. */
export interface ModelFactorsRow {
  modelId: number;
  factors: CorrectionFactors;
  updatedAt: Date;
}

/** Someone looked at a channel whose chart was out of control. */
export interface ChannelLookRow {
  id: number;
  channelId: number;
  upToRunId: number;
  note: string;
  personId: number;
  at: Date;
}

export interface MeterComparisonRow {
  id: number;
  title: string;
  unit: string;
  readings: { meter: string; value: number; expanded: number }[];
  personId: number;
  at: Date;
}

/** How columns of one header shape were assigned by hand. */
export interface LogMappingRow {
  id: number;
  shape: string;
  mapping: LogMapping;
  fileName: string;
  personId: number;
  at: Date;
}

export interface RepeatRow {
  runId: number;
  cellId: number;
  cell: string;
  isControl: number;
  channelId: number | null;
  lotId: number;
  modelId: number;
  figureId: number;
  value: number;
  cutoffV: number | null;
  /** JSON text of the run’s summary. */
  summary: string;
  ambientC: number | null;
  at: Date;
}
