import {
  buildPyramid,
  curveOf,
  dischargedAh,
  encodeCurve,
  encodeTrace,
  figuresOfLog,
  listFigures,
  type LogFigures,
  LogRefusal,
  LONG_ROWS,
  type LongLog,
  openTrace,
  pyramidOfBlocks,
  readLog,
  type ReadLog,
  readLongLog,
  sectionsInWhole,
  type Trace,
  type TraceBlock,
} from '@dusk-tally/core/evidence';
import type { Finding } from '@dusk-tally/core/units';
import type { RunSummary } from '@dusk-tally/store';
import { fileSource } from './file-source';
import { summaryOf } from './log-summary';
import type { ComputedLog, LogResult, LogTask } from './log-task';

/** Points of the thinned discharge kept beside each run. */
const CURVE_POINTS = 220;

function thinned(trace: Trace, figures: LogFigures, chargeGiven: Float64Array): Uint8Array {
  const { discharge } = figures;
  const from = discharge?.sections[0]?.fromIndex ?? 0;
  const to = discharge?.sections[discharge.sections.length - 1]?.toIndex ?? trace.timeS.length - 1;
  return encodeCurve(curveOf(trace, chargeGiven, { from, to, points: CURVE_POINTS }));
}

const optionsOf = (task: Omit<LogTask, 'bytes' | 'path'>) => ({
  cutoffsV: [task.cutoffV],
  accuracy: task.accuracy,
  leadMohm: task.leadMohm ?? undefined,
  leadUncertaintyMohm: task.leadUncertaintyMohm ?? undefined,
  ratedAh: task.ratedAh ?? undefined,
  voltageTable: task.voltageTable,
  loadOnly: task.loadOnly,
});

/** What a trace of a task is opened for. */
const purposeOf = (task: Omit<LogTask, 'bytes' | 'path'>) => ({
  voltageTable: task.voltageTable,
  cutoffsV: [task.cutoffV],
  leadMohm: task.leadMohm ?? undefined,
});

/** How a log of a task is to be read. */
const readingOf = ({ mappings, timeUnit, ratedAh, timeZone }: LogTask) => ({
  mappings,
  timeUnit,
  ratedAh,
  timeZone,
});

function readTask(task: LogTask): LongLog {
  if (task.path !== null) {
    const source = fileSource(task.path);
    try {
      return readLongLog(source, { ...readingOf(task), ...purposeOf(task) });
    } finally {
      source.close();
    }
  }
  const log = readLog(task.bytes!, readingOf(task));
  const blocks = encodeTrace(log.trace);
  if (log.rows <= LONG_ROWS) return { log, blocks, rowOf: null };
  const { trace, rowOf, findings } = openTrace(
    blocks,
    log.rows,
    log.trace.decimals,
    purposeOf(task),
  );
  const { startedAtMs } = log.trace;
  return {
    log: {
      ...log,
      trace: { ...trace, startedAtMs },
      findings: [...log.findings, ...findings.map(byComputing)],
    },
    blocks,
    rowOf,
  };
}

/** Reads one log and computes everything that is stored of it. Runs in a worker. */
export function computeLog(task: LogTask): LogResult {
  try {
    const { log, blocks, rowOf } = readTask(task);
    const figures = figuresOfLog(log, optionsOf(task));
    const { timeS } = log.trace;
    const chargeGiven = dischargedAh(log.trace, figures.discharge);
    const curve = thinned(log.trace, figures, chargeGiven);
    const summary = summaryOf(figures, log, task, rowOf, chargeGiven);
    const pyramid = rowOf
      ? pyramidOfBlocks(blocks, sectionsInWhole(figures.sections, rowOf))
      : buildPyramid(log.trace, figures.discharge);
    return {
      ok: true,
      rows: log.rows,
      durationS: timeS[timeS.length - 1]!,
      startedAtMs: log.trace.startedAtMs,
      figures: listFigures(figures),
      summary,
      curve,
      blocks,
      pyramid,
    };
  } catch (error) {
    if (error instanceof LogRefusal)
      return { ok: false, code: error.code, message: error.message, row: error.row };
    throw error;
  }
}

export interface RecomputeTask extends Omit<LogTask, 'bytes' | 'path'> {
  blocks: TraceBlock[];
  rows: number;
  summary: RunSummary;
  decimals: Trace['decimals'];
}

/** Computes a stored run's figures again from its trace. Runs in a worker. */
export function recomputeLog(task: RecomputeTask): Pick<ComputedLog, 'figures' | 'summary'> {
  const { trace, rowOf, findings } = openTrace(
    task.blocks,
    task.rows,
    task.decimals,
    purposeOf(task),
  );
  const dialect = { ...task.summary.dialect, preamble: [] };
  const log: ReadLog = { trace, dialect, rows: task.rows, findings: findings.map(byComputing) };
  const figures = figuresOfLog(log, optionsOf(task));
  const chargeGiven = dischargedAh(trace, figures.discharge);
  const summary = {
    ...summaryOf(figures, log, task, rowOf, chargeGiven),
    clocksApart: task.summary.clocksApart ?? null,
  };
  // The file is not read again: what reading it found stands, what was computed is made new.
  const kept = task.summary.findings.filter(({ from, code }) => from === 'file' && code !== 'hole');
  const known = new Set(kept.map(({ code, text }) => `${code} ${text}`));
  summary.findings = [
    ...kept,
    ...summary.findings.filter(({ code, text }) => !known.has(`${code} ${text}`)),
  ];
  return { figures: listFigures(figures), summary };
}

const byComputing = (finding: Finding): Finding => ({ ...finding, from: 'computed' });
