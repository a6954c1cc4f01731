import type { DecodedLog } from './decode';
import { type LogMapping, mappedColumns, shapeOfHeader } from './mapping';
import { LogRefusal } from './refusal';
import { type Column, recogniseColumns } from './roles';
import { groupsThousands, type TimeUnit } from './time-column';
import { isDayFirst, type TimeStyle, timeStyleOf } from './time-text';
import { columnUnit } from './units-of-columns';

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
  /** Digits of the time are grouped by thousands with the mark that is not the decimal one. */
  timeThousands?: boolean;
  /** What a bare time column counts in, as a person said. */
  timeUnit?: TimeUnit | null;
  /** As a person said; null or absent where the reader finds it out. */
  positiveDischarges?: boolean | null;
  /** Lines above the header, as text. */
  preamble: string[];
}

interface SampledLine {
  text: string;
  offset: number;
  row: number;
}

const SAMPLE_BYTES = 98304;
const DELIMITERS = ['\t', ';', ',', '|', ' '] as const;
const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i;

/** Splits one line; a quote opens a quoted cell only at the cell's start. */
export function splitLine(line: string, delimiter: string, collapse = false): string[] {
  if (collapse) return line.trim().split(/\s+/);
  const cells: string[] = [];
  let at = 0;
  while (at <= line.length) {
    if (line[at] === '"') {
      let cell = '';
      at++;
      while (at < line.length && !(line[at] === '"' && line[at + 1] !== '"')) {
        if (line[at] === '"') at++;
        cell += line[at++];
      }
      const next = line.indexOf(delimiter, at);
      cells.push(cell);
      at = next === -1 ? line.length + 1 : next + 1;
      continue;
    }
    const next = line.indexOf(delimiter, at);
    cells.push(line.slice(at, next === -1 ? undefined : next));
    at = next === -1 ? line.length + 1 : next + 1;
  }
  return cells;
}

function sampleLines(log: DecodedLog): SampledLine[] {
  const { bytes } = log;
  const end = Math.min(bytes.length, SAMPLE_BYTES);
  const decoder = new TextDecoder(log.textEncoding);
  const lines: SampledLine[] = [];
  let start = 0;
  let row = 1;
  for (let at = 0; at <= end; at++) {
    const byte = bytes[at];
    if (at < end && byte !== 10 && byte !== 13) continue;
    if (at === end && end < bytes.length) break;
    lines.push({ text: decoder.decode(bytes.subarray(start, at)), offset: start, row: row++ });
    if (byte === 13 && bytes[at + 1] === 10) at++;
    start = at + 1;
  }
  return lines;
}

const isDataCell = (cell: string): boolean => timeStyleOf(cell) !== null;

interface Shape {
  delimiter: string;
  collapse: boolean;
  /** Index of the first data line among the sampled lines. */
  first: number;
  score: number;
}

/**
 * Numbers and times in a line of readings, which has at least two cells, half of those filled
 * being such; 0 for any other line.
 */
function dataCellsIn(cells: string[]): number {
  if (cells.length < 2) return 0;
  let filled = 0;
  let data = 0;
  for (const cell of cells) {
    if (cell.trim() === '') continue;
    filled++;
    if (isDataCell(cell)) data++;
  }
  return data >= 2 && data >= filled / 2 ? data : 0;
}

/** Longest run of like lines for one delimiter. */
function shapeFor(lines: SampledLine[], delimiter: string): Shape {
  const collapse = delimiter === ' ';
  let best: Shape = { delimiter, collapse, first: -1, score: 0 };
  let runFirst = -1;
  let runWidth = 0;
  let runCells = 0;
  for (const [index, line] of lines.entries()) {
    if (line.text.trim() === '' || line.text.startsWith('#')) continue;
    const cells = splitLine(line.text, delimiter, collapse);
    const data = dataCellsIn(cells);
    if (data > 0) {
      if (runFirst === -1 || cells.length !== runWidth) {
        runFirst = index;
        runWidth = cells.length;
        runCells = 0;
      }
      runCells += data;
      if (runCells > best.score) best = { delimiter, collapse, first: runFirst, score: runCells };
    } else if (cells.length !== runWidth) {
      runFirst = -1;
    }
  }
  return best;
}

/** Whether numbers carry a decimal comma: more `3,31` than `3.31` among the sampled cells. */
function decimalMarkOf(rows: string[][], delimiter: string): '.' | ',' {
  let comma = 0;
  let point = 0;
  for (const cell of rows.flat()) {
    if (/^\s*[+-]?\d+,\d+\s*$/.test(cell)) comma++;
    else if (/^\s*[+-]?\d+\.\d+\s*$/.test(cell)) point++;
  }
  return comma > point && (delimiter !== ',' || comma > 0) ? ',' : '.';
}

function findHeader(
  lines: SampledLine[],
  shape: Shape,
): { header: string[]; units: string[] | null; headerIndex: number } | null {
  const split = (line: SampledLine) =>
    splitLine(line.text.replace(/^#\s*/, ''), shape.delimiter, shape.collapse);
  const width = split(lines[shape.first]!).length;
  const above = lines
    .slice(0, shape.first)
    .map((line, index) => ({ index, cells: split(line) }))
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
    .reverse();
  const [nearest, second] = above;
  if (!nearest || Math.abs(nearest.cells.length - width) > 1 || nearest.cells.length < 2)
    return null;
  const isUnits = nearest.cells.every((cell) => {
    const bare = cell.trim().replace(/^[[(](.*)[\])]$/, '$1');
    return bare === '' || bare === '-' || columnUnit(bare) !== null;
  });
  if (isUnits && second && Math.abs(second.cells.length - width) <= 1 && second.cells.length >= 2) {
    return { header: second.cells, units: nearest.cells, headerIndex: second.index };
  }
  return { header: nearest.cells, units: null, headerIndex: nearest.index };
}

function refuseWithoutData(lines: SampledLine[]): never {
  const filled = lines.filter((line) => line.text.trim() !== '');
  if (filled.length === 0) {
    throw new LogRefusal({
      code: 'empty-file',
      message: 'The file holds only blank lines. Expected a header row and rows of readings.',
    });
  }
  const last = filled[filled.length - 1]!;
  const names = DELIMITERS.map((d) => splitLine(last.text, d, d === ' ')).sort(
    (a, b) => b.length - a.length,
  )[0]!;
  const known = recogniseColumns(names, null).filter((column) => column.role !== 'ignored');
  throw new LogRefusal({
    code: 'no-data-rows',
    message:
      known.length >= 2
        ? `Row ${last.row} is a header; no data rows follow it. Expected rows of readings from row ${last.row + 1} on.`
        : `Row ${filled[0]!.row}: no table of numbers found. Expected a header row and rows of time, voltage and current.`,
    row: last.row,
  });
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

/** Cells of one column from the beginning, the middle and the end of what is there. */
function farCells(log: DecodedLog, shape: Shape, index: number): string[] {
  const decoder = new TextDecoder(log.textEncoding);
  const { bytes } = log;
  const cells: string[] = [];
  for (const at of [0, 0.2, 0.5, 0.8, 0.97]) {
    const from = Math.floor(at * bytes.length);
    const lines = decoder.decode(bytes.subarray(from, from + 8192)).split(/\r?\n/);
    // The first and the last line may be cut.
    for (const line of lines.slice(1, -1)) {
      const cell = splitLine(line, shape.delimiter, shape.collapse)[index] ?? '';
      if (/^\s*\d[\d.,]*\s*$/.test(cell.slice(0, 40))) cells.push(cell);
    }
  }
  return cells;
}

/** The table of a log before its columns have a meaning. */
interface Table {
  lines: SampledLine[];
  shape: Shape;
  header: string[];
  units: string[] | null;
  /** Index of the header among the sampled lines; −1 where readings begin without one. */
  headerIndex: number;
  /** First rows of readings. */
  rows: string[][];
}

function findTable(log: DecodedLog): Table {
  const lines = sampleLines(log);
  const shape = DELIMITERS.map((delimiter) => shapeFor(lines, delimiter)).reduce((a, b) =>
    b.score > a.score * (b.delimiter === ' ' ? 1.5 : 1) ? b : a,
  );
  if (shape.first === -1) refuseWithoutData(lines);
  const rows = lines
    .slice(shape.first, shape.first + 200)
    .map((line) => splitLine(line.text, shape.delimiter, shape.collapse));
  const found = findHeader(lines, shape);
  if (found) return { lines, shape, rows, ...found };
  const header = rows[0]!.map((_, i) => `column ${i + 1}`);
  return { lines, shape, rows, header, units: null, headerIndex: -1 };
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
  return {
    encoding: log.encoding,
    delimiter: shape.delimiter,
    collapse: shape.collapse,
    decimalMark,
    headerRow,
    firstDataRow: firstLine.row,
    firstDataOffset: firstLine.offset,
    columns,
    timeStyle,
    dayFirst: isDayFirst(samples),
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

/** Whether a cell is a bare number in either decimal mark. */
export const isNumberText = (text: string): boolean => NUMBER.test(text.trim());
