import { CellText, CellValues } from './cell-text';
import type { Dialect } from './dialect';
import { columnsOf, decimalsOf, Kind, POWERS, type ScannedRows } from './scanned-rows';

const NEWLINE = 10;
const RETURN = 13;
const QUOTE = 34;
const MINUS = 45;
const PLUS = 43;
const SPACE = 32;
const MISSING = /^(|-+|nan|null|n\/?a|none)$/i;

/** Reads single cells of a log into its columns: the plain number where it stands, all else as text. */
export class CellReader {
  protected readonly written: CellText;
  protected readonly delimiter: number;
  protected readonly mark: number;
  protected readonly kinds: Kind[];
  protected readonly sinks: Int32Array;
  protected readonly optional: boolean[];
  private readonly carried: boolean[];
  /** Empty cells that kept what stood above them, by column. */
  protected readonly blanks = new Map<number, number>();
  protected readonly numbers: ScannedRows['numbers'];
  protected timeS: Float64Array;
  protected mode: Uint8Array | null;
  protected count = 0;
  protected timeDecimals = 0;
  /** Of the row in work: first bad cell. */
  protected bad: { column: number; text: string } | null = null;
  protected dateText = '';
  private readonly values: CellValues;

  constructor(
    protected readonly bytes: Uint8Array,
    protected readonly dialect: Dialect,
    protected capacity: number,
  ) {
    this.delimiter = dialect.delimiter.charCodeAt(0);
    this.mark = dialect.decimalMark.charCodeAt(0);
    this.written = new CellText(bytes, this.delimiter);
    this.values = new CellValues(dialect);
    this.timeS = new Float64Array(capacity);
    const columns = columnsOf(dialect, capacity);
    this.sinks = columns.sinks;
    this.optional = columns.optional;
    this.carried = columns.carried;
    this.kinds = columns.kinds;
    this.numbers = columns.numbers;
    this.mode = this.kinds.includes(Kind.Mode) ? new Uint8Array(capacity) : null;
  }

  protected readNumber(start: number, column: number): number {
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
    const { text, end } = this.written.cell(start);
    const cell = text.trim();
    const value = this.values.numberOf(cell);
    if (Number.isFinite(value))
      this.store(column, value, decimalsOf(cell, this.dialect.decimalMark));
    else if (this.optional[column] && MISSING.test(cell)) this.store(column, NaN, 0);
    else if (this.carried[column] && this.count > 0 && MISSING.test(cell)) {
      this.store(column, this.numbers[this.sinks[column]!]!.values[this.count - 1]!, 0);
      this.blanks.set(column, (this.blanks.get(column) ?? 0) + 1);
    } else this.bad ??= { column, text: cell };
    return end;
  }

  protected readOther(start: number, column: number, kind: Kind): number {
    if (kind === Kind.Ignored && this.bytes[start] !== QUOTE) return this.written.cellEnd(start);
    if (kind === Kind.Time && this.dialect.timeStyle === 'number')
      return this.readTimeNumber(start, column);
    const { text, end } = this.written.cell(start);
    if (kind === Kind.Mode) this.mode![this.count] = this.values.modeOf(text);
    else if (kind === Kind.Date) this.dateText = text.trim();
    else if (kind === Kind.Time) {
      const moment = this.values.momentOf(text.trim(), this.dateText);
      if (Number.isNaN(moment)) this.bad ??= { column, text };
      this.timeS[this.count] = moment;
    }
    return end;
  }

  private readTimeNumber(start: number, column: number): number {
    const { text: written, end } = this.written.cell(start);
    const text = this.dialect.timeThousands ? this.values.withoutGroups(written) : written;
    const value = this.values.numberOf(text.trim());
    if (!Number.isFinite(value)) this.bad ??= { column, text: written };
    else {
      const places = decimalsOf(text.trim(), this.dialect.decimalMark);
      if (places > this.timeDecimals) this.timeDecimals = places;
    }
    this.timeS[this.count] = value;
    return end;
  }

  /** Makes room for more rows. */
  protected grow(): void {
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
}
