import type { Finding } from '../../units';
import type { TraceBlock } from '../blocks/trace-blocks';
import { assemble, clockStyleOf, type TimeScale, timeScale } from '../reading/assemble';
import {
  cleanOrder,
  isNewestFirst,
  NO_COUNTS,
  type OrderCounts,
  orderFindings,
} from '../reading/clean';
import { decodeLog } from '../reading/decode';
import { type Dialect, recogniseDialect } from '../reading/dialect';
import {
  type ReadOptions,
  refuseUnclearTime,
  scanFindings,
  signAsTold,
  startedAt,
  THOUSANDS,
} from '../reading/read-log';
import { timeFindings } from '../reading/time-column';
import { addedBlanks } from '../reading/added-blanks';
import { LogRefusal } from '../reading/refusal';
import { scanRows } from '../reading/scan';
import { refuseForText, type ScannedRows } from '../reading/scanned-rows';
import { signByMode } from '../reading/sign-current';
import type { Trace } from '../trace';
import { isPacked, unpackLog } from '../reading/unpack';
import { type ByteSource, memorySource } from './byte-source';
import { firstTimes, HEAD_BYTES, lineEndIn, PIECE, sizeWithoutNuls } from './log-head';
import { TraceWriter } from './trace-writer';
import { join, joinArrays, pick, type Rows, widest } from './kept-rows';

/** Rows kept back, so that one that comes late can still be put in its place. */
const KEPT_BACK = 4096;

/** Rows at the end of a piece that wait for the next one. */
const UNSETTLED_ROWS = 8;

const NEWLINE = 10;

/** How a log is read in pieces. */
export interface PieceOptions extends ReadOptions {
  /** Bytes read at one time. */
  pieceBytes?: number;
  /** Rows kept back, so that one that comes late can still be put in its place. */
  keptBack?: number;
}

/** A log compressed while it was read; the direction of its current may still be open. */
export interface CompressedLog {
  blocks: TraceBlock[];
  rows: number;
  dialect: Dialect;
  decimals: Trace['decimals'];
  startedAtMs: number | null;
  findings: Finding[];
  /** The log said itself, or a person did, which way the current goes. */
  signed: boolean;
}

/** Rows of a piece that are settled: all but the last few, and none just behind a step back. */
function settledRows(timeS: Float64Array): number {
  let settled = Math.max(0, timeS.length - UNSETTLED_ROWS);
  for (let row = settled - 1; row > 0 && row > settled - UNSETTLED_ROWS / 2; row--)
    if (timeS[row]! < timeS[row - 1]!) settled = row;
  return settled;
}

class LogCompressor {
  private readonly writer = new TraceWriter();
  private readonly counts: OrderCounts = { ...NO_COUNTS };
  private tooLate = 0;
  private kept: Rows | null = null;
  /** The last few rows as scanned: what follows tells whether a clock jumped before them. */
  private unsettled: Rows | null = null;
  /** Added to times as written, for midnights and restarts. */
  private wrapped = 0;
  private start: number | null = null;
  private emitted = -Infinity;
  private scale: TimeScale | null = null;
  private milliVolts: boolean | null = null;
  private startedAtMs: number | null = null;
  private signed: boolean;
  private decimals: Trace['decimals'] | null = null;
  private readonly findings: Finding[] = [];
  private rejected: ScannedRows['rejected'] = [];
  private rejectedCount = 0;
  private scannedCount = 0;
  private brokenTailRow: number | null = null;
  private blanks: Record<string, number> = {};

  constructor(
    private readonly dialect: Dialect,
    private readonly keptBack: number,
    private readonly ratedAh: number | null,
    private readonly timeZone?: string,
  ) {
    this.signed = typeof dialect.positiveDischarges === 'boolean';
  }

  add(scanned: ScannedRows, isLast: boolean): void {
    this.rejected = [...this.rejected, ...scanned.rejected].slice(0, 20);
    this.rejectedCount += scanned.rejectedCount;
    this.scannedCount += scanned.count;
    this.blanks = addedBlanks(this.blanks, scanned.blanks);
    this.brokenTailRow = scanned.brokenTailRow ?? this.brokenTailRow;
    // Text all over the place is refused now rather than after the last gigabyte.
    if (this.rejectedCount > 1000) this.refuseForText();
    const scannedRows: Rows = {
      timeS: scanned.timeS,
      numbers: scanned.numbers.map(({ values }) => values),
      mode: scanned.mode,
    };
    const read = this.unsettled ? join(this.unsettled, scannedRows, 0) : scannedRows;
    const settled = isLast ? read.timeS.length : settledRows(read.timeS);
    this.unsettled = isLast ? null : pick(read, read.timeS, null, settled, read.timeS.length);
    const fresh = isLast ? read : pick(read, read.timeS, null, 0, settled);
    const all = this.kept ? join(this.kept, fresh, this.wrapped) : fresh;
    if (all.timeS.length === 0) return;
    if (!this.scale) {
      const current = scanned.numbers.findIndex(({ role }) => role === 'current');
      this.scale = timeScale(all.timeS, this.dialect, {
        currentA: current < 0 ? null : all.numbers[current]!,
        ratedAh: this.ratedAh,
      });
      if (this.scale.settled?.isUnclear) refuseUnclearTime(this.dialect, this.scale.settled);
      if (this.scale.settled)
        this.findings.push(...timeFindings(this.scale.settled, Boolean(this.dialect.timeUnit)));
      if (this.dialect.timeThousands) this.findings.push(THOUSANDS);
    }
    this.takeInOrder(all, scanned, isLast);
  }

  private refuseForText(): void {
    refuseForText(this.rejected, this.rejectedCount, this.scannedCount + this.rejectedCount);
  }

  /** Sorts what is here, emits all but the newest rows, and keeps those back. */
  private takeInOrder(all: Rows, scanned: ScannedRows, isLast: boolean): void {
    const cleaned = cleanOrder(
      all.timeS,
      clockStyleOf(this.scale!, this.dialect, this.timeZone),
      // Of rows out of order only those are new that came with this piece.
      this.kept?.timeS.length ?? 0,
    );
    for (const key of Object.keys(this.counts) as (keyof OrderCounts)[])
      this.counts[key] += cleaned.counts[key];
    const n = cleaned.timeS.length;
    const indexOf = (i: number) => cleaned.order?.[i] ?? i;
    const first = all.timeS[indexOf(0)]! + this.wrapped;
    const timeS = cleaned.timeS.map((t) => t + first);
    this.wrapped += cleaned.added;
    let from = 0;
    while (from < n && timeS[from]! <= this.emitted) {
      if (timeS[from]! < this.emitted) this.tooLate++;
      else this.counts.repeated++;
      from++;
    }
    const to = isLast ? n : Math.max(from, n - this.keptBack);
    if (to > from) this.emit(pick(all, timeS, cleaned.order, from, to), scanned);
    this.kept = isLast ? null : pick(all, timeS, cleaned.order, to, n);
  }

  private emit(rows: Rows, scanned: ScannedRows): void {
    this.emitted = rows.timeS[rows.timeS.length - 1]!;
    const style = this.dialect.timeStyle;
    if (this.start === null) {
      this.start = rows.timeS[0]!;
      if (style === 'stamp' || this.scale!.unixMs)
        this.startedAtMs = startedAt(rows, null, this.scale!);
    }
    const start = this.start;
    const { milliVolts, ...trace } = assemble(
      {
        timeDecimals: scanned.timeDecimals,
        numbers: scanned.numbers.map((sink, i) => ({ ...sink, values: rows.numbers[i]! })),
        mode: rows.mode,
      },
      null,
      rows.timeS.map((t) => t - start),
      { scale: this.scale!, style, milliVolts: this.milliVolts },
      this.findings,
    );
    this.milliVolts ??= milliVolts;
    const { positiveDischarges } = this.dialect;
    if (typeof positiveDischarges === 'boolean') signAsTold(trace, positiveDischarges);
    else if (signByMode(trace)) this.signed = true;
    this.decimals = this.decimals ? widest(this.decimals, trace.decimals) : trace.decimals;
    this.writer.add(trace);
  }

  finish(droppedNulBytes: number): CompressedLog {
    const { dialect, scannedCount, rejectedCount } = this;
    if (rejectedCount > 0) this.refuseForText();
    const blocks = this.writer.finish();
    const { rows } = this.writer;
    if (rows < 2)
      throw new LogRefusal({
        code: scannedCount < 2 ? 'too-few-rows' : 'no-time-span',
        message:
          scannedCount < 2
            ? `Row ${dialect.firstDataRow}: ${scannedCount} whole row(s) of readings. Expected at least 2.`
            : `Row ${dialect.firstDataRow}: all rows carry the same time. Expected times that go on.`,
        row: dialect.firstDataRow,
      });
    const findings = [
      ...scanFindings(
        {
          brokenTailRow: this.brokenTailRow,
          rejected: this.rejected,
          rejectedCount: this.rejectedCount,
          blanks: this.blanks,
        },
        droppedNulBytes,
      ),
      ...orderFindings({ counts: this.counts }),
      ...this.findings,
    ];
    if (this.tooLate > 0)
      findings.push({
        code: 'rows-too-late',
        text: `${this.tooLate} row(s) came more than ${this.keptBack} rows after their time and were left out.`,
        severity: 'warning',
      });
    return {
      blocks,
      rows,
      dialect,
      decimals: this.decimals!,
      startedAtMs: this.startedAtMs,
      findings,
      signed: this.signed,
    };
  }
}

/**
 * Reads a log of any length piece by piece and compresses it on the way: memory for a few
 * pieces and the compressed blocks, however long it is.
 * @throws LogRefusal as `readLog` does.
 */
export function compressLog(logged: ByteSource, options: PieceOptions = {}): CompressedLog {
  const isWhole = isPacked(logged.read(0, Math.min(HEAD_BYTES, logged.size)));
  const unpacked = isWhole ? unpackLog(logged.read(0, logged.size)) : null;
  const source = unpacked ? memorySource(unpacked.bytes) : logged;
  const size = sizeWithoutNuls(source);
  const whole = size <= PIECE;
  const head = {
    ...decodeLog(source.read(0, whole ? source.size : lineEndIn(source, size))),
    addedRows: unpacked?.addedRows ?? 0,
  };
  const dialect = {
    ...recogniseDialect(head, options.mappings),
    timeUnit: options.timeUnit ?? null,
  };
  const compressor = new LogCompressor(
    dialect,
    options.keptBack ?? KEPT_BACK,
    options.ratedAh ?? null,
    options.timeZone,
  );
  const newestFirst = isNewestFirst(firstTimes(head, dialect));
  // A file with its newest row first begins at its end: it is read whole.
  const piece = newestFirst ? size : (options.pieceBytes ?? PIECE);
  const isWide = /^UTF-16/.test(head.encoding);
  const decoder = isWide ? new TextDecoder(head.encoding.toLowerCase()) : null;
  const encoder = new TextEncoder();
  let carry: Uint8Array = new Uint8Array(0);
  let row = dialect.firstDataRow;
  let isFirst = true;
  for (let offset = 0; offset < size;) {
    const to = Math.min(size, offset + piece);
    const raw = source.read(offset, to);
    const isLast = to >= size;
    const bytes = decoder
      ? encoder.encode(decoder.decode(raw, { stream: !isLast }))
      : raw.subarray(offset === 0 && raw[0] === 0xef && raw[1] === 0xbb ? 3 : 0);
    offset = to;
    const joined = carry.length > 0 ? joinArrays(carry, bytes) : bytes;
    const cut = isLast ? joined.length : joined.lastIndexOf(NEWLINE) + 1;
    carry = joined.slice(cut);
    const scanned = scanRows(
      joined.subarray(0, cut),
      { ...dialect, firstDataOffset: isFirst ? dialect.firstDataOffset : 0, firstDataRow: row },
      { endsInNuls: isLast && size < source.size, partOfMore: true },
    );
    isFirst = false;
    row = scanned.nextRow;
    compressor.add(scanned, isLast);
    options.onProgress?.(offset / size);
  }
  return compressor.finish(source.size - size);
}
