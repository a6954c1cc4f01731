import type { Finding } from '../../units';
import type { Trace } from '../trace';
import type { ClockStyle } from './clock-jumps';
import type { Dialect } from './dialect';
import type { Role } from './roles';
import type { ScannedRows } from './scanned-rows';
import {
  isSerialDay,
  serialStartS,
  settleTimeUnit,
  TIME_FACTOR,
  type TimeSettled,
} from './time-column';

/** How the time column counts. */
export interface TimeScale {
  /** Factor from the column to seconds. */
  factor: number;
  decimals: number;
  /** The column counts from 1970. */
  unixMs: boolean;
  /** Added to scaled times for the wall clock, s. */
  startOffsetS: number;
  /** How a bare column was settled; null where its header or style says. */
  settled: TimeSettled | null;
}

/** Scale of a time column, from its header’s unit and its first value. */
export function timeScale(
  timeS: Float64Array,
  dialect: Dialect,
  beside: { currentA: Float64Array | null; ratedAh: number | null } = {
    currentA: null,
    ratedAh: null,
  },
): TimeScale {
  const plain = { decimals: 0, startOffsetS: 0, settled: null };
  if (dialect.timeStyle !== 'number') return { ...plain, factor: 1, unixMs: false };
  const first = timeS[0]!;
  const unit = dialect.columns.find((column) => column.role === 'time')?.unit;
  if (unit?.dimension === 'time' && !dialect.timeUnit) {
    const isSerial = unit.factor === TIME_FACTOR.d && isSerialDay(first);
    return {
      ...plain,
      factor: unit.factor,
      unixMs: isSerial || first * unit.factor > 1e9,
      startOffsetS: isSerial ? serialStartS(0) : 0,
    };
  }
  const found = settleTimeUnit(timeS, beside.currentA, beside.ratedAh);
  const told = dialect.timeUnit ?? null;
  const settled = told
    ? {
        chosen: { ...found.chosen, unit: told },
        others: [],
        isSerial: found.isSerial && told === 'd',
      }
    : found;
  const factor = TIME_FACTOR[settled.chosen.unit];
  const isUnix = !settled.isSerial && first * factor > 1e9;
  return {
    decimals: 0,
    factor,
    unixMs: isUnix || settled.isSerial,
    startOffsetS: settled.isSerial ? serialStartS(0) : 0,
    settled,
  };
}

/** How a time column goes on: with a wall clock where it shows dates, stamps or day numbers. */
export const clockStyleOf = (
  { factor, startOffsetS, unixMs }: TimeScale,
  { timeStyle }: Dialect,
  timeZone?: string,
): ClockStyle => ({
  style: timeStyle,
  factor,
  // Seconds since 1970 count on through every change of a clock.
  wallStartS: timeStyle === 'stamp' ? 0 : unixMs && startOffsetS !== 0 ? startOffsetS : null,
  timeZone,
});

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

/** What assembling depends on beside the rows. */
export interface AssembleOptions {
  scale: TimeScale;
  style: Dialect['timeStyle'];
  /** Whether bare voltages are in mV; null to judge by their size. */
  milliVolts?: boolean | null;
}

/**
 * Columns by their roles as a trace, in time order.
 * @param order rows to take, or null for all. @param elapsed times since the start, not yet scaled.
 */
export function assemble(
  scanned: Pick<ScannedRows, 'timeDecimals' | 'numbers' | 'mode'>,
  order: Uint32Array | null,
  elapsed: Float64Array,
  { scale, style, milliVolts: known = null }: AssembleOptions,
  findings: Finding[],
): Trace & { milliVolts: boolean } {
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
  // Shares of a day are written too coarsely for more than milliseconds.
  const timeS =
    scale.factor === 1
      ? elapsed
      : elapsed.map((t) =>
          scale.factor > 60 ? Math.round(t * scale.factor * 1000) / 1000 : t * scale.factor,
        );
  const isPlainSeconds = scale.factor === 1 && !scale.unixMs && style === 'number';
  const cellVoltagesV = scanned.numbers
    .filter((sink) => sink.role === 'cellVoltage')
    .map((sink) => take(sink.values));
  const voltageV =
    cellVoltagesV.length > 0
      ? sumOf(cellVoltagesV, column('cellVoltage')!.decimals)
      : valuesOf('voltage')!;
  const voltageDecimals = column(cellVoltagesV.length > 0 ? 'cellVoltage' : 'voltage')!.decimals;
  const milliVolts = assumeMilliVolts(voltageV, scanned, cellVoltagesV, { known, findings });
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
    milliVolts,
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
  scanned: Pick<ScannedRows, 'numbers'>,
  cells: Float64Array[],
  { known, findings }: { known: boolean | null; findings: Finding[] },
): boolean {
  const perCell = cells[0] ?? voltageV;
  const far = Math.abs(perCell[Math.floor(perCell.length / 2)]!) > 1000;
  if (!(known ?? far)) return false;
  for (const values of new Set([voltageV, ...cells]))
    for (let i = 0; i < values.length; i++) values[i] = values[i]! / 1000;
  if (known !== null) return true;
  findings.push({
    code: 'unit-assumed',
    text: `Column “${scanned.numbers.find((s) => s.role === 'voltage' || s.role === 'cellVoltage')!.header}” was taken as mV: its values are far too high for V.`,
    severity: 'warning',
  });
  return true;
}
