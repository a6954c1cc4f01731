import type { Finding } from '../../units';
import { findHoles, type Trace } from '../trace';
import { cleanOrder } from './clean';
import { decodeLog } from './decode';
import { type Dialect, type LogSketch, recogniseDialect, sketchLog } from './dialect';
import type { LogMapping } from './mapping';
import { LogRefusal } from './refusal';
import type { Role } from './roles';
import { type ScannedRows, type ScanOptions, scanRows } from './scan';
import { signCurrent } from './sign-current';

/** A log taken in: its trace, how it was read, and what was noticed. */
export interface ReadLog {
  trace: Trace;
  dialect: Dialect;
  /** Data rows kept. */
  rows: number;
  findings: Finding[];
}

export interface ReadOptions extends ScanOptions {
  /** Columns people assigned, by the header’s shape. */
  mappings?: Readonly<Record<string, LogMapping>>;
}

/** The table of a file for assigning its columns by hand. @throws LogRefusal when there is none. */
export const sketchOf = (raw: Uint8Array): LogSketch => sketchLog(decodeLog(raw));

/** Turns the current to the inside convention as a person said it is logged. */
function signAsTold({ currentA }: Trace, positiveDischarges: boolean): void {
  if (!currentA || !positiveDischarges) return;
  for (let i = 0; i < currentA.length; i++) currentA[i] = 0 - currentA[i]!;
}

/**
 * Reads a bench log of any recognised shape (handbook, chapter 3, "Reading a log").
 * @param raw the file's bytes. @throws LogRefusal saying row, column and what was expected.
 */
export function readLog(raw: Uint8Array, options: ReadOptions = {}): ReadLog {
  const decoded = decodeLog(raw);
  const dialect = recogniseDialect(decoded, options.mappings);
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
  const scale = timeScale(scanned.timeS, dialect);
  const cleaned = cleanOrder(scanned.timeS, dialect.timeStyle);
  findings.push(...cleaned.findings);
  if (cleaned.timeS.length < 2) {
    throw new LogRefusal({
      code: 'no-time-span',
      message: `Row ${dialect.firstDataRow}: all rows carry the same time. Expected times that go on.`,
      row: dialect.firstDataRow,
    });
  }
  const trace = assemble(scanned, cleaned.order, cleaned.timeS, scale, dialect.timeStyle, findings);
  trace.startedAtMs =
    dialect.timeStyle === 'stamp' || scale.unixMs ? startedAt(scanned, cleaned.order, scale) : null;
  markHoles(trace, findings);
  const { positiveDischarges } = dialect;
  if (typeof positiveDischarges === 'boolean') signAsTold(trace, positiveDischarges);
  else signCurrent(trace, findings);
  return { trace, dialect, rows: trace.timeS.length, findings };
}

/** A log longer than this whose dates could be read either way is tried the other way, s. */
const SUSPICIOUS_SPAN_S = 20 * 86400;

/** Scans; where `03/05/2026` could be either date, the reading that makes the shorter log counts. */
function scanSensibly(bytes: Uint8Array, dialect: Dialect, options: ScanOptions): ScannedRows {
  const scanned = scanRows(bytes, dialect, options);
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

interface TimeScale {
  /** Factor from the column to seconds. */
  factor: number;
  decimals: number;
  /** The column counts from 1970. */
  unixMs: boolean;
}

function timeScale(timeS: Float64Array, dialect: Dialect): TimeScale {
  if (dialect.timeStyle !== 'number') return { factor: 1, decimals: 0, unixMs: false };
  const first = timeS[0]!;
  const unit = dialect.columns.find((column) => column.role === 'time')?.unit;
  let factor = unit?.dimension === 'time' ? unit.factor : 1;
  if (!unit && first > 1e12) factor = 1e-3;
  return { factor, decimals: 0, unixMs: first * factor > 1e9 };
}

function startedAt(scanned: ScannedRows, order: Uint32Array | null, scale: TimeScale): number {
  return Math.round(scanned.timeS[order?.[0] ?? 0]! * scale.factor * 1000);
}

function scanFindings(scanned: ScannedRows, droppedNulBytes: number): Finding[] {
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

/** Digits a time column needs: as written for plain seconds, else found by trying. */
function decimalsOfTime(timeS: Float64Array, written: number | null): number {
  if (written !== null) return Math.min(written, 6);
  for (let decimals = 0; decimals < 6; decimals++) {
    const scale = 10 ** decimals;
    let fits = true;
    for (let i = 0; i < timeS.length && fits; i++) {
      fits = Math.abs(timeS[i]! * scale - Math.round(timeS[i]! * scale)) < 1e-6 * scale + 1e-7;
    }
    if (fits) return decimals;
  }
  return 6;
}

function assemble(
  scanned: ScannedRows,
  order: Uint32Array | null,
  elapsed: Float64Array,
  scale: TimeScale,
  style: Dialect['timeStyle'],
  findings: Finding[],
): Trace {
  const take = (values: Float64Array) => {
    if (!order) return values;
    const taken = new Float64Array(order.length);
    for (let i = 0; i < order.length; i++) taken[i] = values[order[i]!]!;
    return taken;
  };
  const column = (role: Role) => scanned.numbers.find((sink) => sink.role === role) ?? null;
  const valuesOf = (role: Role) => {
    const sink = column(role);
    return sink ? take(sink.values) : null;
  };
  const timeS = scale.factor === 1 ? elapsed : elapsed.map((t) => t * scale.factor);
  const isPlainSeconds = scale.factor === 1 && !scale.unixMs && style === 'number';
  const cellVoltagesV = scanned.numbers
    .filter((sink) => sink.role === 'cellVoltage')
    .map((sink) => take(sink.values));
  const voltageV =
    cellVoltagesV.length > 0
      ? sumOf(cellVoltagesV, column('cellVoltage')!.decimals)
      : valuesOf('voltage')!;
  const voltageDecimals = column(cellVoltagesV.length > 0 ? 'cellVoltage' : 'voltage')!.decimals;
  const milliVolts = assumeMilliVolts(voltageV, scanned, cellVoltagesV, findings);
  const powerW = valuesOf('power');
  let currentA = valuesOf('current');
  if (!currentA && powerW) {
    currentA = powerW.map((power, i) => power / voltageV[i]!);
    findings.push({
      code: 'current-from-power',
      text: 'No current column: current taken as power over voltage.',
      severity: 'note',
    });
  }
  return {
    timeS,
    voltageV,
    currentA,
    temperatureC: valuesOf('temperature'),
    counterAh: valuesOf('counterAh'),
    counterWh: valuesOf('counterWh'),
    cellVoltagesV,
    mode: scanned.mode && order ? Uint8Array.from(order, (i) => scanned.mode![i]!) : scanned.mode,
    step: valuesOf('step'),
    holes: [],
    decimals: {
      timeS: decimalsOfTime(timeS, isPlainSeconds ? scanned.timeDecimals : null),
      voltageV: milliVolts ? voltageDecimals + 3 : voltageDecimals,
      currentA: column('current')?.decimals ?? 6,
      temperatureC: column('temperature')?.decimals ?? 1,
    },
    startedAtMs: null,
  };
}

/** Sum of columns row by row, rounded to the decimals they were logged with. */
function sumOf(columns: Float64Array[], decimals: number): Float64Array {
  const scale = 10 ** decimals;
  return columns[0]!.map(
    (_, i) => Math.round(columns.reduce((sum, column) => sum + column[i]!, 0) * scale) / scale,
  );
}

/** A bare voltage column that reads in the thousands is in millivolts; said so. */
function assumeMilliVolts(
  voltageV: Float64Array,
  scanned: ScannedRows,
  cells: Float64Array[],
  findings: Finding[],
): boolean {
  const perCell = cells[0] ?? voltageV;
  if (!(Math.abs(perCell[Math.floor(perCell.length / 2)]!) > 1000)) return false;
  for (const values of new Set([voltageV, ...cells]))
    for (let i = 0; i < values.length; i++) values[i] = values[i]! / 1000;
  findings.push({
    code: 'unit-assumed',
    text: `Column “${scanned.numbers.find((s) => s.role === 'voltage' || s.role === 'cellVoltage')!.header}” was taken as mV: its values are far too high for V.`,
    severity: 'warning',
  });
  return true;
}

/** Marks stretches without readings and says so. */
function markHoles(trace: Trace, findings: Finding[]): void {
  trace.holes = findHoles(trace.timeS);
  for (const hole of trace.holes) {
    findings.push({
      code: 'hole',
      text: `No readings for ${Math.round(hole.toS - hole.fromS)} s, from ${Math.round(hole.fromS)} s to ${Math.round(hole.toS)} s.`,
      severity: 'warning',
    });
  }
}
