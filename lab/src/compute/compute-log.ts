import {
  buildPyramid,
  curveOf,
  dischargedAh,
  encodeColumns,
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
  storedColumns,
  type Trace,
  type TraceBlock,
} from '@dusk-tally/core/evidence';
import type { Finding } from '@dusk-tally/core/units';
import type { RunSummary } from '@dusk-tally/store';
import { fileSource } from './file-source';
import { scanInTwo, type SecondThread, sha256Of } from './second-thread';
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

/** Shorter traces are coded by one thread. */
const WORTH_TWO_ROWS = 100_000;

/** Blocks still being coded elsewhere; null where they are there. */
type Waiting = (() => TraceBlock[]) | null;

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

/** What the other thread coded; coded here where it could not. */
function orAlone(
  waiting: () => TraceBlock[],
  columns: ReturnType<typeof storedColumns>,
): TraceBlock[] {
  try {
    return waiting();
  } catch {
    return encodeColumns(columns);
  }
}

/** What the other thread makes of the bytes’ hash, or this one where it cannot. */
function hashOf(task: LogTask, hashing: (() => string) | null): string | null {
  if (!task.wantsHash || !task.bytes) return null;
  try {
    if (hashing) return hashing();
  } catch {
    // Made here.
  }
  return sha256Of(task.bytes);
}

function readTask(
  task: LogTask,
  second: SecondThread | null,
): LongLog & { waiting: Waiting; hashing: (() => string) | null } {
  let hashing: (() => string) | null = null;
  const hashMeanwhile = () => {
    if (second && task.wantsHash) hashing = second.start({ kind: 'hash', bytes: task.bytes! });
  };
  if (task.path !== null) {
    const source = fileSource(task.path);
    try {
      const read = readLongLog(source, { ...readingOf(task), ...purposeOf(task) });
      return { ...read, waiting: null, hashing };
    } finally {
      source.close();
    }
  }
  const log = readLog(task.bytes!, {
    ...readingOf(task),
    scan: second ? scanInTwo(second, hashMeanwhile) : undefined,
  });
  if (second && !second.isBroken && log.rows <= LONG_ROWS && log.rows > WORTH_TWO_ROWS) {
    // The noisiest columns take longest: the other thread codes them during all that follows.
    const columns = storedColumns(log.trace);
    const theirs = columns.filter(([name]) => name === 'voltageV' || name === 'currentA');
    const waiting = second.start({ kind: 'encode', columns: theirs });
    const ours = columns.filter((column) => !theirs.includes(column));
    return {
      log,
      blocks: [],
      rowOf: null,
      hashing,
      waiting: () => [...encodeColumns(ours), ...orAlone(waiting, theirs)],
    };
  }
  const blocks = encodeTrace(log.trace);
  if (log.rows <= LONG_ROWS) return { log, blocks, rowOf: null, waiting: null, hashing };
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
    waiting: null,
    hashing,
  };
}

/** Reads one log and computes everything that is stored of it. Runs in a worker. */
export function computeLog(task: LogTask, second: SecondThread | null = null): LogResult {
  try {
    const { log, blocks, rowOf, waiting, hashing } = readTask(task, second);
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
      sha256: hashOf(task, hashing),
      rows: log.rows,
      durationS: timeS[timeS.length - 1]!,
      startedAtMs: log.trace.startedAtMs,
      figures: listFigures(figures),
      summary,
      curve,
      blocks: waiting?.() ?? blocks,
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
