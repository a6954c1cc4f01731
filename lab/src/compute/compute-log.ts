import {
  type Accuracy,
  type CalibrationPoint,
  buildPyramid,
  curveOf,
  dischargedAh,
  encodeColumns,
  encodeCurve,
  encodeTrace,
  storedColumns,
  figuresOfLog,
  type LogFigures,
  type LogMapping,
  LogRefusal,
  listFigures,
  type PyramidChunk,
  openTrace,
  pyramidOfBlocks,
  readLog,
  readLongLog,
  type ReadLog,
  LONG_ROWS,
  type LongLog,
  sectionsInWhole,
  shapeOf,
  type Trace,
  type TimeUnit,
  type TraceBlock,
  sustainedCurrents,
} from '@dusk-tally/core/evidence';
import { expandedUncertainty, type Figure, type Finding } from '@dusk-tally/core/units';
import type { RunSummary } from '@dusk-tally/store';

import { fileSource } from './file-source';
import { type SecondThread, scanInTwo, sha256Of } from './second-thread';

/** Points of the thinned discharge kept beside each run. */
const CURVE_POINTS = 220;

export interface LogTask {
  /** The log itself, or a file it lies in, which is read piece by piece. */
  bytes: Uint8Array | null;
  path: string | null;
  /** Whether the content hash of the bytes is wanted too. */
  wantsHash?: boolean;
  cutoffV: number;
  ratedAh: number | null;
  accuracy: Accuracy | null;
  leadMohm: number | null;
  leadUncertaintyMohm: number | null;
  /** Voltages of the channel against a reference; empty for none. */
  voltageTable: CalibrationPoint[];
  /** Columns people assigned, by the header’s shape. */
  mappings?: Record<string, LogMapping>;
  /** What a bare time column counts in, as a person said. */
  timeUnit?: TimeUnit | null;
}

export interface ComputedLog {
  ok: true;
  /** SHA-256 of the bytes, hexadecimal, where it was asked for. */
  sha256: string | null;
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

function lowestOf(values: Float64Array): number {
  let least = Infinity;
  for (let i = 0; i < values.length; i++) if (values[i]! < least) least = values[i]!;
  return least;
}

function summaryOf(
  figures: LogFigures,
  log: ReadLog,
  { cutoffV, ratedAh }: Pick<LogTask, 'cutoffV' | 'ratedAh'>,
  rowOf: Uint32Array | null,
  chargeGiven: Float64Array,
): RunSummary {
  const { preamble: _preamble, ...dialect } = log.dialect;
  const span = figures.capacities?.[0]?.capacity.span;
  const { r1s, r10s, r30s } = figures.resistance;
  return {
    sections: sectionsInWhole(figures.sections.slice(0, 500), rowOf),
    findings: figures.findings,
    dialect,
    meanCurrentA: figures.meanCurrentA,
    restBeforeS: figures.restBeforeS,
    meanTemperatureC: figures.temperature?.meanC ?? null,
    maxTemperatureC: figures.temperature?.maxC ?? null,
    lowestV: lowestOf(log.trace.voltageV),
    cutoffV,
    loadOnS: span?.fromS ?? null,
    endS: span?.toS ?? null,
    counterAh: figures.counter?.ah ?? null,
    dischargedAh: figures.discharge?.ah ?? null,
    string: stringSummary(figures),
    sanity: figures.sanity,
    holes: log.trace.holes.slice(0, 200),
    leaderShare: figures.leaderShare,
    currents: sustainedCurrents(log.trace, figures.sections),
    shape: shapeOf(log.trace, figures.sections, figures.discharge, ratedAh, chargeGiven),
    refusedResistances: {
      r1s: r1s.reason ?? null,
      r10s: r10s.reason ?? null,
      r30s: r30s.reason ?? null,
    },
  };
}

function stringSummary({ stringCells }: LogFigures): RunSummary['string'] {
  return (
    stringCells && {
      lowA: stringCells.lowA,
      highA: stringCells.highA,
      atS: stringCells.atS,
      cells: stringCells.cells.map(({ figure, z, standsOut }) => ({
        mohm: figure.value,
        expandedMohm: expandedUncertainty(figure),
        z,
        standsOut,
      })),
    }
  );
}

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
const readingOf = ({ mappings, timeUnit, ratedAh }: LogTask) => ({ mappings, timeUnit, ratedAh });

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
  const kept = task.summary.findings.filter(({ from }) => from === 'file');
  const known = new Set(kept.map(({ code, text }) => `${code} ${text}`));
  summary.findings = [
    ...kept,
    ...summary.findings.filter(({ code, text }) => !known.has(`${code} ${text}`)),
  ];
  return { figures: listFigures(figures), summary };
}

const byComputing = (finding: Finding): Finding => ({ ...finding, from: 'computed' });
