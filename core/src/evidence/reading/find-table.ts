import type { DecodedLog } from './decode';
import { columnUnit } from './units-of-columns';
import { refuseWithoutData } from './without-data';
import { DELIMITERS, isDataCell, type SampledLine, sampleLines, splitLine } from './sampled-lines';

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
export function decimalMarkOf(rows: string[][], delimiter: string): '.' | ',' {
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

/** Cells of one column from the beginning, the middle and the end of what is there. */
export function farCells(
  log: DecodedLog,
  shape: Shape,
  index: number,
  like = /^\s*\d[\d.,]*\s*$/,
): string[] {
  const decoder = new TextDecoder(log.textEncoding);
  const { bytes } = log;
  const cells: string[] = [];
  for (const at of [0, 0.2, 0.5, 0.8, 0.97]) {
    const from = Math.floor(at * bytes.length);
    const lines = decoder.decode(bytes.subarray(from, from + 8192)).split(/\r?\n/);
    // The first and the last line may be cut.
    for (const line of lines.slice(1, -1)) {
      const cell = splitLine(line, shape.delimiter, shape.collapse)[index] ?? '';
      if (like.test(cell.slice(0, 40))) cells.push(cell);
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

/** The table in a file: delimiter, decimal mark, header, first row. Refuses with what was looked for. */
export function findTable(log: DecodedLog): Table {
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
