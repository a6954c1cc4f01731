import type { Trace } from './trace';

/** A stretch of rows under load, inclusive. */
export interface RowRange {
  from: number;
  to: number;
}

/** A counter that disagrees with the current by more than this share is no witness. */
const MOST_APART = 0.02;

/**
 * What the instrument’s own charge counter can bear witness to: which way it counts, and how
 * finely. It is believed where it moved as the current did wherever there are readings.
 */
export class CounterWitness {
  private constructor(
    private readonly counterAh: Float64Array,
    private readonly sign: 1 | -1,
    /** Smallest step, Ah. */
    readonly resolutionAh: number,
  ) {}

  /**
   * @param holeRows rows that follow a hole. @returns null without a counter, with one that stands
   *   still, or with one that disagrees with the current outside the holes by more than 2 %.
   */
  static of(
    trace: Trace,
    parts: readonly RowRange[],
    holeRows: ReadonlySet<number>,
  ): CounterWitness | null {
    const { counterAh, currentA, timeS, sums } = trace;
    if (!counterAh) return null;
    let [counted, integrated] = [0, 0];
    for (const { from, to } of parts)
      for (let row = from + 1; row <= to; row++) {
        if (holeRows.has(row)) continue;
        counted += counterAh[row]! - counterAh[row - 1]!;
        if (sums) integrated += sums.ah[row]! - sums.ah[row - 1]!;
        else if (currentA)
          integrated +=
            ((Math.abs(currentA[row - 1]!) + Math.abs(currentA[row]!)) *
              (timeS[row]! - timeS[row - 1]!)) /
            7200;
      }
    const resolution = counterResolution(counterAh, parts);
    if (!(Math.abs(counted) > 0)) return null;
    const room = MOST_APART * integrated + 2 * resolution * (1 + holeRows.size);
    if (currentA && Math.abs(Math.abs(counted) - integrated) > room) return null;
    return new CounterWitness(counterAh, counted > 0 ? 1 : -1, resolution);
  }

  /**
   * Charge between two rows by the counter, Ah, not negative.
   * @param mostAh more than could have flowed. @returns null where it was reset, ran back or ran
   *   faster than the current could have.
   */
  between(before: number, after: number, mostAh: number): number | null {
    const ah = this.sign * (this.counterAh[after]! - this.counterAh[before]!);
    if (!Number.isFinite(ah) || ah < -this.resolutionAh / 2) return null;
    return ah > mostAh + 2 * this.resolutionAh ? null : Math.max(0, ah);
  }

  /**
   * Charge from load-on to the first row under load, Ah: what the counter gained over the row
   * before, or what it shows where it began from zero there.
   */
  sinceLoadOn(row: number, mostAh: number): number | null {
    const gained = row > 0 ? this.between(row - 1, row, mostAh) : null;
    if (gained !== null) return gained;
    const shown = this.sign * this.counterAh[row]!;
    return shown >= 0 && shown <= mostAh + 2 * this.resolutionAh ? shown : null;
  }
}

/** Smallest step a counter takes over the rows, Ah. */
export function counterResolution(
  counterAh: Float64Array,
  parts: readonly RowRange[] = [{ from: 0, to: counterAh.length - 1 }],
): number {
  let smallest = Infinity;
  for (const { from, to } of parts)
    for (let i = from + 1; i <= to; i++) {
      const step = Math.abs(counterAh[i]! - counterAh[i - 1]!);
      if (step > 1e-9 && step < smallest) smallest = step;
    }
  return Number.isFinite(smallest) ? Number(smallest.toPrecision(2)) : 0;
}
