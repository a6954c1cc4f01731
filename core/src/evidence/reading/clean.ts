import type { Finding } from '../../units';
import { clockJumps, type ClockStyle, throughJumps, usualStepOf } from './clock-jumps';

/** Which rows of a log are kept and in which order, with what was found wrong. */
export interface CleanedOrder {
  /** Rows to keep, in time order, as indices into the scanned rows; null for all as they stand. */
  order: Uint32Array | null;
  timeS: Float64Array;
  counts: OrderCounts;
  /** Where a clock that began again was made to run on, in the column’s unit since the first row. */
  restartsAt: number[];
  /** Added to the last row’s time for jumps of the clock, in the column’s unit. */
  added: number;
}

/** What was put right on the way. */
export interface OrderCounts {
  disordered: number;
  repeated: number;
  midnights: number;
  restarts: number;
  /** Hours of summer time that began or ended within the log. */
  hours: number;
  /** Other jumps back of the clock between steady rows. */
  setBacks: number;
  /** The file has its newest row first. */
  reversed: number;
}

/** Nothing put right. */
export const NO_COUNTS: OrderCounts = {
  disordered: 0,
  repeated: 0,
  midnights: 0,
  restarts: 0,
  hours: 0,
  setBacks: 0,
  reversed: 0,
};

/** What putting rows in order is worth saying of. */
export function orderFindings({ counts }: Pick<CleanedOrder, 'counts'>): Finding[] {
  const { disordered, repeated, midnights, restarts, hours, setBacks, reversed } = counts;
  const findings: Finding[] = [];
  const add = (n: number, code: string, text: string, severity: Finding['severity']) => {
    if (n > 0) findings.push({ code, text, severity });
  };
  add(
    reversed,
    'newest-first',
    'The file has its newest row first; it was read from the end.',
    'note',
  );
  add(
    midnights,
    'clock-past-midnight',
    `The clock passed midnight ${midnights} time(s); days were added.`,
    'note',
  );
  add(
    restarts,
    'time-restarts',
    `The time column starts again at ${restarts} row(s); it was made to run on, one interval apart.`,
    'note',
  );
  add(
    hours,
    'summer-time',
    'The clock was changed by exactly one hour, on a date and at a time when clocks are: rows were kept in file order and the hour was put right.',
    'note',
  );
  add(
    setBacks,
    'clock-set-back',
    `The clock jumps back ${setBacks} time(s) between rows that go on at the usual interval: it was set back while the log ran. Rows were kept in file order, one usual interval apart where it jumped; how long that really was nobody can tell.`,
    'warning',
  );
  add(
    disordered,
    'rows-out-of-order',
    `${disordered} row(s) were out of order and were sorted by time.`,
    'warning',
  );
  add(
    repeated,
    'repeated-rows',
    `${repeated} row(s) repeated an earlier time stamp and were dropped.`,
    'warning',
  );
  return findings;
}

/** Elapsed times as they stand: no wall clock, seconds. */
const PLAIN: ClockStyle = { style: 'number', factor: 1, wallStartS: null };

/** Rows that go back nearly everywhere are written newest first. */
export function isNewestFirst(timeS: Float64Array): boolean {
  const n = timeS.length;
  if (n < 3) return false;
  let [up, down] = [0, 0];
  for (let i = 1; i < n; i++) {
    if (timeS[i]! < timeS[i - 1]!) down++;
    else if (timeS[i]! > timeS[i - 1]!) up++;
  }
  return down > 9 * up;
}

/**
 * Puts rows in time order, drops repeated stamps (the first stays) and counts both. Where the clock
 * jumped between steady rows the order of the file stands (handbook, chapter 3, *A clock set back*).
 * @param rawTimeS as read. @param clock how the time column is written.
 * @param countFrom first row whose place is counted as out of order, where those before were counted.
 */
export function cleanOrder(
  rawTimeS: Float64Array,
  clock: ClockStyle | string = PLAIN,
  countFrom = 0,
): CleanedOrder {
  const style = typeof clock === 'string' ? { ...PLAIN, style: clock } : clock;
  const ascending = ascends(rawTimeS);
  if (ascending && (style.wallStartS === null || !leapsAnHour(rawTimeS, style.factor)))
    return {
      order: null,
      timeS: sinceFirst(rawTimeS, null),
      counts: NO_COUNTS,
      restartsAt: [],
      added: 0,
    };
  const reversed = !ascending && isNewestFirst(rawTimeS);
  const n = rawTimeS.length;
  const inFileOrder = reversed ? Float64Array.from(rawTimeS).reverse() : rawTimeS;
  const jumps = clockJumps(inFileOrder, style);
  const timeS = throughJumps(inFileOrder, jumps);
  const of = (kind: (typeof jumps)[number]['kind']) => jumps.filter((jump) => jump.kind === kind);
  const order = new Uint32Array(n);
  for (let i = 0; i < n; i++) order[i] = i;
  let isSorted = true;
  let disordered = 0;
  let latest = -Infinity;
  for (let i = 0; i < n; i++) {
    if (timeS[i]! >= latest) latest = timeS[i]!;
    else {
      isSorted = false;
      if (i >= countFrom) disordered++;
    }
  }
  if (!isSorted) order.sort((a, b) => timeS[a]! - timeS[b]! || a - b);
  let kept = 0;
  for (let i = 0; i < n; i++) {
    if (kept > 0 && timeS[order[i]!] === timeS[order[kept - 1]!]) continue;
    order[kept++] = order[i]!;
  }
  const keptOrder = order.subarray(0, kept);
  const elapsed = sinceFirst(timeS, keptOrder);
  if (reversed) for (let i = 0; i < kept; i++) keptOrder[i] = n - 1 - keptOrder[i]!;
  return {
    order: keptOrder,
    timeS: elapsed,
    counts: {
      disordered,
      repeated: n - kept,
      midnights: of('midnight').length,
      restarts: of('restart').length,
      hours: of('hourBack').length + of('hourForward').length,
      setBacks: of('setBack').length,
      reversed: Number(reversed),
    },
    restartsAt: of('restart').map(({ row }) => timeS[row]! - timeS[0]!),
    added: jumps[jumps.length - 1]?.added ?? 0,
  };
}

function ascends(timeS: Float64Array): boolean {
  for (let i = 1; i < timeS.length; i++) if (!(timeS[i]! > timeS[i - 1]!)) return false;
  return true;
}

/** Whether some step is about an hour longer than the usual one. */
function leapsAnHour(timeS: Float64Array, factor: number): boolean {
  const hour = 3600 / factor;
  const usual = usualStepOf(timeS);
  for (let i = 1; i < timeS.length; i++) {
    const step = timeS[i]! - timeS[i - 1]!;
    if (step >= hour - usual && step <= hour + 4 * usual) return true;
  }
  return false;
}

function sinceFirst(timeS: Float64Array, order: Uint32Array | null): Float64Array {
  const n = order?.length ?? timeS.length;
  const elapsed = new Float64Array(n);
  if (n === 0) return elapsed;
  const start = timeS[order?.[0] ?? 0]!;
  for (let i = 0; i < n; i++) elapsed[i] = timeS[order ? order[i]! : i]! - start;
  return elapsed;
}
