import { chargeStepAh, energyStepWh } from './charge-steps';
import type { Discharge } from './sections';
import type { Trace } from './trace';

/** Edges of a hole that agree within this share let its charge be bridged (handbook, chapter 3). */
const HOLE_AGREEMENT = 0.02;
/** Sums are kept at every so many rows; those between are added again where they are asked for. */
const STRIDE = 64;
/** A row at the cut-off counts when the next one is not above it by more than this, V. */
const CONFIRMED_V = 0.02;

/** A stretch without readings whose charge was taken from its edges. */
export interface Bridge {
  fromS: number;
  toS: number;
  ah: number;
  /** Relative difference of current on its two sides. */
  disagreement: number;
  currentA: number;
}

/** Smallest and largest rows of a section, and its first position in the discharge. */
interface Part {
  from: number;
  to: number;
  offset: number;
}

/**
 * Running charge and energy of a discharge from load-on, by the trapezoid rule or the counter.
 * Positions count its rows from 0 over all its sections.
 */
export class RunningTotals {
  readonly length: number;
  readonly bridged: Bridge[] = [];
  /** Position before the first hole that could not be bridged. */
  brokenAt: number | null = null;
  private readonly parts: Part[];
  private readonly ahMarks: Float64Array;
  private readonly whMarks: Float64Array;
  /** Those asked for already, by cut-off. */
  private readonly crossings = new Map<number, number>();

  /** @param leadOhm resistance of leads inside the logged voltage, Ω. */
  constructor(
    private readonly trace: Trace,
    discharge: Discharge,
    private readonly leadOhm: number,
  ) {
    let offset = 0;
    this.parts = discharge.sections.map(({ fromIndex, toIndex }) => {
      const part = { from: fromIndex, to: toIndex, offset };
      offset += toIndex - fromIndex + 1;
      return part;
    });
    this.length = offset;
    const marks = Math.ceil(offset / STRIDE) + 1;
    this.ahMarks = new Float64Array(marks);
    this.whMarks = new Float64Array(marks);
    this.integrate();
    this.findBridges();
  }

  private integrate(): void {
    const { timeS, voltageV, currentA, sums } = this.trace;
    let ah = 0;
    let wh = 0;
    for (const { from, to, offset } of this.parts) {
      for (let row = from; row <= to; row++) {
        if (row > from) {
          if (currentA && !sums) {
            const hours = (timeS[row]! - timeS[row - 1]!) / 3600;
            const before = Math.abs(currentA[row - 1]!);
            const current = Math.abs(currentA[row]!);
            const step = ((before + current) / 2) * hours;
            ah += step;
            wh +=
              ((before * voltageV[row - 1]! + current * voltageV[row]!) / 2) * hours +
              step * current * this.leadOhm;
          } else {
            ah += chargeStepAh(this.trace, row);
            wh += energyStepWh(this.trace, row) + this.leadStepWh(row);
          }
        }
        const position = offset + row - from;
        if ((position & (STRIDE - 1)) === 0) {
          this.ahMarks[position / STRIDE] = ah;
          this.whMarks[position / STRIDE] = wh;
        }
      }
    }
  }

  /** Load current at a row, A, not negative; from the counter's slope where there is none. */
  currentAt(row: number): number {
    const { timeS, currentA, counterAh } = this.trace;
    if (currentA) return Math.abs(currentA[row]!);
    const part = this.parts.find(({ from, to }) => row >= from && row <= to)!;
    const from = Math.max(part.from, row - 10);
    const to = Math.min(part.to, from + 20);
    const hours = (timeS[to]! - timeS[from]!) / 3600;
    return hours > 0 ? Math.abs(counterAh![to]! - counterAh![from]!) / hours : 0;
  }

  /** What the leads took between the row before and this one, Wh. */
  private leadStepWh(row: number): number {
    if (this.leadOhm === 0) return 0;
    const { sums } = this.trace;
    if (sums) return (sums.whPerOhm[row]! - sums.whPerOhm[row - 1]!) * this.leadOhm;
    return chargeStepAh(this.trace, row) * this.currentAt(row) * this.leadOhm;
  }

  private findBridges(): void {
    const { timeS, currentA, holes } = this.trace;
    if (holes.length === 0) return;
    const starts = new Set(holes.map((hole) => hole.fromS));
    for (const { from, to, offset } of this.parts)
      for (let row = from + 1; row <= to; row++) {
        if (!starts.has(timeS[row - 1]!)) continue;
        const after = this.currentAt(row);
        const before = currentA ? this.currentAt(row - 1) : after;
        const disagreement = Math.abs(after - before) / Math.max((after + before) / 2, 1e-12);
        const position = offset + row - from;
        if (disagreement > HOLE_AGREEMENT && currentA) this.brokenAt ??= position - 1;
        this.bridged.push({
          fromS: timeS[row - 1]!,
          toS: timeS[row]!,
          ah: this.ahAt(position) - this.ahAt(position - 1),
          disagreement,
          currentA: (before + after) / 2,
        });
      }
  }

  /** Row of the trace at a position. */
  rowAt(position: number): number {
    const part = this.partAt(position);
    return part.from + position - part.offset;
  }

  private partAt(position: number): Part {
    let found = this.parts[0]!;
    for (const part of this.parts) if (part.offset <= position) found = part;
    return found;
  }

  /** Charge from load-on to a position, Ah. */
  ahAt(position: number): number {
    return this.sumAt(position, this.ahMarks, (row) => chargeStepAh(this.trace, row));
  }

  /** Energy from load-on to a position, Wh, with what the leads took. */
  whAt(position: number): number {
    return this.sumAt(
      position,
      this.whMarks,
      (row) => energyStepWh(this.trace, row) + this.leadStepWh(row),
    );
  }

  private sumAt(position: number, marks: Float64Array, stepOf: (row: number) => number): number {
    const mark = Math.floor(position / STRIDE);
    let sum = marks[mark]!;
    for (let at = mark * STRIDE + 1; at <= position; at++) {
      const part = this.partAt(at);
      if (at > part.offset) sum += stepOf(part.from + at - part.offset);
    }
    return sum;
  }

  /** Voltage the cut-off is applied to, V: the lowest cell of a string, lead drop added. */
  cellVAt(position: number): number {
    return this.cellVOfRow(this.rowAt(position));
  }

  private cellVOfRow(row: number): number {
    const { voltageV, cellVoltagesV } = this.trace;
    const drop = this.leadOhm > 0 ? this.currentAt(row) * this.leadOhm : 0;
    if (cellVoltagesV.length === 0) return voltageV[row]! + drop;
    let lowest = Infinity;
    for (const cell of cellVoltagesV) lowest = Math.min(lowest, cell[row]!);
    return lowest + drop;
  }

  /** First position from 1 on at or below the cut-off that the next one confirms; −1 for none. */
  crossing(cutoffV: number): number {
    let position = this.crossings.get(cutoffV);
    if (position === undefined) {
      position = this.findCrossing(cutoffV);
      this.crossings.set(cutoffV, position);
    }
    return position;
  }

  private findCrossing(cutoffV: number): number {
    const plain = this.leadOhm === 0 && this.trace.cellVoltagesV.length === 0;
    const { voltageV } = this.trace;
    for (const { from, to, offset } of this.parts)
      for (let row = from; row <= to; row++) {
        const v = plain ? voltageV[row]! : this.cellVOfRow(row);
        if (v > cutoffV) continue;
        const position = offset + row - from;
        if (position === 0) continue;
        if (position + 1 >= this.length || this.cellVAt(position + 1) <= cutoffV + CONFIRMED_V)
          return position;
      }
    return -1;
  }
}
