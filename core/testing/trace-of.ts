import type { Trace } from '../src/evidence';

/** One row of a log made for a test: s, V, A with discharge negative. */
export interface Row {
  t: number;
  v: number;
  i: number;
}

/** A trace of time, voltage and current alone. */
export const bareTrace = (
  columns: Pick<Trace, 'timeS' | 'voltageV' | 'currentA'>,
  decimals: Partial<Trace['decimals']> = {},
): Trace => ({
  ...columns,
  temperatureC: null,
  counterAh: null,
  counterWh: null,
  cellVoltagesV: [],
  mode: null,
  step: null,
  holes: [],
  decimals: { timeS: 1, voltageV: 4, currentA: 3, temperatureC: 1, ...decimals },
  startedAtMs: null,
});

/** The same from rows. */
export const traceOf = (rows: readonly Row[], decimals: Partial<Trace['decimals']> = {}): Trace =>
  bareTrace(
    {
      timeS: Float64Array.from(rows, ({ t }) => t),
      voltageV: Float64Array.from(rows, ({ v }) => v),
      currentA: Float64Array.from(rows, ({ i }) => i),
    },
    decimals,
  );
