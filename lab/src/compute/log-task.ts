import type {
  Accuracy,
  CalibrationPoint,
  LogMapping,
  PyramidChunk,
  TimeUnit,
  TraceBlock,
} from '@dusk-tally/core/evidence';
import type { Figure } from '@dusk-tally/core/units';
import type { RunSummary } from '@dusk-tally/store';

export interface LogTask {
  /** The log itself, or a file it lies in, which is read piece by piece. */
  bytes: Uint8Array | null;
  path: string | null;
  cutoffV: number;
  ratedAh: number | null;
  accuracy: Accuracy | null;
  leadMohm: number | null;
  leadUncertaintyMohm: number | null;
  /** Voltages of the channel against a reference; empty for none. */
  voltageTable: CalibrationPoint[];
  /** The channel can only load. */
  loadOnly?: boolean;
  /** Zone of the lab’s clocks. */
  timeZone?: string;
  /** Columns people assigned, by the header’s shape. */
  mappings?: Record<string, LogMapping>;
  /** What a bare time column counts in, as a person said. */
  timeUnit?: TimeUnit | null;
}

export interface ComputedLog {
  ok: true;
  rows: number;
  durationS: number;
  startedAtMs: number | null;
  figures: { figure: Figure; cutoffV: number | null }[];
  summary: RunSummary;
  curve: Uint8Array;
  blocks: TraceBlock[];
  pyramid: PyramidChunk[];
}

export type LogResult =
  ComputedLog | { ok: false; code: string; message: string; row: number | null };
