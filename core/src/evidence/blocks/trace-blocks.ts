import { findHoles, type Trace } from '../trace';
import { encodeColumn } from './column-codec';
import { decodeColumn } from './decode-column';
import { BLOCK_ROWS } from './block-format';

/** The columns of a trace that are stored, by name. */
export type StoredColumn =
  | 'timeS'
  | 'voltageV'
  | 'currentA'
  | 'temperatureC'
  | 'counterAh'
  | 'counterWh'
  | 'step'
  | 'mode'
  | `cell${number}V`;

/** A stored piece of one column of a trace. */
export interface TraceBlock {
  column: StoredColumn;
  /** Position of the block in its column, from 0; each holds BLOCK_ROWS samples but the last. */
  index: number;
  payload: Uint8Array;
}

/** Digits after the point that a computed or counter column needs, 0 to 9. */
function decimalsNeeded(values: Float64Array): number {
  for (let decimals = 0; decimals < 9; decimals++) {
    const scale = 10 ** decimals;
    let fits = true;
    for (let i = 0; i < values.length && fits; i++) {
      const scaled = values[i]! * scale;
      fits = Number.isNaN(scaled) || Math.abs(scaled - Math.round(scaled)) < 1e-6;
    }
    if (fits) return decimals;
  }
  return 9;
}

/** The columns of a trace that are stored, each with its decimals; absent ones left out. */
export function storedColumns(trace: Trace): [StoredColumn, Float64Array, number][] {
  const { decimals } = trace;
  const columns: [StoredColumn, Float64Array | null, number | null][] = [
    ['timeS', trace.timeS, decimals.timeS],
    ['voltageV', trace.voltageV, decimals.voltageV],
    ['currentA', trace.currentA, decimals.currentA],
    ['temperatureC', trace.temperatureC, decimals.temperatureC],
    ['counterAh', trace.counterAh, null],
    ['counterWh', trace.counterWh, null],
    // Where a step begins fixes the instant of load-on.
    ['step', trace.step, null],
    ['mode', trace.mode && Float64Array.from(trace.mode), 0],
    ...trace.cellVoltagesV.map((values, i): [StoredColumn, Float64Array, number] => [
      `cell${i + 1}V`,
      values,
      decimals.voltageV,
    ]),
  ];
  return columns.flatMap(([name, values, digits]) =>
    values ? [[name, values, digits ?? decimalsNeeded(values)]] : [],
  );
}

/** A trace as compressed column blocks, without loss of any digit that was logged. */
export const encodeTrace = (trace: Trace): TraceBlock[] => encodeColumns(storedColumns(trace));

/** Columns with their digits after the point as compressed blocks. */
export function encodeColumns(
  columns: readonly (readonly [StoredColumn, Float64Array, number])[],
): TraceBlock[] {
  return columns.flatMap(([column, values, decimals]) =>
    Array.from({ length: Math.ceil(values.length / BLOCK_ROWS) }, (_, index) => ({
      column,
      index,
      payload: encodeColumn(
        values.subarray(index * BLOCK_ROWS, (index + 1) * BLOCK_ROWS),
        decimals,
      ),
    })),
  );
}

/** Columns back from their blocks, in any order. */
export function decodeColumns(blocks: TraceBlock[]): Map<StoredColumn, Float64Array> {
  const columns = new Map<StoredColumn, Float64Array>();
  const names = new Set(blocks.map((block) => block.column));
  for (const name of names) {
    const parts = blocks
      .filter((block) => block.column === name)
      .sort((a, b) => a.index - b.index)
      .map((block) => decodeColumn(block.payload));
    const whole = new Float64Array(parts.reduce((sum, part) => sum + part.length, 0));
    let at = 0;
    for (const part of parts) {
      whole.set(part, at);
      at += part.length;
    }
    columns.set(name, whole);
  }
  return columns;
}

/** Row modes of a stored column. */
export const storedMode = (values: Float64Array | undefined): Uint8Array | null =>
  values ? Uint8Array.from(values) : null;

/** A trace rebuilt from its stored columns, as `readLog` left it. */
export function traceFromColumns(
  columns: Map<StoredColumn, Float64Array>,
  decimals: Trace['decimals'],
): Trace {
  const timeS = columns.get('timeS');
  const voltageV = columns.get('voltageV');
  if (!timeS || !voltageV) throw new RangeError('Expected stored time and voltage columns.');
  const cells = [...columns.keys()].filter((name) => /^cell\d+V$/.test(name));
  cells.sort((a, b) => Number(a.slice(4, -1)) - Number(b.slice(4, -1)));
  return {
    timeS,
    voltageV,
    currentA: columns.get('currentA') ?? null,
    temperatureC: columns.get('temperatureC') ?? null,
    counterAh: columns.get('counterAh') ?? null,
    counterWh: columns.get('counterWh') ?? null,
    cellVoltagesV: cells.map((name) => columns.get(name)!),
    mode: storedMode(columns.get('mode')),
    step: columns.get('step') ?? null,
    holes: findHoles(timeS),
    decimals,
    startedAtMs: null,
  };
}
