import { intervalCrossing, lineCrossing, voltageNoise } from './crossing';
import { endsCount } from './holes';
import type { RunningTotals } from './running-totals';
import { intervalOf, type Trace } from './trace';

/** Above the cut-off by no more than this, an end counts as reached (handbook, chapter 3), V. */
const END_TOLERANCE_V = 0.01;
/** An end above the cut-off is not drawn out further than this share of the charge. */
const MOST_DRAWN_OUT = 0.02;

/** How a discharge ended against one cut-off. */
export interface End {
  /** Position in the totals up to which rows count. */
  at: number;
  ah: number;
  wh: number;
  atS: number;
  /**
   * `inHole`: the voltage fell through the cut-off where there are no readings; `broken`: nobody
   * says what flowed in a hole, and the cell may have been charged in it.
   */
  kind: 'crossed' | 'extrapolated' | 'close' | 'above' | 'broken' | 'inHole';
  /** Time past the last row that was added, s. */
  beyondS: number;
  /** |dQ/dV| by a line laid over noisy rows, Ah/V; null where rows speak for themselves. */
  perVolt: number | null;
  /** Standard error of the crossing from the noise of the voltage, Ah. */
  noiseAh: number;
  /** Limits from the bend of the curve, Ah. */
  bendAh: number;
  /** Limits of charge drawn out beyond the last row, Ah. */
  beyondAh: number;
  /** Rows a line was laid over. */
  lineRows: number;
}

const BARE = { beyondS: 0, perVolt: null, noiseAh: 0, bendAh: 0, beyondAh: 0, lineRows: 0 };

/** Position of the last row at or before a charge. */
function positionOfCharge(totals: RunningTotals, ah: number): number {
  let [low, high] = [0, totals.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (totals.ahAt(middle) <= ah) low = middle;
    else high = middle - 1;
  }
  return low;
}

class EndFinder {
  private readonly last: number;
  private readonly resolutionV: number;

  constructor(
    private readonly trace: Trace,
    private readonly totals: RunningTotals,
    private readonly cutoffV: number,
  ) {
    this.last = totals.length - 1;
    this.resolutionV = 10 ** -trace.decimals.voltageV;
  }

  find(): End {
    const { totals, cutoffV } = this;
    const reached = totals.crossing(cutoffV);
    if (reached > 0 && totals.holes.some(({ position }) => position === reached))
      return this.plain(reached - 1, 'inHole');
    const broken = totals.holes.find(({ witness }) => endsCount(witness));
    if (broken && (reached === -1 || reached >= broken.position))
      return this.plain(broken.position - 1, 'broken');
    return reached > 0 ? this.crossed(reached) : this.endedBefore();
  }

  private timeAt(position: number): number {
    return this.trace.timeS[this.totals.rowAt(position)]!;
  }

  private plain(at: number, kind: End['kind']): End {
    const { totals } = this;
    return { ...BARE, at, ah: totals.ahAt(at), wh: totals.whAt(at), atS: this.timeAt(at), kind };
  }

  /** Up to a charge that lies between rows, at the voltage of the cut-off. */
  private upTo(ah: number, kind: End['kind']): End {
    const { totals, cutoffV } = this;
    const at = positionOfCharge(totals, ah);
    const next = Math.min(at + 1, this.last);
    const step = totals.ahAt(next) - totals.ahAt(at);
    const share = step > 0 ? (ah - totals.ahAt(at)) / step : 0;
    const [fromV, rest] = [totals.cellVAt(at), ah - totals.ahAt(at)];
    return {
      ...BARE,
      at,
      ah,
      wh: totals.whAt(at) + (rest * (fromV + cutoffV)) / 2,
      atS: this.timeAt(at) + share * (this.timeAt(next) - this.timeAt(at)),
      kind,
    };
  }

  private crossed(reached: number): End {
    const { totals, cutoffV } = this;
    const noiseV = voltageNoise(totals, reached, this.resolutionV);
    const fall = totals.cellVAt(reached - 1) - totals.cellVAt(reached);
    // The rows fall by more than their noise from one to the next: the interval speaks for itself.
    if (fall >= 12 * noiseV && this.isFirst(reached)) return this.inInterval(reached, noiseV);
    const line = lineCrossing(totals, this.middle(reached), cutoffV, noiseV);
    if (!line) return this.inInterval(reached, noiseV);
    const lastAh = totals.ahAt(totals.around(reached).to);
    const beyond = line.ah - lastAh;
    const parts = {
      perVolt: line.perVolt,
      noiseAh: line.noiseAh,
      bendAh: line.bendAh,
      lineRows: line.rows,
    };
    if (beyond <= 0) return { ...this.upTo(line.ah, 'crossed'), ...parts };
    // A tester that stopped at the first low reading stopped before the voltage was there.
    return { ...this.drawnOut(line.lastV, line.perVolt), ...parts };
  }

  /** The only row that falls through: the voltage was clearly above before and is below after. */
  private isFirst(reached: number): boolean {
    const { from } = this.totals.around(reached);
    const clear = this.cutoffV + 0.5 * (this.totals.cellVAt(reached - 1) - this.cutoffV);
    for (let at = Math.max(from, reached - 5); at < reached - 1; at++)
      if (this.totals.cellVAt(at) < clear) return false;
    return true;
  }

  /** Between the first row at or below the cut-off and the last one above it. */
  private middle(reached: number): number {
    const { to } = this.totals.around(reached);
    let lastAbove = reached - 1;
    for (let at = reached; at <= to; at++)
      if (this.totals.cellVAt(at) > this.cutoffV) lastAbove = at;
    return Math.round((reached + Math.max(reached, lastAbove)) / 2);
  }

  private inInterval(reached: number, noiseV: number): End {
    const { totals, cutoffV } = this;
    const { share, bendShare } = intervalCrossing(totals, reached, cutoffV);
    const between = (before: number, after: number) => before + share * (after - before);
    const step = totals.ahAt(reached) - totals.ahAt(reached - 1);
    const fall = totals.cellVAt(reached - 1) - totals.cellVAt(reached);
    return {
      ...BARE,
      at: reached - 1,
      ah: between(totals.ahAt(reached - 1), totals.ahAt(reached)),
      wh: between(totals.whAt(reached - 1), totals.whAt(reached)),
      atS: between(this.timeAt(reached - 1), this.timeAt(reached)),
      kind: 'crossed',
      noiseAh: fall > 0 ? Math.min(step, (noiseV / fall) * step) : step,
      bendAh: bendShare * step,
    };
  }

  /** The load went off before the voltage was at the cut-off. */
  private endedBefore(): End {
    const { totals, cutoffV, last } = this;
    const noiseV = voltageNoise(totals, last, this.resolutionV);
    const { from } = totals.around(last);
    const lastFall = last > from ? totals.cellVAt(last - 1) - totals.cellVAt(last) : 0;
    const line = lastFall < 12 * noiseV ? lineCrossing(totals, last, cutoffV, noiseV) : null;
    if (line) {
      const end = this.drawnOut(line.lastV, line.perVolt);
      return end.kind === 'above'
        ? end
        : { ...end, perVolt: line.perVolt, noiseAh: line.noiseAh, lineRows: line.rows };
    }
    const step = last > from ? totals.ahAt(last) - totals.ahAt(last - 1) : 0;
    return this.drawnOut(totals.cellVAt(last), lastFall > 0 ? step / lastFall : null);
  }

  /** At least what the instrument went on to count after the last row under load, too. */
  private withTail(end: End): End {
    const { tailAh } = this.totals;
    return tailAh > 0
      ? // Its energy is at least that at the cut-off.
        { ...end, ah: end.ah + tailAh, wh: end.wh + tailAh * this.cutoffV }
      : end;
  }

  /**
   * Beyond the last row at its slope, where that leads to the cut-off within one interval, or where
   * the end was within 10 mV of it.
   */
  private drawnOut(lastV: number, perVolt: number | null): End {
    const { totals, last, trace, cutoffV } = this;
    const end = this.plain(last, 'above');
    const above = lastV - cutoffV;
    const amps = totals.currentAt(totals.rowAt(last));
    const interval = intervalOf(trace);
    const untilNextS = (trace.timeS[totals.rowAt(last) + 1] ?? Infinity) - this.timeAt(last);
    const mostAh = (amps * Math.min(interval, untilNextS)) / 3600;
    const wantedAh = perVolt === null ? Infinity : Math.max(0, above) * perVolt;
    const withinInterval =
      perVolt !== null && above - this.resolutionV / 2 <= (amps * interval) / 3600 / perVolt;
    const isClose = above <= END_TOLERANCE_V;
    if (!withinInterval && !isClose) return this.withTail(end);
    const gain = Math.min(wantedAh, isClose && !withinInterval ? Infinity : mostAh);
    if (!Number.isFinite(gain)) return { ...end, kind: 'close', beyondAh: mostAh };
    if (gain > Math.max(mostAh, MOST_DRAWN_OUT * end.ah)) return this.withTail(end);
    const beyondS = amps > 0 ? (gain * 3600) / amps : 0;
    return {
      ...end,
      ah: end.ah + gain,
      wh: end.wh + (gain * (lastV + cutoffV)) / 2,
      atS: end.atS + beyondS,
      kind: withinInterval ? 'extrapolated' : 'close',
      beyondS,
      // One interval, or all that was drawn out where that is more.
      beyondAh: Math.max((amps * interval) / 3600, gain),
    };
  }
}

/**
 * Where a discharge ends against a cut-off (handbook, chapter 3, *Capacity and energy*).
 * @param cutoffV V, above 0.
 */
export function findEnd(trace: Trace, totals: RunningTotals, cutoffV: number): End {
  return new EndFinder(trace, totals, cutoffV).find();
}

/** Whether an end only says that the cell holds at least so much. */
export const isOpenEnd = ({ kind }: Pick<End, 'kind'>): boolean =>
  kind === 'above' || kind === 'broken' || kind === 'inHole';
