import type { RowMode } from '../trace';
import type { Dialect } from './dialect';
import { modeOf } from './scanned-rows';
import { parseClock, parseStamp } from './time-text';

const NEWLINE = 10;
const RETURN = 13;
const QUOTE = 34;
/** Longer cells are no number: what backtracks over digits stays short. */
const LONGEST_NUMBER = 64;

/** Text of cells and lines of a log’s bytes. */
export class CellText {
  private readonly decoder = new TextDecoder();

  constructor(
    private readonly bytes: Uint8Array,
    private readonly delimiter: number,
  ) {}

  /** Text of a cell, quotes taken off, and where it ends. */
  cell(start: number): { text: string; end: number } {
    if (this.bytes[start] !== QUOTE) {
      const end = this.cellEnd(start);
      return { text: this.text(start, end), end };
    }
    let at = start + 1;
    while (at < this.bytes.length && !(this.bytes[at] === QUOTE && this.bytes[at + 1] !== QUOTE)) {
      at += this.bytes[at] === QUOTE ? 2 : 1;
    }
    const text = this.text(start + 1, at).replaceAll('""', '"');
    return { text, end: this.cellEnd(Math.min(at + 1, this.bytes.length)) };
  }

  cellEnd(start: number): number {
    let at = start;
    for (;;) {
      const byte = this.bytes[at];
      if (byte === undefined || byte === this.delimiter || byte === NEWLINE || byte === RETURN)
        return at;
      at++;
    }
  }

  lineEnd(start: number): number {
    let at = start;
    while (at < this.bytes.length && this.bytes[at] !== NEWLINE && this.bytes[at] !== RETURN) at++;
    return at;
  }

  text(from: number, to: number): string {
    if (to - from < 48) {
      let text = '';
      for (let i = from; i < to; i++) {
        if (this.bytes[i]! > 127) return this.decoder.decode(this.bytes.subarray(from, to));
        text += String.fromCharCode(this.bytes[i]!);
      }
      return text;
    }
    return this.decoder.decode(this.bytes.subarray(from, to));
  }
}

/** What cells of a log written in a dialect mean. */
export class CellValues {
  private readonly modes = new Map<string, RowMode>();

  constructor(private readonly dialect: Dialect) {}

  /** Number of a cell; NaN where it is none. */
  numberOf(cell: string): number {
    if (cell.length > LONGEST_NUMBER) return NaN;
    const plain = this.dialect.decimalMark === ',' ? cell.replace(',', '.') : cell;
    return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain) ? Number(plain) : NaN;
  }

  /** Seconds a cell of time says. @param dateText of a column of dates in the same row; empty without one. */
  momentOf(text: string, dateText: string): number {
    if (this.dialect.timeStyle === 'clock') return parseClock(text);
    const full = dateText ? `${dateText} ${text}` : text;
    return parseStamp(full, this.dialect.dayFirst);
  }

  withoutGroups(text: string): string {
    return text.replaceAll(this.dialect.decimalMark === ',' ? '.' : ',', '');
  }

  modeOf(text: string): RowMode {
    let mode = this.modes.get(text);
    if (mode === undefined) {
      mode = modeOf(text);
      this.modes.set(text, mode);
    }
    return mode;
  }
}
