import type { Trace } from '../trace';

/** Rows as they were scanned, with absolute times. */
export interface Rows {
  /** As written, wraps made good, not yet scaled. */
  timeS: Float64Array;
  numbers: Float64Array[];
  mode: Uint8Array | null;
}

/** The larger number of decimals of each column. */
export const widest = (a: Trace['decimals'], b: Trace['decimals']): Trace['decimals'] => ({
  timeS: Math.max(a.timeS, b.timeS),
  voltageV: Math.max(a.voltageV, b.voltageV),
  currentA: Math.max(a.currentA, b.currentA),
  temperatureC: Math.max(a.temperatureC, b.temperatureC),
});

/** Two arrays of one type, one after the other. */
export function joinArrays<T extends Float64Array | Uint8Array>(a: T, b: T): T {
  const whole = new (a.constructor as new (n: number) => T)(a.length + b.length);
  whole.set(a as ArrayLike<number>, 0);
  whole.set(b as ArrayLike<number>, a.length);
  return whole;
}

/** Rows kept back before fresh ones, times as the fresh ones are written. */
export function join(kept: Rows, fresh: Rows, wrapped: number): Rows {
  return {
    timeS: joinArrays(
      kept.timeS.map((t) => t - wrapped),
      fresh.timeS,
    ),
    numbers: kept.numbers.map((values, i) => joinArrays(values, fresh.numbers[i]!)),
    mode: kept.mode && fresh.mode && joinArrays(kept.mode, fresh.mode),
  };
}

/** Rows `from` up to but not with `to` of an order. */
export function pick(
  rows: Rows,
  timeS: Float64Array,
  order: Uint32Array | null,
  from: number,
  to: number,
): Rows {
  const take = <T extends Float64Array | Uint8Array>(values: T): T => {
    const taken = new (values.constructor as new (n: number) => T)(to - from);
    for (let i = from; i < to; i++) taken[i - from] = values[order?.[i] ?? i]!;
    return taken;
  };
  return {
    timeS: timeS.slice(from, to),
    numbers: rows.numbers.map(take),
    mode: rows.mode && take(rows.mode),
  };
}
