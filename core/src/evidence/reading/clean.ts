import type { Finding } from '../../units';

/** Which rows of a log are kept and in which order, with what was found wrong. */
export interface CleanedOrder {
  /** Rows to keep, in time order, as indices into the scanned rows; null for all as they stand. */
  order: Uint32Array | null;
  timeS: Float64Array;
  counts: OrderCounts;
  /** Where a clock that began again was made to run on, in the column’s unit since the first row. */
  restartsAt: number[];
}

/** What was put right on the way. */
export interface OrderCounts {
  disordered: number;
  repeated: number;
  midnights: number;
  restarts: number;
}

const NOTHING: OrderCounts = { disordered: 0, repeated: 0, midnights: 0, restarts: 0 };

const DAY = 86400;

/** Elapsed times that start again (a clock past midnight, a logger restarted) made to run on. */
function unwrap(
  timeS: Float64Array,
  style: string,
): { timeS: Float64Array; midnights: number; restarts: number; restartsAt: number[] } {
  const falls: number[] = [];
  for (let i = 1; i < timeS.length && falls.length < 1000; i++) {
    if (timeS[i]! < timeS[i - 1]! - 1e-9) falls.push(i);
  }
  const asTheyStand = { timeS, midnights: 0, restarts: 0, restartsAt: [] };
  if (falls.length === 0) return asTheyStand;
  const pastMidnight =
    style === 'clock' &&
    falls.every((i) => timeS[i - 1]! > DAY - 7200 && timeS[i]! < 7200 && timeS[i - 1]! < DAY);
  const typical = Math.max(1e-9, timeS[1]! - timeS[0]!);
  const restarts =
    !pastMidnight && falls.every((i) => timeS[i]! <= 2 * typical && timeS[i - 1]! > 20 * typical);
  if (!pastMidnight && !restarts) return asTheyStand;
  const running = Float64Array.from(timeS);
  let added = 0;
  let next = 0;
  for (let i = 0; i < timeS.length; i++) {
    if (i === falls[next]) {
      added = pastMidnight ? added + DAY : running[i - 1]! + typical - timeS[i]!;
      next++;
    }
    running[i] = timeS[i]! + added;
  }
  return {
    timeS: running,
    midnights: pastMidnight ? falls.length : 0,
    restarts: pastMidnight ? 0 : falls.length,
    restartsAt: pastMidnight ? [] : falls.map((i) => running[i]! - running[0]!),
  };
}

/** What putting rows in order is worth saying of. */
export function orderFindings({ counts }: Pick<CleanedOrder, 'counts'>): Finding[] {
  const { disordered, repeated, midnights, restarts } = counts;
  const findings: Finding[] = [];
  const add = (n: number, code: string, text: string, severity: Finding['severity']) => {
    if (n > 0) findings.push({ code, text, severity });
  };
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

/**
 * Puts rows in time order, drops repeated stamps (the first stays) and counts both.
 * @param timeS as read, s. @param style how the time column was written.
 */
export function cleanOrder(rawTimeS: Float64Array, style: string): CleanedOrder {
  if (ascends(rawTimeS))
    return { order: null, timeS: sinceFirst(rawTimeS, null), counts: NOTHING, restartsAt: [] };
  const { timeS, midnights, restarts, restartsAt } = unwrap(rawTimeS, style);
  const n = timeS.length;
  const order = new Uint32Array(n);
  for (let i = 0; i < n; i++) order[i] = i;
  let disordered = 0;
  let latest = -Infinity;
  for (let i = 0; i < n; i++) {
    if (timeS[i]! < latest) disordered++;
    else latest = timeS[i]!;
  }
  if (disordered > 0) order.sort((a, b) => timeS[a]! - timeS[b]! || a - b);
  let kept = 0;
  for (let i = 0; i < n; i++) {
    if (kept > 0 && timeS[order[i]!] === timeS[order[kept - 1]!]) continue;
    order[kept++] = order[i]!;
  }
  const keptOrder = order.subarray(0, kept);
  return {
    order: keptOrder,
    timeS: sinceFirst(timeS, keptOrder),
    counts: { disordered, repeated: n - kept, midnights, restarts },
    restartsAt,
  };
}

function ascends(timeS: Float64Array): boolean {
  for (let i = 1; i < timeS.length; i++) if (!(timeS[i]! > timeS[i - 1]!)) return false;
  return true;
}

function sinceFirst(timeS: Float64Array, order: Uint32Array | null): Float64Array {
  const n = order?.length ?? timeS.length;
  const elapsed = new Float64Array(n);
  if (n === 0) return elapsed;
  const start = timeS[order?.[0] ?? 0]!;
  for (let i = 0; i < n; i++) elapsed[i] = timeS[order ? order[i]! : i]! - start;
  return elapsed;
}
