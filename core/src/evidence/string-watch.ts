import type { Chemistry } from '../chemistry';

/** Voltages of all cells of a string against time, from any monitor. */
export interface WatchedString {
  /** s, ascending. */
  timeS: Float64Array;
  /** One array per cell, V, each as long as `timeS`. */
  cellsV: readonly Float64Array[];
}

/** Which stretch is looked at, and when a monitor would balance. */
export interface WatchOptions {
  chemistry: Chemistry;
  /** Difference between highest and lowest at which balancing would act, V; 10 mV by default. */
  balanceV?: number;
  fromS?: number;
  toS?: number;
}

/** Shares of time each cell leads, and how evenly they take turns. */
export interface Leaders {
  /** Share of the time each cell is the highest, and the lowest; each adds up to 1. */
  highest: number[];
  lowest: number[];
  /** Entropy of each share over ln n: 1 where all take turns alike, 0 where one leads always. */
  evenHighest: number;
  evenLowest: number;
  /** Time that was looked at, s. */
  seconds: number;
}

/** Spread of a string at one mean voltage of its cells. */
export interface SpreadAtMean {
  /** Middle of the step, V. */
  meanV: number;
  medianMv: number;
  highestMv: number;
  seconds: number;
}

/** What watching a string tells (handbook, chapter 4, "Watching an assembled string"). */
export interface StringWatch {
  seconds: number;
  spread: { medianMv: number; highestMv: number; highestAtS: number };
  byMean: SpreadAtMean[];
  /** Share of the time balancing would act. */
  balancingShare: number;
  leaders: Leaders;
  /** Leaders while the mean is near full, where differences appear; null where it never was. */
  nearFull: (Leaders & { aboveV: number; standOut: { cell: number; why: string }[] }) | null;
}

/** Near full from here on, V: the flat class, and the 4.2 V class (handbook, chapter 4). */
const NEAR_FULL_V: Readonly<Record<Chemistry, number>> = {
  LFP: 3.4,
  NMC: 4.05,
  LCO: 4.05,
  LMO: 4.05,
  LTO: 2.6,
  'sodium-ion': 3.75,
};
const BALANCE_V = 0.01;
/** A cell that leads more than this share stands out; so does the leader of an uneven string. */
const LEADS_SHARE = 0.5;
const UNEVEN = 0.6;
/** Rows averaged before cells are compared, so that the meter’s noise does not take turns. */
const SMOOTHED = 9;
/** A step without readings longer than this many usual ones is a hole: nobody knows who led in it. */
const HOLE_STEPS = 10;
/** Steps of the mean voltage, and of the spread’s histogram, V. */
const MEAN_STEP_V = 0.025;
const SPREAD_STEP_V = 0.0005;
const MOST_SPREAD_V = 1;

/** Time by spread: a histogram, so that a fortnight of seconds needs no sorting. */
class SpreadTimes {
  private readonly seconds = new Float64Array(Math.ceil(MOST_SPREAD_V / SPREAD_STEP_V) + 1);
  total = 0;
  highest = 0;

  add(spreadV: number, seconds: number): void {
    const at = Math.min(this.seconds.length - 1, Math.floor(spreadV / SPREAD_STEP_V));
    this.seconds[at]! += seconds;
    this.total += seconds;
    if (spreadV > this.highest) this.highest = spreadV;
  }

  /** Spread that half of the time lies below, V, to half a step. */
  median(): number {
    let sum = 0;
    for (let i = 0; i < this.seconds.length; i++) {
      sum += this.seconds[i]!;
      if (sum >= this.total / 2) return (i + 0.5) * SPREAD_STEP_V;
    }
    return 0;
  }
}

/** Time each cell led. */
class LeadTimes {
  private readonly high: Float64Array;
  private readonly low: Float64Array;
  seconds = 0;

  constructor(cells: number) {
    this.high = new Float64Array(cells);
    this.low = new Float64Array(cells);
  }

  /** Ties share. */
  add(row: Float64Array, highest: number, lowest: number, seconds: number): void {
    let [highs, lows] = [0, 0];
    for (const v of row) {
      if (v === highest) highs++;
      if (v === lowest) lows++;
    }
    for (let c = 0; c < row.length; c++) {
      if (row[c] === highest) this.high[c]! += seconds / highs;
      if (row[c] === lowest) this.low[c]! += seconds / lows;
    }
    this.seconds += seconds;
  }

  told(): Leaders {
    const shares = (times: Float64Array) => Array.from(times, (time) => time / this.seconds);
    const [highest, lowest] = [shares(this.high), shares(this.low)];
    return {
      highest,
      lowest,
      evenHighest: evenness(highest),
      evenLowest: evenness(lowest),
      seconds: this.seconds,
    };
  }
}

/**
 * Entropy of shares over that of equal ones: 1 where all are alike, 0 where one has all.
 * @example evenness([0.5, 0.5]) // 1
 */
export const evenness = (shares: readonly number[]): number =>
  shares.length < 2
    ? 1
    : shares.reduce((sum, p) => (p > 0 ? sum - p * Math.log(p) : sum), 0) / Math.log(shares.length);

/** Cells that lead too often, on either side. */
function standingOut({ highest, lowest, evenHighest, evenLowest }: Leaders) {
  const found: { cell: number; why: string }[] = [];
  for (const [side, shares, even] of [
    ['highest', highest, evenHighest],
    ['lowest', lowest, evenLowest],
  ] as const) {
    const most = shares.indexOf(Math.max(...shares));
    const share = shares[most]!;
    if (share > LEADS_SHARE || even < UNEVEN)
      found.push({
        cell: most,
        why: `${side} for ${(100 * share).toFixed(0)} % of the time near full${share > LEADS_SHARE ? '' : ', and the others hardly take turns'}`,
      });
  }
  return found;
}

/** Median step between rows, s, from the first few thousand. */
function usualStep(timeS: Float64Array): number {
  const steps = Array.from({ length: Math.min(4000, timeS.length - 1) }, (_, i) => {
    return timeS[i + 1]! - timeS[i]!;
  }).sort((a, b) => a - b);
  return steps[steps.length >> 1] ?? 0;
}

/**
 * Watches an assembled string: its spread against time and against mean voltage, when balancing would
 * act, and who leads, all the time and near full. A fortnight of seconds of 16 cells is one pass.
 * @throws RangeError for fewer than two cells or rows, or columns of unequal length.
 */
export function watchString(
  { timeS, cellsV }: WatchedString,
  { chemistry, balanceV = BALANCE_V, fromS = -Infinity, toS = Infinity }: WatchOptions,
): StringWatch {
  const cells = cellsV.length;
  if (cells < 2 || timeS.length < 2 || cellsV.some((one) => one.length !== timeS.length))
    throw new RangeError('Expected two cells and two rows at least, all columns as long as time.');
  const most = HOLE_STEPS * usualStep(timeS);
  const aboveV = NEAR_FULL_V[chemistry];
  const all = new LeadTimes(cells);
  const full = new LeadTimes(cells);
  const spreads = new SpreadTimes();
  const byMean = new Map<number, SpreadTimes>();
  const sums = new Float64Array(cells);
  const row = new Float64Array(cells);
  const half = SMOOTHED >> 1;
  let [from, to] = [0, 0];
  let [balancingS, highestAtS] = [0, 0];
  for (let i = 0; i + 1 < timeS.length; i++) {
    // Running sums over the rows around this one.
    const [wantFrom, wantTo] = [Math.max(0, i - half), Math.min(timeS.length, i + half + 1)];
    for (; to < wantTo; to++) for (let c = 0; c < cells; c++) sums[c]! += cellsV[c]![to]!;
    for (; from < wantFrom; from++) for (let c = 0; c < cells; c++) sums[c]! -= cellsV[c]![from]!;
    const seconds = timeS[i + 1]! - timeS[i]!;
    if (timeS[i]! < fromS || timeS[i]! > toS || !(seconds > 0) || seconds > most) continue;
    let [highest, lowest, total] = [-Infinity, Infinity, 0];
    for (let c = 0; c < cells; c++) {
      // To a hundredth of a millivolt: what is left of adding up is no lead.
      const v = Math.round((sums[c]! / (to - from)) * 1e5) / 1e5;
      row[c] = v;
      total += v;
      if (v > highest) highest = v;
      if (v < lowest) lowest = v;
    }
    const spread = highest - lowest;
    const mean = total / cells;
    if (spread > spreads.highest) highestAtS = timeS[i]!;
    spreads.add(spread, seconds);
    if (spread > balanceV) balancingS += seconds;
    const step = Math.floor(mean / MEAN_STEP_V);
    let atMean = byMean.get(step);
    if (!atMean) byMean.set(step, (atMean = new SpreadTimes()));
    atMean.add(spread, seconds);
    all.add(row, highest, lowest, seconds);
    if (mean >= aboveV) full.add(row, highest, lowest, seconds);
  }
  if (all.seconds === 0) throw new RangeError('Expected readings between these times.');
  const near = full.seconds > 0 ? full.told() : null;
  return {
    seconds: all.seconds,
    spread: {
      medianMv: 1000 * spreads.median(),
      highestMv: 1000 * spreads.highest,
      highestAtS,
    },
    byMean: [...byMean]
      .sort(([a], [b]) => a - b)
      .map(([step, times]) => ({
        meanV: (step + 0.5) * MEAN_STEP_V,
        medianMv: 1000 * times.median(),
        highestMv: 1000 * times.highest,
        seconds: times.total,
      })),
    balancingShare: balancingS / all.seconds,
    leaders: all.told(),
    nearFull: near && { ...near, aboveV, standOut: standingOut(near) },
  };
}

/** A string thinned for a picture: of each of so many stretches the lowest and highest of each cell. */
export interface ThinnedString {
  /** Beginning of each stretch, s. */
  timeS: Float64Array;
  /** Per cell: lowest and highest of each stretch, V; NaN where it holds no reading. */
  lowV: Float32Array[];
  highV: Float32Array[];
}

/**
 * Thins a string so that nothing a picture could show is lost: the extremes of each stretch stay.
 * @param points stretches, at most.
 */
export function thinnedString(
  { timeS, cellsV }: WatchedString,
  { fromS, toS, points }: { fromS: number; toS: number; points: number },
): ThinnedString {
  const width = (toS - fromS) / points;
  const edges = Float64Array.from({ length: points }, (_, i) => fromS + i * width);
  const empty = () => new Float32Array(points).fill(NaN);
  const [lowV, highV] = [cellsV.map(empty), cellsV.map(empty)];
  for (let i = 0; i < timeS.length; i++) {
    if (timeS[i]! < fromS || timeS[i]! > toS) continue;
    const at = Math.min(points - 1, Math.floor((timeS[i]! - fromS) / width));
    for (let c = 0; c < cellsV.length; c++) {
      const v = cellsV[c]![i]!;
      if (!(v >= lowV[c]![at]!)) lowV[c]![at] = v;
      if (!(v <= highV[c]![at]!)) highV[c]![at] = v;
    }
  }
  return { timeS: edges, lowV, highV };
}
