import type { Dialect } from './dialect';
import { type PlainEnd, scanPlain } from './scan-plain';
import { CellReader } from './cell-reader';
import { applyUnit, Kind, refuseForText, type ScannedRows } from './scanned-rows';

/** What a scan is told of the bytes it is given. */
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

const NEWLINE = 10;
const RETURN = 13;
const HASH = 35;
const SPACE = 32;

const PROGRESS_ROWS = 16384;

/** Rows the quick reader takes before progress is said. */
const PLAIN_ROWS = 65536;

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

/** Columns a row must have: all up to the last that counts, and none cut off. */
function neededWidth(kinds: readonly Kind[], optional: readonly boolean[]): number {
  const last = kinds.reduce(
    (found, kind, i) => (kind !== Kind.Ignored && !optional[i] ? i + 1 : found),
    0,
  );
  // A line cut off inside a file with more columns shows by its missing cells.
  return Math.max(last, kinds.length - (kinds[kinds.length - 1] === Kind.Ignored ? 1 : 0));
}

class RowScanner extends CellReader {
  private readonly width: number;
  private readonly headerText: string;
  /** Columns a row must have. */
  private readonly needed: number;
  private readonly rejected: ScannedRows['rejected'] = [];
  private rejectedCount = 0;
  private brokenTailRow: number | null = null;
  private commentRows = 0;
  /** Whether rows are still tried by the quick reader. */
  private plain: boolean;
  private plainMisses = 0;
  private readonly plainDecimals: Uint8Array;

  constructor(
    bytes: Uint8Array,
    dialect: Dialect,
    private readonly options: ScanOptions,
  ) {
    const most = Math.ceil((bytes.length - dialect.firstDataOffset) / 24);
    super(bytes, dialect, Math.max(64, options.capacity ?? 0, most));
    this.width = dialect.columns.length;
    this.headerText = dialect.columns[0]!.header;
    this.needed = neededWidth(this.kinds, this.optional);
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
        at = this.written.lineEnd(at);
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
    const { needed } = this;
    const unfinished = end >= this.bytes.length;
    if (columns < needed || (unfinished && (this.bad || this.options.endsInNuls))) {
      if (unfinished) {
        this.brokenTailRow = row;
        return;
      }
      const text = this.written.text(start, end);
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

  private isRepeatedHeader(start: number): boolean {
    return (
      this.headerText !== '' &&
      this.written.text(start, this.written.lineEnd(start)).startsWith(this.headerText)
    );
  }

  private reject(row: number, column: string, text: string): void {
    this.rejectedCount++;
    if (this.rejected.length < 20)
      this.rejected.push({ row, column, text: text.trim().slice(0, 40) });
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
      blanks: Object.fromEntries(
        [...this.blanks].map(([column, count]) => [this.dialect.columns[column]!.header, count]),
      ),
      nextRow,
    };
  }
}
