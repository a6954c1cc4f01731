import {
  decodeColumns,
  encodeView,
  rowAt,
  type SampledPart,
  type Section,
  type Trace,
  type TraceBlock,
  traceFromColumns,
  viewSamples,
} from '@dusk-tally/core/evidence';

export interface TraceViewTask {
  /** Blocks of the columns that are drawn, one stretch of them. */
  blocks: TraceBlock[];
  decimals: Trace['decimals'];
  /** Row of the trace the stretch begins at, and the charge given before it, Ah. */
  firstRow: number;
  startAh: number;
  /** Sections whose charge counts as given. */
  discharge: Section[];
  /** Part of the run wanted, s; null for all of it. */
  fromS: number | null;
  toS: number | null;
  points: number;
}

/** Charge given at each row of a stretch. */
function chargeOf(part: Trace, task: TraceViewTask): Float64Array {
  const { timeS, currentA, counterAh } = part;
  const charge = new Float64Array(timeS.length);
  let ah = task.startAh;
  for (let i = 0; i < timeS.length; i++) {
    const row = task.firstRow + i;
    const inside = task.discharge.some(
      ({ fromIndex, toIndex }) => row > fromIndex && row <= toIndex,
    );
    if (inside && i > 0)
      ah += currentA
        ? ((Math.abs(currentA[i]!) + Math.abs(currentA[i - 1]!)) * (timeS[i]! - timeS[i - 1]!)) /
          7200
        : Math.abs((counterAh?.[i] ?? 0) - (counterAh?.[i - 1] ?? 0));
    charge[i] = ah;
  }
  return charge;
}

/** A picture of a stretch of samples, as `encodeView` bytes. Runs in a worker. */
export function viewTrace(task: TraceViewTask): Uint8Array {
  const trace = traceFromColumns(decodeColumns(task.blocks), task.decimals);
  const last = trace.timeS.length - 1;
  const from = task.fromS === null ? 0 : Math.min(last, rowAt(trace.timeS, task.fromS));
  const to = task.toS === null ? last : Math.max(from, rowAt(trace.timeS, task.toS + 1e-9) - 1);
  const part: SampledPart = { ...trace, chargeAh: chargeOf(trace, task) };
  return encodeView(viewSamples(part, { from, to, points: task.points }));
}
