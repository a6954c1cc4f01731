import {
  type Accuracy,
  type CalibrationPoint,
  capacityFromWindow,
  cutSections,
  type FullCurve,
  mainDischarge,
  openTrace,
  throughTable,
  type Trace,
  type TraceBlock,
  unknownTesterAccuracy,
  windowCapacity,
} from '@dusk-tally/core/evidence';
import type { Figure } from '@dusk-tally/core/units';

/** A window of one run, and the full capacity it speaks for where the model allows it. */
export interface WindowView {
  window: Figure | null;
  reason: string | null;
  full: Figure | null;
  fullReason: string | null;
}

export interface WindowTask {
  blocks: TraceBlock[];
  rows: number;
  decimals: Trace['decimals'];
  fromV: number;
  toV: number;
  accuracy: Accuracy | null;
  leadMohm: number | null;
  leadUncertaintyMohm: number | null;
  voltageTable: CalibrationPoint[];
  /** The channel cannot charge. */
  loadOnly?: boolean;
  curves: FullCurve[];
}

/** Charge between two voltages of a stored run. Runs in a worker. */
export function windowOfRun(task: WindowTask): WindowView {
  const opened = openTrace(task.blocks, task.rows, task.decimals, {
    voltageTable: task.voltageTable,
    cutoffsV: [task.fromV, task.toV],
    leadMohm: task.leadMohm ?? undefined,
  });
  const trace = {
    ...throughTable(opened.trace, task.voltageTable),
    ...(task.loadOnly ? { loadOnly: true } : {}),
  };
  const discharge = mainDischarge(cutSections(trace));
  const amps = trace.currentA?.reduce((most, a) => Math.max(most, Math.abs(a)), 0) ?? 0;
  const window = windowCapacity(trace, discharge, task, {
    accuracy: task.accuracy ?? unknownTesterAccuracy(amps),
    leadMohm: task.leadMohm ?? undefined,
    leadUncertaintyMohm: task.leadUncertaintyMohm ?? undefined,
  });
  if (!window.figure) return { window: null, reason: window.reason, full: null, fullReason: null };
  const full = capacityFromWindow(window.figure, task.curves);
  return {
    window: window.figure,
    reason: null,
    full: full.figure,
    fullReason: full.reason ?? null,
  };
}
