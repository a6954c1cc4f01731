import type { Finding } from '../../units';
import { BLOCK_ROWS } from '../blocks/block-format';
import { decodeColumn } from '../blocks/decode-column';
import type { StoredColumn, TraceBlock } from '../blocks/trace-blocks';
import type { ByteSource } from '../long-logs/byte-source';
import { compressLog, type PieceOptions } from '../long-logs/compress-log';
import { LogRefusal } from '../reading/refusal';
import type { WatchedString } from './watched-string';

/** A log of all cells of a string, read and compressed. */
export interface StringLog {
  blocks: TraceBlock[];
  rows: number;
  /** Headers of the cells’ columns, in the order of the log. */
  cellHeaders: string[];
  /** Digits the voltages were written with. */
  decimalsV: number;
  startedAtMs: number | null;
  findings: Finding[];
}

const isOfCell = (column: string): boolean => /^cell\d+V$/.test(column);
const KEPT: readonly string[] = ['timeS', 'currentA'] satisfies StoredColumn[];

/**
 * Reads the wide log of a monitor: time, current of the string, one column per cell, any length.
 * @throws LogRefusal as `readLog` does, and where fewer than two columns hold voltages of cells.
 */
export function readString(source: ByteSource, options: PieceOptions = {}): StringLog {
  const { blocks, rows, dialect, decimals, startedAtMs, findings } = compressLog(source, options);
  const cellHeaders = dialect.columns
    .filter(({ role }) => role === 'cellVoltage')
    .map(({ header }) => header);
  if (cellHeaders.length < 2)
    throw new LogRefusal({
      code: 'no-cells',
      message: `Row ${dialect.headerRow}: ${cellHeaders.length === 0 ? 'no column holds' : 'only one column holds'} the voltage of a cell. Expected one for each cell of the string, such as “cell1_V”, “cell2_V”; found ${dialect.columns.map(({ header }) => header || '(blank)').join(', ')}.`,
      row: dialect.headerRow,
    });
  return {
    blocks: blocks.filter(({ column }) => isOfCell(column) || KEPT.includes(column)),
    rows,
    cellHeaders,
    decimalsV: decimals.voltageV,
    startedAtMs,
    findings,
  };
}

/** Rows of one column of neighbouring blocks, as 32 bits: to a quarter of a microvolt at 3.4 V. */
function columnOf(blocks: readonly TraceBlock[], name: string): Float32Array | null {
  const own = blocks.filter(({ column }) => column === name).sort((a, b) => a.index - b.index);
  if (own.length === 0) return null;
  const parts = own.map(({ payload }) => Float32Array.from(decodeColumn(payload)));
  return joined(parts, (n) => new Float32Array(n));
}

function joined<T extends Float32Array | Float64Array>(parts: T[], make: (n: number) => T): T {
  if (parts.length === 1) return parts[0]!;
  const whole = make(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/**
 * A string from its stored blocks, or from those of a stretch of it.
 * @throws RangeError where time or cells are missing.
 */
export function stringFromBlocks(blocks: readonly TraceBlock[]): WatchedString {
  const times = blocks
    .filter(({ column }) => column === 'timeS')
    .sort((a, b) => a.index - b.index)
    .map(({ payload }) => decodeColumn(payload));
  const names = [...new Set(blocks.map(({ column }) => column))]
    .filter(isOfCell)
    .sort((a, b) => Number(a.slice(4, -1)) - Number(b.slice(4, -1)));
  if (times.length === 0 || names.length < 2)
    throw new RangeError('Expected stored times and the voltages of two cells at least.');
  return {
    timeS: joined(times, (n) => new Float64Array(n)),
    cellsV: names.map((name) => columnOf(blocks, name)!),
    currentA: columnOf(blocks, 'currentA'),
  };
}

/** Time each block of a string begins at, s: what stretches of time are found by. */
export const blockTimes = (timeS: Float64Array): number[] =>
  Array.from({ length: Math.ceil(timeS.length / BLOCK_ROWS) }, (_, i) => timeS[i * BLOCK_ROWS]!);

/** First and last block that hold rows between two times, with a row before and after. */
export function blocksBetween(
  beginsS: readonly number[],
  fromS: number,
  toS: number,
): [number, number] {
  const holds = (atS: number) =>
    Math.max(
      0,
      beginsS.findLastIndex((begin) => begin <= atS),
    );
  return [holds(fromS), Math.max(holds(fromS), holds(toS))];
}
