import type { DecodedLog } from './decode';
import { type LogMapping, mappedColumns, shapeOfHeader } from './mapping';
import { LogRefusal } from './refusal';
import { type Column, recogniseColumns } from './roles';
import { groupsThousands, type TimeUnit } from './time-column';
import {
  isDayFirst,
  isEitherOrder,
  isOneDate,
  parseStamp,
  type TimeStyle,
  timeStyleOf,
} from './time-text';
import { decimalMarkOf, farCells, findTable } from './find-table';
import { NUMBER } from './sampled-lines';

/** Everything the row scanner needs to know about a file. */
export interface Dialect {
  encoding: string;
  delimiter: string;
  decimalMark: '.' | ',';
  /** Runs of the delimiter count as one (columns aligned by spaces). */
  collapse: boolean;
  /** Line of the header, from 1. */
  headerRow: number;
  /** Line of the first data row, from 1, and its offset in the decoded bytes. */
  firstDataRow: number;
  firstDataOffset: number;
  columns: Column[];
  timeStyle: TimeStyle;
  dayFirst: boolean;
  /** Its one date can be read with day or month first, and nothing tells. */
  eitherOrder?: boolean;
  /** Digits of the time are grouped by thousands with the mark that is not the decimal one. */
  timeThousands?: boolean;
  /** What a bare time column counts in, as a person said. */
  timeUnit?: TimeUnit | null;
  /** As a person said; null or absent where the reader finds it out. */
  positiveDischarges?: boolean | null;
  /** Lines above the header, as text. */
  preamble: string[];
}

function timeStyleFrom(
  rows: string[][],
  columns: Column[],
): { timeStyle: TimeStyle; samples: string[] } {
  const time = columns.find((column) => column.role === 'time');
  const date = columns.find((column) => column.role === 'date');
  const samples = rows.map((cells) =>
    date && time
      ? `${cells[date.index] ?? ''} ${cells[time.index] ?? ''}`.trim()
      : (cells[time?.index ?? -1] ?? ''),
  );
  const styles = samples.map(timeStyleOf);
  const count = (style: TimeStyle) => styles.filter((found) => found === style).length;
  const timeStyle = (['stamp', 'clock', 'number'] as const).reduce((a, b) =>
    count(b) > count(a) ? b : a,
  );
  return { timeStyle, samples };
}

/** A `date` column that itself holds full stamps becomes the time; one without a clock beside it goes. */
function settleDateColumn(columns: Column[], rows: string[][]): void {
  const date = columns.find((column) => column.role === 'date');
  if (!date) return;
  const time = columns.find((column) => column.role === 'time');
  const holdsStamps = timeStyleOf(rows[0]?.[date.index] ?? '') === 'stamp';
  if (!time && holdsStamps) date.role = 'time';
  else if (!time || timeStyleOf(rows[0]?.[time.index] ?? '') !== 'clock' || holdsStamps)
    date.role = 'ignored';
}

function requireRoles(columns: Column[], headerRow: number): void {
  const seen = columns.map((column) => column.header || '(blank)').join(', ');
  const has = (role: string) => columns.some((column) => column.role === role);
  const refuse = (code: string, wanted: string): never => {
    throw new LogRefusal({
      code,
      message: `Row ${headerRow}: no ${wanted} column. Expected one such as ${wanted === 'time' ? '“time_s” or “timestamp”' : '“voltage_V” or “U (V)”'}; found ${seen}.`,
      row: headerRow,
    });
  };
  if (!has('voltage') && !has('cellVoltage')) refuse('no-voltage', 'voltage');
  if (!has('time')) refuse('no-time', 'time');
}

/** Values of a column that rise by the same again and again. */
function risesSteadily(cells: readonly string[]): boolean {
  const values = cells
    .map((cell) => cell.trim())
    .filter((cell) => cell.length < 24 && NUMBER.test(cell))
    .map((cell) => Number(cell.replace(',', '.')));
  if (values.length < 4 || values.length < 0.9 * cells.length) return false;
  const steps = values.slice(1).map((value, i) => value - values[i]!);
  const usual = [...steps].sort((a, b) => a - b)[steps.length >> 1]!;
  const steady = steps.filter((step) => Math.abs(step - usual) <= 0.02 * Math.abs(usual)).length;
  return usual > 0 && steps.every((step) => step >= 0) && steady >= 0.8 * steps.length;
}

/** Where no header names the time: the column that holds moments, else the one that rises steadily. */
function findTimeByValues(columns: Column[], rows: string[][]): void {
  if (columns.some(({ role }) => role === 'time')) return;
  const free = columns.filter(({ role, unit }) => role === 'ignored' && unit === null);
  const cellsOf = ({ index }: Column) => rows.map((cells) => cells[index] ?? '');
  const holds = (style: TimeStyle) =>
    free.find((column) => cellsOf(column).every((cell) => timeStyleOf(cell) === style));
  const found =
    holds('stamp') ?? holds('clock') ?? free.find((column) => risesSteadily(cellsOf(column)));
  if (found) found.role = 'time';
}

/** A log’s table with what its columns are taken for, whether or not that is enough to read it. */
export interface LogSketch {
  /** Name of the header’s shape, under which a mapping is remembered. */
  shape: string;
  columns: Column[];
  /** First rows, as text. */
  rows: string[][];
}

/** The table of a log for assigning its columns by hand. @throws LogRefusal when there is none. */
export function sketchLog(log: DecodedLog): LogSketch {
  const { shape, header, units, headerIndex, rows } = findTable(log);
  const columns =
    headerIndex < 0
      ? header.map((name, index): Column => ({ index, header: name, role: 'ignored', unit: null }))
      : recogniseColumns(header, units);
  if (headerIndex >= 0) settleDateColumn(columns, rows);
  return { shape: shapeOfHeader(header, shape.delimiter), columns, rows: rows.slice(0, 6) };
}

/**
 * Recognises delimiter, decimal mark, preamble, header, units and column roles.
 * @param mappings what people assigned, by the header’s shape; it goes before recognition.
 * @throws LogRefusal when there is no table, no header, or no time or voltage in it.
 */
export function recogniseDialect(
  log: DecodedLog,
  mappings: Readonly<Record<string, LogMapping>> = {},
): Dialect {
  const { lines, shape, header, units, headerIndex, rows } = findTable(log);
  const firstLine = lines[shape.first]!;
  const mapping = mappings[shapeOfHeader(header, shape.delimiter)];
  if (headerIndex < 0 && !mapping) {
    throw new LogRefusal({
      code: 'no-header',
      message: `Row ${firstLine.row}: readings start here, but no header row stands above them. Expected a row naming time, voltage and current.`,
      row: firstLine.row,
    });
  }
  const columns = mapping ? mappedColumns(header, mapping) : recogniseColumns(header, units);
  const headerRow = headerIndex < 0 ? firstLine.row : lines[headerIndex]!.row;
  if (!mapping) settleDateColumn(columns, rows);
  if (!mapping) findTimeByValues(columns, rows);
  requireRoles(columns, headerRow);
  const { timeStyle, samples } = timeStyleFrom(rows, columns);
  const decimalMark = decimalMarkOf(rows, shape.delimiter);
  const time = columns.find((column) => column.role === 'time')!;
  const date = columns.find((column) => column.role === 'date');
  // A part above 12 may come a day later.
  const dates =
    timeStyle !== 'stamp'
      ? samples
      : [
          ...samples,
          ...farCells(log, shape, (date ?? time).index, /\d/).map((cell) =>
            date ? `${cell.trim()} 0:00` : cell.trim(),
          ),
        ];
  return {
    encoding: log.encoding,
    delimiter: shape.delimiter,
    collapse: shape.collapse,
    decimalMark,
    headerRow,
    firstDataRow: firstLine.row - log.addedRows,
    firstDataOffset: firstLine.offset,
    columns,
    timeStyle,
    dayFirst: dayComesFirst(dates),
    ...(timeStyle === 'stamp' && isEitherOrder(dates) && isOneDate(dates)
      ? { eitherOrder: true }
      : {}),
    timeThousands:
      timeStyle === 'number' &&
      shape.delimiter !== (decimalMark === ',' ? '.' : ',') &&
      groupsThousands(farCells(log, shape, time.index), decimalMark),
    positiveDischarges: mapping?.positiveDischarges ?? null,
    preamble: lines
      .slice(0, Math.max(0, headerIndex))
      .map((line) => line.text)
      .filter((text) => text.trim() !== ''),
  };
}

/** Whether the day stands first: by a part above 12, else by what makes the log the shorter. */
function dayComesFirst(dates: readonly string[]): boolean {
  if (!isEitherOrder(dates)) return isDayFirst([...dates]);
  const span = (dayFirst: boolean) => {
    const stamps = dates.map((text) => parseStamp(text.trim(), dayFirst)).filter(Number.isFinite);
    return Math.max(...stamps) - Math.min(...stamps);
  };
  return span(true) <= span(false);
}

/** Whether a cell is a bare number in either decimal mark. */
export const isNumberText = (text: string): boolean => NUMBER.test(text.trim());
