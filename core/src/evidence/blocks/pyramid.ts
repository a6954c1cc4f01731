import { trapezoid } from '../../units';
import type { Discharge, Section } from '../sections';
import type { Trace } from '../trace';
import {
  BUCKET_ROWS,
  BUCKETS_IN_ONE,
  CHUNK_BUCKETS,
  emptyLevel,
  encodeChunk,
  PYRAMID_FROM_ROWS,
  type PyramidChunk,
  type PyramidLevel,
} from './pyramid-chunks';

/** Position of the least and the most of a column over rows; −1 where all are missing. */
function extremes(values: Float64Array, from: number, to: number): [number, number] {
  let least = -1;
  let most = -1;
  let low = Infinity;
  let high = -Infinity;
  for (let row = from; row < to; row++) {
    const value = values[row]!;
    if (value < low) {
      low = value;
      least = row;
    }
    if (value > high) {
      high = value;
      most = row;
    }
  }
  return [least, most];
}

/** Columns a pyramid is built from, a stretch of rows of them. */
export type PyramidPart = Pick<
  Trace,
  'timeS' | 'voltageV' | 'currentA' | 'temperatureC' | 'counterAh'
>;

/** What charge is counted from, of one row. */
interface ChargeRow {
  timeS: number;
  /** Without direction; null where none is logged. */
  amps: number | null;
  counterAh: number;
}

const rowOf = ({ timeS, currentA, counterAh }: PyramidPart, row: number): ChargeRow => ({
  timeS: timeS[row]!,
  amps: currentA ? Math.abs(currentA[row]!) : null,
  counterAh: counterAh?.[row] ?? 0,
});

/** Charge between two rows that follow each other, Ah. */
const stepBetween = (before: ChargeRow, row: ChargeRow): number =>
  before.amps !== null && row.amps !== null
    ? trapezoid(before.amps, row.amps, (row.timeS - before.timeS) / 3600)
    : Math.abs(row.counterAh - before.counterAh);

/** Charge so far, and where it is noted for the first row of each bucket. */
interface Given {
  chargeAh: Float32Array;
  /** Row of the whole trace the stretch begins with. */
  first: number;
  ah: number;
}

interface Rows {
  from: number;
  to: number;
}

function addTrapezoids(
  timeS: Float64Array,
  currentA: Float64Array,
  { from, to }: Rows,
  given: Given,
): number {
  const { chargeAh, first } = given;
  let { ah } = given;
  let amps = Math.abs(currentA[from - 1]!);
  for (let i = from; i <= to; i++) {
    const now = Math.abs(currentA[i]!);
    ah += trapezoid(amps, now, (timeS[i]! - timeS[i - 1]!) / 3600);
    amps = now;
    const row = first + i;
    if ((row & (BUCKET_ROWS - 1)) === 0) chargeAh[row / BUCKET_ROWS] = ah;
  }
  return ah;
}

function addTicks(counterAh: Float64Array, { from, to }: Rows, given: Given): number {
  const { chargeAh, first } = given;
  let { ah } = given;
  for (let i = from; i <= to; i++) {
    ah += Math.abs(counterAh[i]! - counterAh[i - 1]!);
    const row = first + i;
    if ((row & (BUCKET_ROWS - 1)) === 0) chargeAh[row / BUCKET_ROWS] = ah;
  }
  return ah;
}

/** Builds a pyramid from stretches of a trace that follow each other. */
export class PyramidBuilder {
  private readonly level: PyramidLevel;
  private row = 0;
  private ah = 0;
  /** The row before the stretch in work. */
  private before: ChargeRow | null = null;

  /** @param rows of the whole trace. @param sections whose charge counts as given, in its rows. */
  constructor(
    rows: number,
    private readonly sections: readonly Pick<Section, 'fromIndex' | 'toIndex'>[],
  ) {
    this.level = emptyLevel(Math.ceil(rows / BUCKET_ROWS));
  }

  /** Adds rows; every stretch but the last is a whole number of buckets long. */
  add(part: PyramidPart): void {
    const { timeS, voltageV, currentA, temperatureC } = part;
    const { level } = this;
    const first = this.row / BUCKET_ROWS;
    for (let from = 0; from < timeS.length; from += BUCKET_ROWS) {
      const to = Math.min(timeS.length, from + BUCKET_ROWS);
      const bucket = first + from / BUCKET_ROWS;
      level.timeS[bucket] = timeS[from]!;
      const [leastV, mostV] = extremes(voltageV, from, to);
      level.leastV[bucket] = voltageV[leastV]!;
      level.mostV[bucket] = voltageV[mostV]!;
      level.mostFirst[bucket] = mostV < leastV ? 1 : 0;
      if (currentA) {
        const [leastA, mostA] = extremes(currentA, from, to);
        level.leastA[bucket] = currentA[leastA]!;
        level.mostA[bucket] = currentA[mostA]!;
      }
      if (temperatureC) {
        const [leastC, mostC] = extremes(temperatureC, from, to);
        if (leastC >= 0) level.leastC[bucket] = temperatureC[leastC]!;
        if (mostC >= 0) level.mostC[bucket] = temperatureC[mostC]!;
      }
    }
    this.addCharge(part);
    this.row += timeS.length;
  }

  /** Charge given since load-on at the first row of each bucket, Ah. */
  private addCharge(part: PyramidPart): void {
    const { timeS, currentA, counterAh } = part;
    const n = timeS.length;
    for (const { fromIndex, toIndex } of this.sections) {
      let from = Math.max(fromIndex + 1 - this.row, 0);
      const to = Math.min(toIndex - this.row, n - 1);
      if (from > to) continue;
      if (from === 0 && this.before) {
        this.ah += stepBetween(this.before, rowOf(part, 0));
        this.level.chargeAh[this.row / BUCKET_ROWS] = this.ah;
        from = 1;
      }
      const given = { chargeAh: this.level.chargeAh, first: this.row, ah: this.ah };
      if (currentA) this.ah = addTrapezoids(timeS, currentA, { from, to }, given);
      else if (counterAh) this.ah = addTicks(counterAh, { from, to }, given);
    }
    this.before = rowOf(part, n - 1);
  }

  /** The levels, finest first; the last one has at most `CHUNK_BUCKETS` buckets. */
  levels(): PyramidLevel[] {
    const levels = [this.level];
    while (levels[levels.length - 1]!.timeS.length > CHUNK_BUCKETS)
      levels.push(above(levels[levels.length - 1]!));
    return levels;
  }

  /** The levels in chunks, as they are stored. */
  chunks(): PyramidChunk[] {
    return this.levels().flatMap((buckets, level) =>
      Array.from({ length: Math.ceil(buckets.timeS.length / CHUNK_BUCKETS) }, (_, index) => ({
        level,
        index,
        payload: encodeChunk(buckets, index * CHUNK_BUCKETS),
      })),
    );
  }
}

function above(below: PyramidLevel): PyramidLevel {
  const n = Math.ceil(below.timeS.length / BUCKETS_IN_ONE);
  const level = emptyLevel(n);
  for (let bucket = 0; bucket < n; bucket++) {
    const from = bucket * BUCKETS_IN_ONE;
    const to = Math.min(below.timeS.length, from + BUCKETS_IN_ONE);
    let [least, most] = [from, from];
    let [leastA, mostA] = [Infinity, -Infinity];
    let [leastC, mostC] = [NaN, NaN];
    for (let i = from; i < to; i++) {
      if (below.leastV[i]! < below.leastV[least]!) least = i;
      if (below.mostV[i]! > below.mostV[most]!) most = i;
      leastA = Math.min(leastA, below.leastA[i]!);
      mostA = Math.max(mostA, below.mostA[i]!);
      if (!(below.leastC[i]! >= leastC)) leastC = below.leastC[i]!;
      if (!(below.mostC[i]! <= mostC)) mostC = below.mostC[i]!;
    }
    level.timeS[bucket] = below.timeS[from]!;
    level.chargeAh[bucket] = below.chargeAh[from]!;
    level.leastV[bucket] = below.leastV[least]!;
    level.mostV[bucket] = below.mostV[most]!;
    level.leastA[bucket] = leastA;
    level.mostA[bucket] = mostA;
    level.leastC[bucket] = leastC;
    level.mostC[bucket] = mostC;
    level.mostFirst[bucket] = most < least || (most === least && below.mostFirst[most]) ? 1 : 0;
  }
  return level;
}

function builderOf(trace: Trace, discharge: Discharge | null): PyramidBuilder {
  const builder = new PyramidBuilder(trace.timeS.length, discharge?.sections ?? []);
  builder.add(trace);
  return builder;
}

/** The levels of a trace, finest first; the last one has at most `CHUNK_BUCKETS` buckets. */
export const pyramidLevels = (trace: Trace, discharge: Discharge | null): PyramidLevel[] =>
  builderOf(trace, discharge).levels();

/** A trace’s pyramid in chunks; none for a trace short enough to be drawn from its samples. */
export function buildPyramid(trace: Trace, discharge: Discharge | null): PyramidChunk[] {
  return trace.timeS.length <= PYRAMID_FROM_ROWS ? [] : builderOf(trace, discharge).chunks();
}
