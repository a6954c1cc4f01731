import type { DecodedLog } from './decode';
import { timeStyleOf } from './time-text';

/** A line from the start of a file, with where it stands. */
export interface SampledLine {
  text: string;
  offset: number;
  row: number;
}

const SAMPLE_BYTES = 98304;

/** What may part columns, in the order they are tried. */
export const DELIMITERS = ['\t', ';', ',', '|', ' '] as const;

/** A number with a point or a comma and an exponent, nothing else. */
export const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i;

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

/** The first lines of a file, as text. */
export function sampleLines(log: DecodedLog): SampledLine[] {
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

/** Whether a cell can be part of a data row: a number or a time. */
export const isDataCell = (cell: string): boolean => timeStyleOf(cell) !== null;
