import type { Finding } from '../../units';

export interface CleanedOrder {
  /** Rows to keep, in time order, as indices into the scanned rows; null for all as they stand. */
  order: Uint32Array | null;
  timeS: Float64Array;
  findings: Finding[];
}

const DAY = 86400;

/** Elapsed times that start again (a clock past midnight, a logger restarted) made to run on. */
function unwrap(timeS: Float64Array, style: string): { timeS: Float64Array; findings: Finding[] } {
  const falls: number[] = [];
  for (let i = 1; i < timeS.length && falls.length < 1000; i++) {
    if (timeS[i]! < timeS[i - 1]! - 1e-9) falls.push(i);
  }
  if (falls.length === 0) return { timeS, findings: [] };
  const pastMidnight =
    style === 'clock' &&
    falls.every((i) => timeS[i - 1]! > DAY - 7200 && timeS[i]! < 7200 && timeS[i - 1]! < DAY);
  const typical = Math.max(1e-9, timeS[1]! - timeS[0]!);
  const restarts =
    !pastMidnight && falls.every((i) => timeS[i]! <= 2 * typical && timeS[i - 1]! > 20 * typical);
  if (!pastMidnight && !restarts) return { timeS, findings: [] };
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
  const text = pastMidnight
    ? `The clock passed midnight ${falls.length} time(s); days were added.`
    : `The time column starts again at ${falls.length} row(s); it was made to run on, one interval apart.`;
  const code = pastMidnight ? 'clock-past-midnight' : 'time-restarts';
  return { timeS: running, findings: [{ code, text, severity: 'note' }] };
}

/**
 * Puts rows in time order, drops repeated stamps (the first stays) and counts both.
 * @param timeS as read, s. @param style how the time column was written.
 */
export function cleanOrder(rawTimeS: Float64Array, style: string): CleanedOrder {
  if (ascends(rawTimeS)) return { order: null, timeS: sinceFirst(rawTimeS, null), findings: [] };
  const { timeS, findings } = unwrap(rawTimeS, style);
  const n = timeS.length;
  const order = new Uint32Array(n);
  for (let i = 0; i < n; i++) order[i] = i;
  let disordered = 0;
  let latest = -Infinity;
  for (let i = 0; i < n; i++) {
    if (timeS[i]! < latest) disordered++;
    else latest = timeS[i]!;
  }
  if (disordered > 0) {
    order.sort((a, b) => timeS[a]! - timeS[b]! || a - b);
    findings.push({
      code: 'rows-out-of-order',
      text: `${disordered} row(s) were out of order and were sorted by time.`,
      severity: 'warning',
    });
  }
  let kept = 0;
  for (let i = 0; i < n; i++) {
    if (kept > 0 && timeS[order[i]!] === timeS[order[kept - 1]!]) continue;
    order[kept++] = order[i]!;
  }
  if (kept < n) {
    findings.push({
      code: 'repeated-rows',
      text: `${n - kept} row(s) repeated an earlier time stamp and were dropped.`,
      severity: 'warning',
    });
  }
  const keptOrder = order.subarray(0, kept);
  return { order: keptOrder, timeS: sinceFirst(timeS, keptOrder), findings };
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
