import type { Finding } from '../../units';
import { encodeColumn } from '../blocks/column-codec';
import { decodeColumn } from '../blocks/decode-column';
import { BLOCK_ROWS } from '../blocks/block-format';
import { PyramidBuilder } from '../blocks/pyramid';
import { type PyramidChunk, PYRAMID_FROM_ROWS } from '../blocks/pyramid-chunks';
import { decodeColumns, type TraceBlock, traceFromColumns } from '../blocks/trace-blocks';
import type { CalibrationPoint } from '../meters/calibration';
import type { ReadLog } from '../reading/read-log';
import { signCurrent } from '../reading/sign-current';
import { type Discharge, mainDischarge, type Section } from '../sections';
import type { Trace } from '../trace';
import type { ByteSource } from './byte-source';
import { compressLog, type PieceOptions } from './compress-log';
import { BlockReader, LONG_ROWS, reduceTrace } from './reduce-trace';

/** A trace to compute with, made from its blocks: whole, or reduced where it is long. */
export interface OpenedTrace {
  trace: Trace;
  /** Row of the whole trace each row is; null where it is whole. */
  rowOf: Uint32Array | null;
  findings: Finding[];
}

/** What a trace is opened for: of a long one the rows that matter to it are kept. */
export interface TracePurpose {
  voltageTable?: readonly CalibrationPoint[];
  cutoffsV?: readonly number[];
  leadMohm?: number;
}

/**
 * Opens stored blocks for computing: the same blocks always give the same trace, however they
 * came to be.
 */
export function openTrace(
  blocks: TraceBlock[],
  rows: number,
  decimals: Trace['decimals'],
  purpose: TracePurpose = {},
): OpenedTrace {
  if (rows > LONG_ROWS)
    return reduceTrace(blocks, decimals, {
      table: purpose.voltageTable ?? [],
      cutoffsV: purpose.cutoffsV ?? [],
      leadOhm: (purpose.leadMohm ?? 0) / 1000,
    });
  return {
    trace: traceFromColumns(decodeColumns(blocks), decimals),
    rowOf: null,
    findings: [],
  };
}

/** A log read in pieces, compressed, and opened for computing. */
export interface LongLog {
  log: ReadLog;
  blocks: TraceBlock[];
  rowOf: Uint32Array | null;
}

/**
 * Reads a log of any length with little memory (handbook, chapter 3, "Reading a log").
 * @throws LogRefusal as `readLog` does; what `onProgress` throws, to cancel.
 */
export function readLongLog(
  source: ByteSource,
  options: PieceOptions & TracePurpose = {},
): LongLog {
  const { blocks, rows, dialect, decimals, startedAtMs, findings, signed } = compressLog(
    source,
    options,
  );
  let opened = openTrace(blocks, rows, decimals, options);
  const said: Finding[] = [];
  if (!signed && opened.trace.currentA) {
    const before = opened.trace.currentA.slice();
    signCurrent(opened.trace, said);
    if (turnBlocks(blocks, before, opened)) opened = openTrace(blocks, rows, decimals, options);
  }
  const trace = { ...opened.trace, startedAtMs };
  const all = [...findings, ...said, ...opened.findings];
  return { log: { trace, dialect, rows, findings: all }, blocks, rowOf: opened.rowOf };
}

/** Turns the current of blocks where it was turned in the opened trace. @returns whether any was. */
function turnBlocks(
  blocks: TraceBlock[],
  before: Float64Array,
  { trace, rowOf }: OpenedTrace,
): boolean {
  const after = trace.currentA!;
  const n = after.length;
  const rowAt = (i: number) => rowOf?.[i] ?? i;
  const ranges: [number, number][] = [];
  for (let i = 0; i < n; i++) {
    if (Object.is(after[i], before[i]) || after[i] === before[i]) continue;
    const last = ranges[ranges.length - 1];
    // Rows left out between two turned ones are turned with them.
    const next = i + 1 < n ? rowAt(i + 1) - 1 : rowAt(i);
    if (last && rowAt(i) <= last[1] + 1) last[1] = next;
    else ranges.push([rowAt(i), next]);
  }
  if (ranges.length === 0) return false;
  for (const block of blocks) {
    if (block.column !== 'currentA') continue;
    const first = block.index * BLOCK_ROWS;
    const values = decodeColumn(block.payload);
    for (const [from, to] of ranges)
      for (let row = Math.max(from, first); row <= to && row < first + values.length; row++)
        values[row - first] = 0 - values[row - first]!;
    block.payload = encodeColumn(values, block.payload[2]!);
  }
  return true;
}

/** Sections with their rows counted in the whole trace. */
export function sectionsInWhole(
  sections: readonly Section[],
  rowOf: Uint32Array | null,
): Section[] {
  return sections.map((section) => ({
    ...section,
    fromIndex: rowOf?.[section.fromIndex] ?? section.fromIndex,
    toIndex: rowOf?.[section.toIndex] ?? section.toIndex,
  }));
}

/** The pyramid of a trace in blocks; none for one short enough to be drawn from its samples. */
export function pyramidOfBlocks(
  blocks: readonly TraceBlock[],
  /** In rows of the whole trace. */
  sections: readonly Section[],
): PyramidChunk[] {
  const reader = new BlockReader(blocks);
  if (reader.rows <= PYRAMID_FROM_ROWS) return [];
  const discharge: Discharge | null = mainDischarge([...sections]);
  const builder = new PyramidBuilder(reader.rows, discharge?.sections ?? []);
  for (let stretch = 0; stretch < reader.stretches; stretch++)
    builder.add({
      timeS: reader.read('timeS', stretch)!,
      voltageV: reader.read('voltageV', stretch)!,
      currentA: reader.read('currentA', stretch),
      temperatureC: reader.read('temperatureC', stretch),
      counterAh: reader.read('counterAh', stretch),
    });
  return builder.chunks();
}
