import type { Finding } from '../../units';
import { findHoles, type Trace } from '../trace';
import { channelColumn, channelsInLog, refuseSeveralChannels } from './channels-in-log';
import { cleanOrder, orderFindings } from './clean';
import { decodeLog } from './decode';
import { type Dialect, type LogSketch, recogniseDialect, sketchLog } from './dialect';
import type { LogMapping } from './mapping';
import { LogRefusal } from './refusal';
import { assemble, clockStyleOf, type TimeScale, timeScale } from './assemble';
import { type ScanOptions, scanRows } from './scan';
import { type ScannedRows } from './scanned-rows';
import { signCurrent } from './sign-current';
import {
  readingWords,
  timeFindings,
  type TimeReading,
  type TimeSettled,
  type TimeUnit,
} from './time-column';

/** A log taken in: its trace, how it was read, and what was noticed. */
export interface ReadLog {
  trace: Trace;
  dialect: Dialect;
  /** Data rows kept. */
  rows: number;
  findings: Finding[];
  /** Other ways its time column can be read, where one was guessed. */
  otherTimes?: TimeReading[];
  /** How a bare time column was read; null where its header or style says. */
  chosenTime?: TimeReading | null;
  /** Where its clock was made to run on after it began again, s. */
  restartsS?: number[];
}

/** What is known of a log beside its bytes. */
export interface ReadOptions extends ScanOptions {
  /** Columns people assigned, by the header’s shape. */
  mappings?: Readonly<Record<string, LogMapping>>;
  /** Rated capacity of the claim, Ah: what a reading of the time may make of the charge. */
  ratedAh?: number | null;
  /** What a bare time column counts in, as a person said. */
  timeUnit?: TimeUnit | null;
  /** Zone of the lab: where a local clock may have been changed by an hour. */
  timeZone?: string;
}

/** The table of a file for assigning its columns by hand. @throws LogRefusal when there is none. */
export const sketchOf = (raw: Uint8Array): LogSketch => sketchLog(decodeLog(raw));

/** Turns the current to the inside convention as a person said it is logged. */
export function signAsTold({ currentA }: Trace, positiveDischarges: boolean): void {
  if (!currentA || !positiveDischarges) return;
  for (let i = 0; i < currentA.length; i++) currentA[i] = 0 - currentA[i]!;
}

/**
 * Reads a bench log of any recognised shape (handbook, chapter 3, "Reading a log").
 * @param raw the file's bytes. @throws LogRefusal saying row, column and what was expected.
 */
export function readLog(raw: Uint8Array, options: ReadOptions = {}): ReadLog {
  const decoded = decodeLog(raw);
  const found = recogniseDialect(decoded, options.mappings);
  const dialect = { ...found, timeUnit: options.timeUnit ?? null };
  if (channelColumn(dialect.columns.map(({ header }) => header)) >= 0) {
    const channels = channelsInLog(raw);
    if (channels.length > 1) refuseSeveralChannels(channels, dialect);
  }
  const scanned = scanSensibly(decoded.bytes, dialect, {
    ...options,
    endsInNuls: decoded.droppedNulBytes > 0,
  });
  if (scanned.count < 2) {
    throw new LogRefusal({
      code: 'too-few-rows',
      message: `Row ${dialect.firstDataRow}: ${scanned.count} whole row(s) of readings. Expected at least 2.`,
      row: dialect.firstDataRow,
    });
  }
  const findings = scanFindings(scanned, decoded.droppedNulBytes);
  const current = scanned.numbers.find(({ role }) => role === 'current');
  const scale = timeScale(scanned.timeS, dialect, {
    currentA: current?.values ?? null,
    ratedAh: options.ratedAh ?? null,
  });
  if (scale.settled?.isUnclear) refuseUnclearTime(dialect, scale.settled);
  if (scale.settled) findings.push(...timeFindings(scale.settled, Boolean(dialect.timeUnit)));
  if (dialect.timeThousands) findings.push(THOUSANDS);
  const cleaned = cleanOrder(scanned.timeS, clockStyleOf(scale, dialect, options.timeZone));
  findings.push(...orderFindings(cleaned));
  if (cleaned.timeS.length < 2) {
    throw new LogRefusal({
      code: 'no-time-span',
      message: `Row ${dialect.firstDataRow}: all rows carry the same time. Expected times that go on.`,
      row: dialect.firstDataRow,
    });
  }
  const { milliVolts: _milliVolts, ...trace } = assemble(
    scanned,
    cleaned.order,
    cleaned.timeS,
    { scale, style: dialect.timeStyle },
    findings,
  );
  trace.startedAtMs =
    dialect.timeStyle === 'stamp' || scale.unixMs ? startedAt(scanned, cleaned.order, scale) : null;
  if (dialect.eitherOrder && trace.timeS[trace.timeS.length - 1]! < DAY_S) {
    // Within a day both orders give the same intervals: only the day itself is not known.
    trace.startedAtMs = null;
    findings.push(DATE_UNCLEAR);
  }
  trace.holes = findHoles(trace.timeS);
  const { positiveDischarges } = dialect;
  if (typeof positiveDischarges === 'boolean') signAsTold(trace, positiveDischarges);
  else signCurrent(trace, findings);
  return {
    trace,
    dialect,
    rows: trace.timeS.length,
    findings,
    otherTimes: scale.settled?.others ?? [],
    chosenTime: scale.settled?.chosen ?? null,
    restartsS: cleaned.restartsAt.map((t) => t * scale.factor),
  };
}

/** A time that can be read in no way is asked about, never stored with a figure. */
export function refuseUnclearTime(
  { columns, firstDataRow }: Dialect,
  { chosen }: Pick<TimeSettled, 'chosen'>,
): never {
  const header = columns.find(({ role }) => role === 'time')?.header ?? '';
  throw new LogRefusal({
    code: 'time-unclear',
    message: `Row ${firstDataRow}, column “${header}”: the time has no unit, and in none is this a log a tester writes (as ${readingWords(chosen)}). Expected seconds, or a unit in the header; say which it is under Columns.`,
    row: firstDataRow,
  });
}

/** Finding of a time column with grouped digits. */
export const THOUSANDS: Finding = {
  code: 'time-thousands',
  text: 'Digits of the time column are grouped by thousands; they were read so.',
  severity: 'note',
};

const DAY_S = 86_400;
/** Finding of dates whose day and month cannot be told apart. */
const DATE_UNCLEAR: Finding = {
  code: 'date-unclear',
  text: 'Its dates can be read with the day first or the month first, and nothing in the file tells. Intervals are the same either way; the day it began is not taken from it. Which day was it?',
  severity: 'warning',
};

/** A log longer than this whose dates could be read either way is tried the other way, s. */
const SUSPICIOUS_SPAN_S = 20 * 86400;

/** Scans; where `03/05/2026` could be either date, the reading that makes the shorter log counts. */
function scanSensibly(bytes: Uint8Array, dialect: Dialect, options: ReadOptions): ScannedRows {
  const scanned = scanEitherWay(bytes, dialect, options);
  const span = ({ timeS, count }: ScannedRows) => Math.abs(timeS[count - 1]! - timeS[0]!);
  if (dialect.timeStyle !== 'stamp' || !(span(scanned) > SUSPICIOUS_SPAN_S)) return scanned;
  try {
    const other = scanRows(bytes, { ...dialect, dayFirst: !dialect.dayFirst }, options);
    return other.count === scanned.count && span(other) < span(scanned) ? other : scanned;
  } catch (error) {
    if (error instanceof LogRefusal) return scanned;
    throw error;
  }
}

/** Scans; dates that are none in the order taken first are tried in the other. */
function scanEitherWay(bytes: Uint8Array, dialect: Dialect, options: ReadOptions): ScannedRows {
  try {
    return scanRows(bytes, dialect, options);
  } catch (error) {
    if (!(error instanceof LogRefusal) || dialect.timeStyle !== 'stamp') throw error;
    try {
      return scanRows(bytes, { ...dialect, dayFirst: !dialect.dayFirst }, options);
    } catch {
      throw error;
    }
  }
}

/** Time of the first row as the file gives it, in its own scale, to 1 ms. */
export function startedAt(
  scanned: Pick<ScannedRows, 'timeS'>,
  order: Uint32Array | null,
  scale: TimeScale,
): number {
  return Math.round((scanned.timeS[order?.[0] ?? 0]! * scale.factor + scale.startOffsetS) * 1000);
}

/** What scanning a log found wrong: broken tail, rows left out, NUL bytes. */
export function scanFindings(
  scanned: Pick<ScannedRows, 'brokenTailRow' | 'rejected' | 'rejectedCount' | 'blanks'>,
  droppedNulBytes: number,
): Finding[] {
  const findings: Finding[] = [];
  if (scanned.brokenTailRow !== null || droppedNulBytes > 0) {
    const parts = [
      scanned.brokenTailRow !== null ? `row ${scanned.brokenTailRow} was cut off and dropped` : '',
      droppedNulBytes > 0 ? `${droppedNulBytes} NUL byte(s) at the end were dropped` : '',
    ].filter(Boolean);
    findings.push({
      code: 'broken-tail',
      text: `The log ends abruptly: ${parts.join('; ')}. The logger probably lost power.`,
      severity: 'warning',
    });
  }
  const blanks = Object.entries(scanned.blanks ?? {}).sort((a, b) => b[1] - a[1]);
  if (blanks.length > 0)
    findings.push({
      code: 'blank-cells',
      text: `${blanks.reduce((sum, [, count]) => sum + count, 0)} reading(s) of cells were blank and kept the one above them: ${blanks
        .slice(0, 6)
        .map(([header, count]) => `${count} of “${header}”`)
        .join(', ')}${blanks.length > 6 ? ' and others' : ''}.`,
      severity: 'note',
    });
  if (scanned.rejectedCount > 0) {
    const first = scanned.rejected[0]!;
    findings.push({
      code: 'rows-rejected',
      text: `${scanned.rejectedCount} row(s) held text where a number belongs and were left out, first row ${first.row}, column “${first.column}”: “${first.text}”.`,
      severity: 'warning',
    });
  }
  return findings;
}
