import { RowMode } from '../trace';
import type { Dialect } from './dialect';
import { LogRefusal } from './refusal';
import type { Role } from './roles';
import { type PlainEnd, scanPlain } from './scan-plain';
import { parseClock, parseStamp } from './time-text';

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
  /** Line of the file that follows the last one read. */
  nextRow: number;
}

export interface ScanOptions {
  /** The file ended in NUL bytes: an unfinished last line cannot be trusted. */
  endsInNuls?: boolean;
  /** These bytes are one piece of a log: how much of it is text is judged elsewhere. */
  partOfMore?: boolean;
  /** Rows to make room for, where more will be joined on than these bytes hold. */
  capacity?: number;
  /** Called now and then with the share of bytes read, 0 to 1; throw from it to cancel. */
  onProgress?: (share: number) => void;
}

const POWERS = Float64Array.from({ length: 23 }, (_, i) => 10 ** i);
const NEWLINE = 10;
const RETURN = 13;
const QUOTE = 34;
const HASH = 35;
const MINUS = 45;
const PLUS = 43;
const SPACE = 32;
/** Longer cells are no number: what backtracks over digits stays short. */
const LONGEST_NUMBER = 64;
const MISSING = /^(|-+|nan|null|n\/?a|none)$/i;
const PROGRESS_ROWS = 16384;
/** Rows the quick reader takes before progress is said. */
const PLAIN_ROWS = 65536;

const enum Kind {
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

/**
 * Reads all data rows in one pass over the bytes. The plain number is parsed where it
 * stands; anything else goes through a slower text path with the same meaning.
 */
export function scanRows(
  bytes: Uint8Array,
  dialect: Dialect,
  options: ScanOptions = {},
): ScannedRows {
  return new RowScanner(bytes, dialect, options).run();
}

class RowScanner {
  private readonly decoder = new TextDecoder();
  private readonly delimiter: number;
  private readonly mark: number;
  private readonly kinds: Kind[];
  private readonly sinks: Int32Array;
  private readonly optional: boolean[];
  private readonly numbers: ScannedRows['numbers'];
  private readonly width: number;
  private readonly modes = new Map<string, RowMode>();
  private readonly headerText: string;
  private timeS: Float64Array;
  private mode: Uint8Array | null;
  private capacity: number;
  private count = 0;
  private readonly rejected: ScannedRows['rejected'] = [];
  private rejectedCount = 0;
  private brokenTailRow: number | null = null;
  private commentRows = 0;
  private timeDecimals = 0;
  /** Of the row in work: first bad cell. */
  private bad: { column: number; text: string } | null = null;
  private dateText = '';
  /** Whether rows are still tried by the quick reader. */
  private plain: boolean;
  private plainMisses = 0;
  private readonly plainDecimals: Uint8Array;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly dialect: Dialect,
    private readonly options: ScanOptions,
  ) {
    this.delimiter = dialect.delimiter.charCodeAt(0);
    this.mark = dialect.decimalMark.charCodeAt(0);
    this.width = dialect.columns.length;
    this.capacity = Math.max(
      64,
      options.capacity ?? 0,
      Math.ceil((bytes.length - dialect.firstDataOffset) / 24),
    );
    this.timeS = new Float64Array(this.capacity);
    this.numbers = [];
    this.sinks = new Int32Array(this.width).fill(-1);
    this.optional = dialect.columns.map((c) => c.role === 'temperature' || c.role === 'step');
    this.kinds = dialect.columns.map((column, index) => {
      if (column.role === 'ignored') return Kind.Ignored;
      if (column.role === 'mode') return Kind.Mode;
      if (column.role === 'date') return Kind.Date;
      if (column.role === 'time') return Kind.Time;
      this.sinks[index] = this.numbers.length;
      this.numbers.push({
        role: column.role,
        header: column.header,
        values: new Float64Array(this.capacity),
        decimals: 0,
      });
      return Kind.Number;
    });
    this.mode = this.kinds.includes(Kind.Mode) ? new Uint8Array(this.capacity) : null;
    this.headerText = dialect.columns[0]!.header;
    this.plainDecimals = new Uint8Array(this.width);
    this.plain =
      !dialect.collapse &&
      dialect.timeStyle === 'number' &&
      !dialect.timeThousands &&
      this.kinds.every((kind) => kind !== Kind.Mode && kind !== Kind.Date);
  }

  run(): ScannedRows {
    const { bytes } = this;
    let at = this.dialect.firstDataOffset;
    let row = this.dialect.firstDataRow;
    const until = bytes.lastIndexOf(NEWLINE) + 1;
    while (at < bytes.length) {
      if (this.plain && at < until) {
        const end = this.readPlain(at, until, row);
        [at, row] = [end.at, end.row];
        this.options.onProgress?.(at / bytes.length);
        if (at >= bytes.length) break;
      }
      const byte = bytes[at]!;
      if (byte === NEWLINE || byte === RETURN) {
        at += byte === RETURN && bytes[at + 1] === NEWLINE ? 2 : 1;
        row++;
        continue;
      }
      if (byte === HASH) {
        this.commentRows++;
        at = this.lineEnd(at);
        continue;
      }
      at = this.readRow(at, row);
      if ((row & (PROGRESS_ROWS - 1)) === 0) this.options.onProgress?.(at / bytes.length);
    }
    return this.result(row);
  }

  /** Rows the quick reader can take, a bounded stretch of them. */
  private readPlain(at: number, until: number, row: number): PlainEnd {
    const sinks = this.dialect.columns.map((_, index) => {
      const kind = this.kinds[index]!;
      if (kind === Kind.Time) return this.timeS;
      return kind === Kind.Number ? this.numbers[this.sinks[index]!]!.values : null;
    });
    const table = {
      bytes: this.bytes,
      delimiter: this.delimiter,
      mark: this.mark,
      sinks,
      decimals: this.plainDecimals,
    };
    const most = Math.min(this.capacity, this.count + PLAIN_ROWS);
    const end = scanPlain(table, at, until, this.count, most, row);
    const read = end.count - this.count;
    this.count = end.count;
    // Where hardly a row is plain, trying each again costs more than it saves.
    this.plainMisses = read > 8 ? 0 : this.plainMisses + 1;
    if (this.plainMisses > 64) this.plain = false;
    return end;
  }

  private readRow(start: number, row: number): number {
    const { bytes, kinds } = this;
    if (this.count === this.capacity) this.grow();
    this.bad = null;
    this.dateText = '';
    let at = start;
    let column = 0;
    if (this.dialect.collapse) while (bytes[at] === SPACE) at++;
    for (;;) {
      const kind = column < this.width ? kinds[column]! : Kind.Ignored;
      at = kind === Kind.Number ? this.readNumber(at, column) : this.readOther(at, column, kind);
      column++;
      const byte = bytes[at];
      if (byte === undefined || byte === NEWLINE || byte === RETURN) break;
      at++;
      if (this.dialect.collapse) {
        while (bytes[at] === SPACE) at++;
        if (bytes[at] === undefined || bytes[at] === NEWLINE || bytes[at] === RETURN) break;
      }
    }
    this.settleRow(start, at, row, column);
    return at;
  }

  /** Keeps, rejects or drops the row just read. */
  private settleRow(start: number, end: number, row: number, columns: number): void {
    const needed = this.neededWidth();
    const unfinished = end >= this.bytes.length;
    if (columns < needed || (unfinished && (this.bad || this.options.endsInNuls))) {
      if (unfinished) {
        this.brokenTailRow = row;
        return;
      }
      const text = this.text(start, end);
      if (text.trim() === '') return;
      this.reject(row, 'the row', text);
      return;
    }
    if (this.bad) {
      if (this.isRepeatedHeader(start)) {
        this.commentRows++;
        return;
      }
      this.reject(row, this.dialect.columns[this.bad.column]!.header, this.bad.text);
      return;
    }
    this.count++;
  }

  private needed = -1;
  private neededWidth(): number {
    if (this.needed < 0) {
      this.needed = this.kinds.reduce(
        (last, kind, i) => (kind !== Kind.Ignored && !this.optional[i] ? i + 1 : last),
        0,
      );
      // A line cut off inside a file with more columns shows by its missing cells.
      this.needed = Math.max(
        this.needed,
        this.width - (this.kinds[this.width - 1] === Kind.Ignored ? 1 : 0),
      );
    }
    return this.needed;
  }

  private isRepeatedHeader(start: number): boolean {
    return (
      this.headerText !== '' && this.text(start, this.lineEnd(start)).startsWith(this.headerText)
    );
  }

  private reject(row: number, column: string, text: string): void {
    this.rejectedCount++;
    if (this.rejected.length < 20)
      this.rejected.push({ row, column, text: text.trim().slice(0, 40) });
  }

  private readNumber(start: number, column: number): number {
    const { bytes, delimiter, mark } = this;
    let at = start;
    while (bytes[at] === SPACE) at++;
    let negative = false;
    if (bytes[at] === MINUS) {
      negative = true;
      at++;
    } else if (bytes[at] === PLUS) at++;
    let mantissa = 0;
    let digits = 0;
    let decimals = -1;
    for (;;) {
      const byte = bytes[at];
      if (byte !== undefined && byte >= 48 && byte <= 57) {
        mantissa = mantissa * 10 + (byte - 48);
        digits++;
        if (decimals >= 0) decimals++;
      } else if (byte === mark && decimals < 0 && byte !== delimiter) decimals = 0;
      else if (byte === delimiter || byte === NEWLINE || byte === RETURN || byte === undefined)
        break;
      else return this.readNumberText(start, column);
      at++;
    }
    if (digits === 0 || digits > 15) return this.readNumberText(start, column);
    const value = decimals > 0 ? mantissa / POWERS[decimals]! : mantissa;
    this.store(column, negative ? -value : value, decimals > 0 ? decimals : 0);
    return at;
  }

  private store(column: number, value: number, decimals: number): void {
    const sink = this.numbers[this.sinks[column]!]!;
    // Never a zero with a sign: stored and read again it has none.
    sink.values[this.count] = value + 0;
    if (decimals > sink.decimals) sink.decimals = decimals;
  }

  /** Quotes, blanks inside, exponents, missing values, text. */
  private readNumberText(start: number, column: number): number {
    const { text, end } = this.cell(start);
    const cell = text.trim();
    const value = this.numberOf(cell);
    if (Number.isFinite(value))
      this.store(column, value, decimalsOf(cell, this.dialect.decimalMark));
    else if (this.optional[column] && MISSING.test(cell)) this.store(column, NaN, 0);
    else this.bad ??= { column, text: cell };
    return end;
  }

  private numberOf(cell: string): number {
    if (cell.length > LONGEST_NUMBER) return NaN;
    const plain = this.dialect.decimalMark === ',' ? cell.replace(',', '.') : cell;
    return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain) ? Number(plain) : NaN;
  }

  private readOther(start: number, column: number, kind: Kind): number {
    if (kind === Kind.Ignored && this.bytes[start] !== QUOTE) return this.cellEnd(start);
    if (kind === Kind.Time && this.dialect.timeStyle === 'number')
      return this.readTimeNumber(start, column);
    const { text, end } = this.cell(start);
    if (kind === Kind.Mode) this.mode![this.count] = this.cachedMode(text);
    else if (kind === Kind.Date) this.dateText = text.trim();
    else if (kind === Kind.Time) {
      const moment = this.momentOf(text.trim());
      if (Number.isNaN(moment)) this.bad ??= { column, text };
      this.timeS[this.count] = moment;
    }
    return end;
  }

  private momentOf(text: string): number {
    if (this.dialect.timeStyle === 'clock') return parseClock(text);
    const full = this.dateText ? `${this.dateText} ${text}` : text;
    return parseStamp(full, this.dialect.dayFirst);
  }

  private readTimeNumber(start: number, column: number): number {
    const { text: written, end } = this.cell(start);
    const text = this.dialect.timeThousands ? this.withoutGroups(written) : written;
    const value = this.numberOf(text.trim());
    if (!Number.isFinite(value)) this.bad ??= { column, text: written };
    else {
      const places = decimalsOf(text.trim(), this.dialect.decimalMark);
      if (places > this.timeDecimals) this.timeDecimals = places;
    }
    this.timeS[this.count] = value;
    return end;
  }

  private withoutGroups(text: string): string {
    return text.replaceAll(this.dialect.decimalMark === ',' ? '.' : ',', '');
  }

  private cachedMode(text: string): RowMode {
    let mode = this.modes.get(text);
    if (mode === undefined) {
      mode = modeOf(text);
      this.modes.set(text, mode);
    }
    return mode;
  }

  private cell(start: number): { text: string; end: number } {
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

  private cellEnd(start: number): number {
    let at = start;
    for (;;) {
      const byte = this.bytes[at];
      if (byte === undefined || byte === this.delimiter || byte === NEWLINE || byte === RETURN)
        return at;
      at++;
    }
  }

  private lineEnd(start: number): number {
    let at = start;
    while (at < this.bytes.length && this.bytes[at] !== NEWLINE && this.bytes[at] !== RETURN) at++;
    return at;
  }

  private text(from: number, to: number): string {
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

  private grow(): void {
    this.capacity = Math.ceil(this.capacity * 1.6);
    const larger = (old: Float64Array) => {
      const next = new Float64Array(this.capacity);
      next.set(old);
      return next;
    };
    this.timeS = larger(this.timeS);
    for (const sink of this.numbers) sink.values = larger(sink.values);
    if (this.mode) {
      const next = new Uint8Array(this.capacity);
      next.set(this.mode);
      this.mode = next;
    }
  }

  private result(nextRow: number): ScannedRows {
    const { count } = this;
    const total = count + this.rejectedCount;
    if (!this.options.partOfMore) refuseForText(this.rejected, this.rejectedCount, total);
    for (const [index, column] of this.dialect.columns.entries()) {
      const sink = this.numbers[this.sinks[index]!];
      const places = this.plainDecimals[index]!;
      if (sink && places > sink.decimals) sink.decimals = places;
      if (this.kinds[index] === Kind.Time && places > this.timeDecimals) this.timeDecimals = places;
      if (sink) applyUnit(sink, count, column.unit?.factor ?? 1, column.unit?.offset ?? 0);
    }
    return {
      count,
      timeS: this.timeS.subarray(0, count),
      timeDecimals: this.timeDecimals,
      numbers: this.numbers.map((sink) => ({ ...sink, values: sink.values.subarray(0, count) })),
      mode: this.mode?.subarray(0, count) ?? null,
      rejected: this.rejected,
      rejectedCount: this.rejectedCount,
      brokenTailRow: this.brokenTailRow,
      commentRows: this.commentRows,
      nextRow,
    };
  }
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

function decimalsOf(cell: string, mark: string): number {
  const match = new RegExp(`\\${mark}(\\d*)(?:e([+-]?\\d+))?$`, 'i').exec(cell);
  if (!match) return 0;
  return Math.max(0, Math.min(9, match[1]!.length - Number(match[2] ?? 0)));
}

/** Brings a column to its stored unit, correctly rounded to the digits it had. */
function applyUnit(
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
