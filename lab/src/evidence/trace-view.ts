import {
  curveOf,
  decodeColumns,
  dischargedAh,
  mainDischarge,
  type Section,
  type Trace,
  type TraceBlock,
  traceFromColumns,
  encodeCurve,
} from '@dusk-tally/core/evidence';

export interface TraceViewTask {
  blocks: TraceBlock[];
  decimals: Trace['decimals'];
  sections: Section[];
  /** Part of the run wanted, s; null for all of it. */
  fromS: number | null;
  toS: number | null;
  points: number;
}

/** A picture of any part of a stored trace, as `encodeCurve` bytes. Runs in a worker. */
export function viewTrace(task: TraceViewTask): Uint8Array {
  const trace = traceFromColumns(decodeColumns(task.blocks), task.decimals);
  const charge = dischargedAh(trace, mainDischarge(task.sections));
  const last = trace.timeS.length - 1;
  const from =
    task.fromS === null
      ? 0
      : Math.max(
          0,
          trace.timeS.findIndex((t) => t >= task.fromS!),
        );
  const past = task.toS === null ? -1 : trace.timeS.findIndex((t) => t > task.toS!);
  const to = Math.max(from, past === -1 ? last : Math.max(0, past - 1));
  return encodeCurve(curveOf(trace, charge, { from, to, points: task.points }));
}
