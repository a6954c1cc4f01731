import type { Dialect } from './dialect';
import { RowMode } from '../trace';
import { LogRefusal } from './refusal';
import type { Role } from './roles';

/** Columns as they stand in the file, in file order, already in stored units. */
export interface ScannedRows {
  count: number;
  timeS: Float64Array;
  /** Digits after the point of a time written as a number. */
  timeDecimals: number;
  /** One array per number column of the dialect. */
  numbers: { role: Role; header: string; values: Float64Array; decimals: number }[];
  mode: Uint8Array | null;
  /** Rows dropped because a cell was no number. */
  rejected: { row: number; column: string; text: string }[];
  rejectedCount: number;
  /** The last line was cut off and dropped. */
  brokenTailRow: number | null;
  commentRows: number;
  /** Empty cells of a string’s voltages that kept what stood above them, by header. */
  blanks?: Record<string, number>;
  /** Line of the file that follows the last one read. */
  nextRow: number;
}

/** Powers of ten that are exact. */
export const POWERS = Float64Array.from({ length: 23 }, (_, i) => 10 ** i);

/** How a column is read while scanning. */
export const enum Kind {
  Ignored,
  Number,
  Time,
  Date,
  Mode,
}

/** Reads a mode cell's meaning from its words. */
export function modeOf(text: string): RowMode {
  const word = text.slice(0, 120).trim().toLowerCase();
  if (/^(d$|dis|dch|dchg|entlad|décharge|load)/.test(word) || /discharge|dchg/.test(word))
    return RowMode.Discharge;
  if (/^(c$|ch|chg|cc[-_ ]?cv|cccv|cv|recharge|lad|charge|top)/.test(word) || /charge/.test(word))
    return RowMode.Charge;
  if (/^(r$|rest|pause|idle|ocv|wait|stop|off|open|relax|ruhe)/.test(word)) return RowMode.Rest;
  return RowMode.Unknown;
}

/** Refuses a log of which more than 1 % of the rows hold text where a number belongs. */
export function refuseForText(
  rejected: ScannedRows['rejected'],
  rejectedCount: number,
  total: number,
): void {
  if (rejectedCount <= total * 0.01) return;
  const first = rejected[0]!;
  throw new LogRefusal({
    code: 'text-in-numbers',
    message:
      `Row ${first.row}, column “${first.column}”: expected a number, found “${first.text}”. ` +
      `${rejectedCount} of ${total} rows hold text where a number belongs; at most 1 % may.`,
    row: first.row,
    column: first.column,
  });
}

/**
 * Decimals a number was written with, its exponent counted in; 0 to 12.
 * @example decimalsOf('3.250e-1', '.') // 4
 */
export function decimalsOf(cell: string, mark: string): number {
  const match = new RegExp(`\\${mark}(\\d*)(?:e([+-]?\\d+))?$`, 'i').exec(cell);
  if (!match) return 0;
  return Math.max(0, Math.min(9, match[1]!.length - Number(match[2] ?? 0)));
}

/** Brings a column to its stored unit, correctly rounded to the digits it had. */
export function applyUnit(
  sink: ScannedRows['numbers'][number],
  count: number,
  factor: number,
  offset: number,
): void {
  if (factor === 1 && offset === 0) return;
  const shift = Math.round(-Math.log10(factor));
  const isPowerOfTen = offset === 0 && Math.abs(factor - 10 ** -shift) < 1e-12 * factor;
  if (isPowerOfTen && shift > 0) {
    for (let i = 0; i < count; i++) sink.values[i] = sink.values[i]! / POWERS[shift]!;
    sink.decimals += shift;
    return;
  }
  for (let i = 0; i < count; i++) sink.values[i] = sink.values[i]! * factor + offset;
  sink.decimals = isPowerOfTen
    ? Math.max(0, sink.decimals + shift)
    : Math.min(9, sink.decimals + 4);
}

/** Where each column of a dialect goes. */
export interface ScannedColumns {
  kinds: Kind[];
  /** Index of its numbers, by column; −1 for a column that holds none. */
  sinks: Int32Array;
  /** A cell may be empty without spoiling its row. */
  optional: boolean[];
  /** An empty cell keeps what stood above it, as monitors of strings leave out what did not change. */
  carried: boolean[];
  numbers: ScannedRows['numbers'];
}

/** Makes room for the columns of a dialect. @param capacity rows. */
export function columnsOf(dialect: Dialect, capacity: number): ScannedColumns {
  const sinks = new Int32Array(dialect.columns.length).fill(-1);
  const numbers: ScannedRows['numbers'] = [];
  const kinds = dialect.columns.map((column, index) => {
    if (column.role === 'ignored') return Kind.Ignored;
    if (column.role === 'mode') return Kind.Mode;
    if (column.role === 'date') return Kind.Date;
    if (column.role === 'time') return Kind.Time;
    sinks[index] = numbers.length;
    numbers.push({
      role: column.role,
      header: column.header,
      values: new Float64Array(capacity),
      decimals: 0,
    });
    return Kind.Number;
  });
  const optional = dialect.columns.map((c) => c.role === 'temperature' || c.role === 'step');
  const carried = dialect.columns.map((c) => c.role === 'cellVoltage');
  return { kinds, sinks, optional, carried, numbers };
}
