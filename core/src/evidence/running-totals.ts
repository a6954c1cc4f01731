import { trapezoid } from '../units';
import { chargeStepAh, energyStepWh } from './charge-steps';
import { CounterWitness } from './counter-witness';
import { holeRowsOf, holesInPauses, type HoleStep, holesWithin } from './holes';
import { type LoadEdge, loadEdge } from './load-edge';
import type { Discharge } from './sections';
import { longIntervals } from './long-intervals';
import type { Trace } from './trace';

/** Sums are kept at every so many rows; those between are added again where they are asked for. */
const STRIDE = 64;
/** A row at the cut-off counts when the next one is not above it by more than this, V. */
const CONFIRMED_V = 0.02;

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
  /** Holes inside the stretches under load, with their position: that of the row after. */
  readonly holes: readonly (HoleStep & { position: number })[];
  /** Where load came on and went off: at load-on, and at both ends of every pause. */
  readonly edges: readonly (LoadEdge & { position: number })[];
  /** What the counter gained after the last row under load, Ah; 0 where it says nothing. */
  tailAh = 0;
  /** Charge beyond the usual interval in longer ones, by position, Ah. */
  private readonly gaps: readonly { position: number; ah: number }[];
  private readonly edgeAh = new Map<number, LoadEdge>();
  private readonly holeRows = new Map<number, HoleStep>();
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
    const ranges = this.parts.map(({ from, to }) => ({ from, to }));
    const within = holesWithin(trace, ranges, leadOhm);
    for (const hole of within) this.holeRows.set(hole.row, hole);
    this.holes = [...within, ...holesInPauses(trace, ranges)]
      .map((hole) => ({ ...hole, position: this.positionOf(hole.row) }))
      .sort((a, b) => a.position - b.position);
    this.edges = this.findEdges(ranges);
    this.gaps = longIntervals(trace, ranges, new Set(this.holeRows.keys())).map(({ row, ah }) => ({
      position: this.positionOf(row),
      ah,
    }));
    this.ahMarks = new Float64Array(Math.ceil(offset / STRIDE) + 1);
    this.whMarks = new Float64Array(this.ahMarks.length);
    this.integrate();
  }

  private positionOf(row: number): number {
    const part = this.parts.find(({ from, to }) => row >= from && row <= to)!;
    return part.offset + row - part.from;
  }

  /** Load-on of the first part, and both ends of each pause; counted before the row they lead to. */
  private findEdges(ranges: { from: number; to: number }[]): (LoadEdge & { position: number })[] {
    const { trace } = this;
    const witness = trace.counterAh
      ? CounterWitness.of(trace, ranges, holeRowsOf(trace, ranges))
      : null;
    const edges: (LoadEdge & { position: number })[] = [];
    this.parts.forEach(({ from, offset }, i) => {
      const before = i > 0 ? this.parts[i - 1]!.to : -1;
      if (before >= 0)
        edges.push({ ...loadEdge(trace, before, before + 1, witness), position: offset });
      // Rows without current may be too few for an interval of their own on both sides.
      const outer = from - 1 > before ? from - 1 : -1;
      edges.push({ ...loadEdge(trace, from, outer, witness), position: offset });
    });
    const last = this.parts[this.parts.length - 1]?.to ?? -1;
    if (witness && last >= 0 && last + 1 < trace.timeS.length) {
      const tail = loadEdge(trace, last, last + 1, witness);
      if (tail.by === 'counter') this.tailAh = tail.ah;
    }
    for (const edge of edges) {
      const known = this.edgeAh.get(edge.position);
      this.edgeAh.set(edge.position, known ? { ...edge, ah: known.ah + edge.ah } : edge);
    }
    return edges;
  }

  /** Root sum of squares of what gaps up to a position may have missed, Ah, with their number. */
  gapsUpTo(position: number): { ah: number; count: number } {
    const { sums } = this.trace;
    if (sums) {
      let squares = 0;
      for (const part of this.parts) {
        if (part.offset > position) continue;
        const to = Math.min(part.to, part.from + position - part.offset);
        squares += sums.gapAh2[to]! - sums.gapAh2[part.from]!;
      }
      return { ah: Math.sqrt(Math.max(0, squares)), count: NaN };
    }
    const own = this.gaps.filter((gap) => gap.position <= position);
    return { ah: Math.hypot(...own.map(({ ah }) => ah)), count: own.length };
  }

  private integrate(): void {
    const { timeS, voltageV, currentA, sums } = this.trace;
    const holes = [...this.holeRows.keys()];
    let nextHole = 0;
    let ah = 0;
    let wh = 0;
    for (const { from, to, offset } of this.parts) {
      ah += this.edgeAh.get(offset)?.ah ?? 0;
      wh += this.edgeWh(offset);
      for (let row = from; row <= to; row++) {
        if (row > from) {
          if (row === holes[nextHole]) {
            nextHole++;
            ah += this.stepAh(row);
            wh += this.stepWh(row);
          } else if (currentA && !sums) {
            const hours = (timeS[row]! - timeS[row - 1]!) / 3600;
            const before = Math.abs(currentA[row - 1]!);
            const current = Math.abs(currentA[row]!);
            const step = trapezoid(before, current, hours);
            ah += step;
            wh +=
              trapezoid(before * voltageV[row - 1]!, current * voltageV[row]!, hours) +
              step * current * this.leadOhm;
          } else {
            ah += this.stepAh(row);
            wh += this.stepWh(row);
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

  /** Charge between the row before and this one, Ah: of a hole what may be counted. */
  private stepAh(row: number): number {
    return this.holeRows.get(row)?.ah ?? chargeStepAh(this.trace, row);
  }

  private stepWh(row: number): number {
    const hole = this.holeRows.get(row);
    if (hole) return hole.wh + hole.ah * this.currentAt(row) * this.leadOhm;
    return energyStepWh(this.trace, row) + this.leadStepWh(row);
  }

  /** Energy that goes with the charge of the edges before a part, Wh. */
  private edgeWh(offset: number): number {
    const edge = this.edgeAh.get(offset);
    return edge ? edge.ah * this.meanVAt(this.partAt(offset).from, edge.currentA) : 0;
  }

  private meanVAt(row: number, currentA: number): number {
    return this.trace.voltageV[row]! + currentA * this.leadOhm;
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
    return this.sumAt(position, this.ahMarks, 'ah');
  }

  /** Energy from load-on to a position, Wh, with what the leads took. */
  whAt(position: number): number {
    return this.sumAt(position, this.whMarks, 'wh');
  }

  private sumAt(position: number, marks: Float64Array, kind: 'ah' | 'wh'): number {
    const mark = Math.floor(position / STRIDE);
    let sum = marks[mark]!;
    for (let at = mark * STRIDE + 1; at <= position; at++) {
      const part = this.partAt(at);
      if (at > part.offset) {
        const row = part.from + at - part.offset;
        sum += kind === 'ah' ? this.stepAh(row) : this.stepWh(row);
      } else sum += kind === 'ah' ? (this.edgeAh.get(at)?.ah ?? 0) : this.edgeWh(at);
    }
    return sum;
  }

  /** Charge at each position from `from` to `to`, inclusive, Ah. */
  ahOver(from: number, to: number): Float64Array {
    const ah = new Float64Array(to - from + 1);
    ah[0] = this.ahAt(from);
    for (let at = from + 1; at <= to; at++) {
      const part = this.partAt(at);
      ah[at - from] =
        ah[at - from - 1]! +
        (at > part.offset
          ? this.stepAh(part.from + at - part.offset)
          : (this.edgeAh.get(at)?.ah ?? 0));
    }
    return ah;
  }

  /** Positions next to `position` that no hole and no pause parts from it, inclusive. */
  around(position: number): { from: number; to: number } {
    const part = this.partAt(position);
    const next = this.parts.find(({ offset }) => offset > part.offset);
    let from = part.offset;
    let to = (next?.offset ?? this.length) - 1;
    for (const hole of this.holes) {
      if (hole.position <= position) from = Math.max(from, hole.position);
      else to = Math.min(to, hole.position - 1);
    }
    return { from, to };
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
