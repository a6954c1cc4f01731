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
  /** Σ (I × time beyond the usual interval)² over gaps that are no holes, Ah². */
  gapAh2: Float64Array;
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
  /** Stretches without readings, longer than max(3 × usual interval, 20 s). */
  holes: { fromS: number; toS: number }[];
  /** Digits after the point as logged, for storing and showing without loss. */
  decimals: { timeS: number; voltageV: number; currentA: number; temperatureC: number };
  /** Start on the wall clock, ms since 1970 UTC, when the log says it. */
  startedAtMs: number | null;
  /** Of every logged row, where the trace holds only some of a long log’s. */
  sums?: RowSums;
  /** Median and usual time between logged rows, s, where the trace holds only some of them. */
  intervalS?: number;
  usualS?: number;
  /** Who logged it can only load: nothing can have been charged in a hole. */
  loadOnly?: boolean;
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

/** Share of the intervals that the usual one is not shorter than (handbook, chapter 3). */
const USUAL_SHARE = 0.9;
/** Longer than so many usual intervals, and than so many seconds, is a hole. */
const HOLE_TIMES = 3;
const HOLE_LEAST_S = 20;
/** From so many usual intervals on a gap adds limits of its own. */
export const GAP_TIMES = 1.5;
/** Intervals on either side that tell a logger that writes more slowly there. */
const BESIDE = 9;

/** The 90 % quantile of times, s; NaN without any. */
export function usualOf(intervals: Float64Array | number[]): number {
  const sorted = Float64Array.from(intervals).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(USUAL_SHARE * sorted.length))] ?? NaN;
}

/**
 * Usual interval of a run, s: the 90 % quantile of its intervals, so that a logger that writes by
 * change is not taken for a broken one (handbook, chapter 3).
 * @example usualIntervalS(Float64Array.of(0, 10, 20, 30, 90)) // 60
 */
export function usualIntervalS(timeS: Float64Array): number {
  const stride = Math.max(1, Math.floor(timeS.length / 20000));
  const gaps = new Float64Array(Math.max(0, Math.floor((timeS.length - 1) / stride)));
  for (let i = 0; i < gaps.length; i++) {
    const row = (i + 1) * stride;
    gaps[i] = timeS[row]! - timeS[row - 1]!;
  }
  return usualOf(gaps);
}

/** The usual interval of a trace that may hold only some of its rows, s. */
export const usualOfTrace = ({ timeS, usualS }: Pick<Trace, 'timeS' | 'usualS'>): number =>
  usualS ?? usualIntervalS(timeS);

/** Longer than this without a reading there is a hole, s: max(3 × usual interval, 20 s). */
export const holeLimitOf = (usualS: number): number => Math.max(HOLE_TIMES * usualS, HOLE_LEAST_S);

/**
 * Longer than this without a reading there is a hole, s (handbook, chapter 3).
 * @example holeLimitS(Float64Array.of(0, 20, 40, 60)) // 60
 */
export const holeLimitS = (timeS: Float64Array): number => holeLimitOf(usualIntervalS(timeS));

/** Middle of a few intervals, s; 0 where there are too few to tell. */
function middleOf(intervals: readonly number[]): number {
  if (intervals.length < BESIDE) return 0;
  return [...intervals].sort((a, b) => a - b)[intervals.length >> 1]!;
}

/** Finds holes while rows go by, however many they are. */
export class HoleFinder {
  private readonly limitS: number;
  private lastS = NaN;
  /** Intervals of late, the next one goes where the oldest is. */
  private readonly before = new Float64Array(BESIDE);
  private seen = 0;
  private waiting: { fromS: number; toS: number; row: number; after: number[] }[] = [];

  constructor(
    usualS: number,
    private readonly found: (hole: { fromS: number; toS: number; row: number }) => void,
  ) {
    this.limitS = holeLimitOf(usualS);
  }

  /** @param row of this time, told with the hole that ends there. */
  add(atS: number, row: number): void {
    const interval = atS - this.lastS;
    if (this.waiting.length > 0) {
      for (const gap of this.waiting) gap.after.push(interval);
      while (this.waiting[0] && this.waiting[0].after.length >= BESIDE) this.settle();
    }
    // A logger that writes as slowly as this on one side of it has no hole there.
    if (interval > this.limitS && !(interval <= HOLE_TIMES * this.usualBefore()))
      this.waiting.push({ fromS: this.lastS, toS: atS, row, after: [] });
    if (interval > 0) this.before[this.seen++ % BESIDE] = interval;
    this.lastS = atS;
  }

  private usualBefore(): number {
    return this.seen < BESIDE ? 0 : middleOf([...this.before]);
  }

  end(): void {
    while (this.waiting.length > 0) this.settle();
  }

  private settle(): void {
    const { after, ...hole } = this.waiting.shift()!;
    if (!(hole.toS - hole.fromS <= HOLE_TIMES * middleOf(after))) this.found(hole);
  }
}

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

/** Stretches without readings (handbook, chapter 3). @param timeS s, ascending. */
export function findHoles(timeS: Float64Array): Trace['holes'] {
  const holes: Trace['holes'] = [];
  const finder = new HoleFinder(usualIntervalS(timeS), ({ fromS, toS }) =>
    holes.push({ fromS, toS }),
  );
  for (let i = 0; i < timeS.length; i++) finder.add(timeS[i]!, i);
  finder.end();
  return holes;
}
