/**
 * Sums over every logged row up to each row of a trace that holds only some of them, all from
 * the first logged row on and without regard to the direction of current.
 */
export interface RowSums {
  /** ∫|I| dt, Ah. */
  ah: Float64Array;
  /** ∫V·|I| dt, Wh. */
  wh: Float64Array;
  /** ∫I² dt, Wh for each Ω of leads. */
  whPerOhm: Float64Array;
}

/** What the tester itself said a row was. */
export const enum RowMode {
  Unknown = 0,
  Rest = 1,
  Charge = 2,
  Discharge = 3,
}

/**
 * One recorded time series of a run, column by column, all of equal length.
 * Time in s from the first row, ascending; discharge current negative.
 */
export interface Trace {
  timeS: Float64Array;
  /** Terminal voltage, V; for a multi-cell log the sum of the cells. */
  voltageV: Float64Array;
  /** Current, A, discharge negative; null when the log has none. */
  currentA: Float64Array | null;
  /** Surface temperature, °C; NaN where a row has none; null when the log has none. */
  temperatureC: Float64Array | null;
  /** The instrument's own charge counter, Ah, as logged. */
  counterAh: Float64Array | null;
  /** The instrument's own energy counter, Wh, as logged. */
  counterWh: Float64Array | null;
  /** Each cell's voltage in a multi-cell log, V; empty otherwise. */
  cellVoltagesV: Float64Array[];
  /** Row modes as RowMode, when the log names them. */
  mode: Uint8Array | null;
  /** Step numbers, when the log has them. */
  step: Float64Array | null;
  /** Stretches without readings, longer than max(10 × median interval, 120 s). */
  holes: { fromS: number; toS: number }[];
  /** Digits after the point as logged, for storing and showing without loss. */
  decimals: { timeS: number; voltageV: number; currentA: number; temperatureC: number };
  /** Start on the wall clock, ms since 1970 UTC, when the log says it. */
  startedAtMs: number | null;
  /** Of every logged row, where the trace holds only some of a long log’s. */
  sums?: RowSums;
  /** Median time between logged rows, s, where the trace holds only some of them. */
  intervalS?: number;
}

/** Median time between logged rows, s. */
export const intervalOf = ({ timeS, intervalS }: Pick<Trace, 'timeS' | 'intervalS'>): number =>
  intervalS ?? medianIntervalS(timeS);

/**
 * Median time between rows, s.
 * @example medianIntervalS(Float64Array.of(0, 1, 2, 3, 10)) // 1
 */
export function medianIntervalS(timeS: Float64Array): number {
  if (timeS.length < 2) return NaN;
  const stride = Math.max(1, Math.floor(timeS.length / 20000));
  const gaps = new Float64Array(Math.floor((timeS.length - 1) / stride));
  for (let i = 0; i < gaps.length; i++) {
    const row = (i + 1) * stride;
    gaps[i] = timeS[row]! - timeS[row - 1]!;
  }
  gaps.sort();
  return gaps[Math.floor(gaps.length / 2)]!;
}

/**
 * Linear interpolation of `values` at time `atS`; the ends hold beyond the trace.
 * @example valueAt(Float64Array.of(0, 10), Float64Array.of(3, 4), 2.5) // 3.25
 */
export function valueAt(timeS: Float64Array, values: Float64Array, atS: number): number {
  let low = 0;
  let high = timeS.length - 1;
  if (atS <= timeS[low]!) return values[low]!;
  if (atS >= timeS[high]!) return values[high]!;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (timeS[middle]! <= atS) low = middle;
    else high = middle;
  }
  const share = (atS - timeS[low]!) / (timeS[high]! - timeS[low]!);
  return values[low]! + share * (values[high]! - values[low]!);
}

/**
 * Longer than this without a reading there is a hole, s: max(10 × median interval, 120 s) (handbook,
 * chapter 3).
 * @example holeLimitS(Float64Array.of(0, 20, 40, 60)) // 200
 */
export const holeLimitS = (timeS: Float64Array): number =>
  Math.max(10 * medianIntervalS(timeS), 120);

/**
 * First row at or after a time; the number of rows where there is none.
 * @param timeS s, ascending.
 * @example rowAt(Float64Array.of(0, 10, 20), 15) // 2
 */
export function rowAt(timeS: Float64Array, atS: number): number {
  let [low, high] = [0, timeS.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (timeS[middle]! < atS) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Stretches without readings (handbook, chapter 3). */
export function findHoles(timeS: Float64Array): Trace['holes'] {
  const limit = holeLimitS(timeS);
  const holes: Trace['holes'] = [];
  for (let i = 1; i < timeS.length; i++) {
    if (timeS[i]! - timeS[i - 1]! > limit) holes.push({ fromS: timeS[i - 1]!, toS: timeS[i]! });
  }
  return holes;
}
