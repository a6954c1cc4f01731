import { type Finding, trapezoid } from '../../units';
import { correctReading, type CalibrationPoint } from '../meters/calibration';
import { decodeColumn } from '../blocks/decode-column';
import { BLOCK_ROWS } from '../blocks/block-format';
import { storedMode, type StoredColumn, type TraceBlock } from '../blocks/trace-blocks';
import { currentDeadBandA } from '../reading/sign-current';
import { keptRows, keptWhole } from './rows-to-keep';
import { GAP_TIMES, HoleFinder, type Trace, usualOf } from '../trace';

/** Longer traces are computed from a part of their rows and sums over all of them. */
export const LONG_ROWS = 2 ** 21;
/** About so many rows of a long trace are kept evenly, and as many more round its events. */
const KEPT_ROWS = 2 ** 19;
/** Consecutive rows of every block that speak for its noise and interval. */
const SAMPLED = 256;

/** A long trace with only some of its rows, and what was summed over all of them. */
export interface ReducedTrace {
  trace: Trace;
  /** Row of the whole trace each kept row is. */
  rowOf: Uint32Array;
  findings: Finding[];
}

/** The blocks of a trace, to be decoded one stretch of rows at a time. */
export class BlockReader {
  readonly rows: number;
  private readonly byColumn = new Map<StoredColumn, TraceBlock[]>();

  constructor(blocks: readonly TraceBlock[]) {
    for (const block of blocks) {
      const own = this.byColumn.get(block.column);
      if (own) own.push(block);
      else this.byColumn.set(block.column, [block]);
    }
    for (const own of this.byColumn.values()) own.sort((a, b) => a.index - b.index);
    const times = this.byColumn.get('timeS');
    if (!times || !this.byColumn.has('voltageV'))
      throw new RangeError('Expected stored time and voltage columns.');
    const last = decodeColumn(times[times.length - 1]!.payload).length;
    this.rows = (times.length - 1) * BLOCK_ROWS + last;
  }

  get columns(): StoredColumn[] {
    return [...this.byColumn.keys()];
  }

  /** How many stretches there are. */
  get stretches(): number {
    return this.byColumn.get('timeS')!.length;
  }

  /** One column of a stretch; null where the trace has none. */
  read(column: StoredColumn, stretch: number): Float64Array | null {
    const block = this.byColumn.get(column)?.[stretch];
    return block ? decodeColumn(block.payload) : null;
  }
}

/** What a reduced trace is for: around these its rows are kept. */
export interface Reduction {
  /** Voltages of the channel against a reference. */
  table: readonly CalibrationPoint[];
  cutoffsV: readonly number[];
  /** Leads inside the logged voltage, Ω. */
  leadOhm: number;
  /** About how many rows to keep evenly, and as many more round events. */
  keep: number;
}

/** A noisy voltage falls through a cut-off many times; of one load so many count. */
const MOST_FALLS = 50;

/** The voltage cut-offs are applied to over a stretch: of the lowest cell of a string. */
function lowestVoltage(
  reader: BlockReader,
  stretch: number,
  table: readonly CalibrationPoint[],
): Float64Array {
  const cells = reader.columns
    .filter((name) => name.startsWith('cell'))
    .map((name) => reader.read(name, stretch)!);
  const lowest =
    cells.length > 0
      ? cells[0]!.map((_, i) => cells.reduce((least, cell) => Math.min(least, cell[i]!), Infinity))
      : reader.read('voltageV', stretch)!;
  return table.length > 0 ? lowest.map((v) => correctReading(table, v)) : lowest;
}

/** What one pass over time and current tells. */
interface Survey {
  intervalS: number;
  usualS: number;
  holes: Trace['holes'];
  /** Rows at which the current steps, or a hole ends. */
  events: number[];
}

function survey(reader: BlockReader, { table, cutoffsV, leadOhm }: Reduction): Survey {
  const gaps: number[] = [];
  const currents: number[] = [];
  let largest = 0;
  // A few stretches tell the interval; the largest current may be in any of them.
  const every = Math.max(1, Math.floor(reader.stretches / 16));
  for (let stretch = 0; stretch < reader.stretches; stretch++) {
    const currentA = reader.read('currentA', stretch);
    if (currentA)
      for (let i = 0; i < currentA.length; i++) largest = Math.max(largest, Math.abs(currentA[i]!));
    if (stretch % every !== 0) continue;
    const timeS = reader.read('timeS', stretch)!;
    const from = Math.max(0, (timeS.length - SAMPLED) >> 1);
    for (let i = from + 1; i < Math.min(timeS.length, from + SAMPLED); i++) {
      gaps.push(timeS[i]! - timeS[i - 1]!);
      if (currentA) currents.push(currentA[i]!);
    }
  }
  gaps.sort((a, b) => a - b);
  const intervalS = gaps[gaps.length >> 1] ?? NaN;
  const usualS = usualOf(gaps);
  const deadBand = currentDeadBandA(Float64Array.from([...currents, largest]));
  const holes: Trace['holes'] = [];
  const events: number[] = [];
  const finder = new HoleFinder(usualS, ({ fromS, toS, row }) => {
    holes.push({ fromS, toS });
    events.push(row);
  });
  let [lastA, lastV] = [NaN, NaN];
  let falls = 0;
  for (let stretch = 0; stretch < reader.stretches; stretch++) {
    const timeS = reader.read('timeS', stretch)!;
    const currentA = reader.read('currentA', stretch);
    const voltageV = cutoffsV.length > 0 ? lowestVoltage(reader, stretch, table) : null;
    const first = stretch * BLOCK_ROWS;
    for (let i = 0; i < timeS.length; i++) {
      const amps = currentA ? currentA[i]! : 0;
      finder.add(timeS[i]!, first + i);
      const loaded = Math.abs(amps) > deadBand;
      const wasLoaded = Math.abs(lastA) > deadBand;
      const steps = Math.abs(amps - lastA) > Math.max(5 * deadBand, 0.1 * Math.abs(lastA));
      if (loaded !== wasLoaded) falls = 0;
      const volts = voltageV ? voltageV[i]! + Math.abs(amps) * leadOhm : NaN;
      const through =
        loaded &&
        falls < MOST_FALLS &&
        cutoffsV.some((cutoff) => volts <= cutoff && lastV > cutoff);
      if (through) falls++;
      if (first + i > 0 && (loaded !== wasLoaded || steps || through)) events.push(first + i);
      lastV = volts;
      lastA = amps;
    }
  }
  finder.end();
  // A hole is known some rows later.
  const inOrder = [...new Set(events)].sort((a, b) => a - b);
  return { intervalS, usualS, holes, events: inOrder };
}

/** The rows kept as a trace, its cells in their order. */
function traceOf(
  columns: ReadonlyMap<StoredColumn, Float64Array>,
  known: Pick<Trace, 'decimals' | 'holes' | 'intervalS' | 'usualS' | 'sums'>,
): Trace {
  const column = (name: StoredColumn) => columns.get(name) ?? null;
  const cells = [...columns.keys()]
    .filter((name) => /^cell\d+V$/.test(name))
    .sort((a, b) => Number(a.slice(4, -1)) - Number(b.slice(4, -1)));
  return {
    ...known,
    timeS: column('timeS')!,
    voltageV: column('voltageV')!,
    currentA: column('currentA'),
    temperatureC: column('temperatureC'),
    counterAh: column('counterAh'),
    counterWh: column('counterWh'),
    cellVoltagesV: cells.map((name) => column(name)!),
    mode: storedMode(column('mode') ?? undefined),
    step: column('step'),
    startedAtMs: null,
  };
}

/**
 * Brings a long trace down to rows that are few enough to compute with: one in so many, and all
 * of them round every step of the current. Charge and energy are summed over every row.
 */
export function reduceTrace(
  blocks: readonly TraceBlock[],
  decimals: Trace['decimals'],
  wanted: Partial<Reduction> = {},
): ReducedTrace {
  const reduction = { table: [], cutoffsV: [], leadOhm: 0, keep: KEPT_ROWS, ...wanted };
  const { table, keep } = reduction;
  const reader = new BlockReader(blocks);
  const { rows } = reader;
  const surveyed = survey(reader, reduction);
  const stride = Math.max(1, Math.ceil(rows / keep));
  const whole = keptWhole(surveyed, rows, keep);
  const rowOf = keptRows(rows, stride, whole);
  const n = rowOf.length;
  const columns = new Map(reader.columns.map((name) => [name, new Float64Array(n)]));
  const [ah, wh, whPerOhm] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  const gapAh2 = new Float64Array(n);
  const { usualS } = surveyed;
  const isHole = new Set(surveyed.holes.map(({ toS }) => toS));
  const counts = columns.has('currentA');
  let [sumAh, sumWh, sumOhm, sumGap] = [0, 0, 0, 0];
  let [lastS, lastA, lastV] = [NaN, 0, 0];
  let next = 0;
  for (let stretch = 0; stretch < reader.stretches; stretch++) {
    const parts = [...columns].map(([name, into]) => ({
      into,
      values: reader.read(name, stretch)!,
    }));
    const part = (name: StoredColumn) => parts[[...columns.keys()].indexOf(name)]?.values ?? null;
    const timeS = part('timeS')!;
    const currentA = part('currentA');
    const logged = part('voltageV')!;
    const voltageV = table.length > 0 ? logged.map((v) => correctReading(table, v)) : logged;
    const first = stretch * BLOCK_ROWS;
    for (let i = 0; i < timeS.length; i++) {
      if (currentA) {
        const amps = Math.abs(currentA[i]!);
        const hours = (timeS[i]! - lastS) / 3600;
        if (hours > 0) {
          sumAh += trapezoid(lastA, amps, hours);
          sumWh += trapezoid(lastA * lastV, amps * voltageV[i]!, hours);
          sumOhm += trapezoid(lastA * lastA, amps * amps, hours);
          const beyond = timeS[i]! - lastS - usualS;
          if (beyond > (GAP_TIMES - 1) * usualS && !isHole.has(timeS[i]!))
            sumGap += ((amps * beyond) / 3600) ** 2;
        }
        lastA = amps;
        lastV = voltageV[i]!;
        lastS = timeS[i]!;
      }
      if (next < n && first + i === rowOf[next]) {
        for (const { into, values } of parts) into[next] = values[i]!;
        ah[next] = sumAh;
        wh[next] = sumWh;
        whPerOhm[next] = sumOhm;
        gapAh2[next] = sumGap;
        next++;
      }
    }
  }
  return {
    rowOf,
    findings: [
      {
        code: 'long-log',
        text: `A log of ${rows} rows: charge and energy are summed over every one, voltages looked at in one of ${stride} and in all round ${surveyed.events.length} event(s): steps of the current, cut-offs and holes.`,
        severity: 'note',
      },
    ],
    trace: traceOf(columns, {
      decimals,
      holes: surveyed.holes,
      intervalS: surveyed.intervalS,
      usualS: surveyed.usualS,
      ...(counts ? { sums: { ah, wh, whPerOhm, gapAh2 } } : {}),
    }),
  };
}
