import type { Chemistry } from '../../chemistry';
import { holeLimitS, rowAt } from '../trace';
import { type Leaders, LeadTimes, type StandingOut, standingOut } from './leaders';
import { SpreadTimes, UNITS_PER_V } from './spread-times';
import { isOfWire, requireString, type WatchedString } from './watched-string';

/** Which stretch is looked at, and by which class “near full” is told. */
export interface WatchOptions {
  chemistry: Chemistry;
  fromS?: number;
  toS?: number;
}

/** Spread of a string at one mean voltage of its cells. */
export interface SpreadAtMean {
  /** Middle of the step, V. */
  meanV: number;
  medianMv: number;
  highestMv: number;
  seconds: number;
}

/** A stretch of time near full: differences appear here. */
export interface NearFullStretch {
  fromS: number;
  toS: number;
  /** When the mean was highest, s, and how high, V. */
  peakS: number;
  peakV: number;
}

/** What watching a string tells (handbook, chapter 4, "Watching an assembled string"). */
export interface StringWatch {
  /** Time that was looked at, s; holes are not. */
  seconds: number;
  spread: { medianMv: number; highestMv: number; highestAtS: number };
  /** Longer than this without a reading was a hole, s: it is not looked at. */
  holeS: number;
  /** Where there were none, in order of time; the first hundred. */
  holes: { fromS: number; toS: number }[];
  /** Cells that showed what no cell in use does, and for how long: their wire is off, or not theirs. */
  offWires: { cell: number; seconds: number; showsV: number }[];
  /** Seconds by spread, in steps of 0.5 mV from 0 on, for `shareAbove`. */
  spreadSeconds: number[];
  byMean: SpreadAtMean[];
  leaders: Leaders;
  /** Leaders while the mean is near full; null where it never was. */
  nearFull: (Leaders & { standOut: StandingOut[] }) | null;
  /** Near full from this mean on, V. */
  aboveV: number;
  /** Stretches near full, in order of time. */
  fulls: NearFullStretch[];
}

/** Near full from here on, V: the flat class, and the 4.2 V class (handbook, chapter 4). */
export const NEAR_FULL_V: Readonly<Record<Chemistry, number>> = {
  LFP: 3.4,
  NMC: 4.05,
  LCO: 4.05,
  LMO: 4.05,
  LTO: 2.6,
  'sodium-ion': 3.75,
};
/** Spread at which balancing acts, mV, where nobody set another. */
export const BALANCE_MV = 10;
/** Rows averaged before cells are compared, so that the meter’s noise does not take turns. */
const SMOOTHED = 9;
/** Steps of the mean voltage, and how many there are. */
const MEAN_STEP_V = 0.025;
const MEAN_STEPS = 400;
/** Below near full for longer than this, the next time is another charge. */
const APART_S = 600;
const SHORTEST_S = 60;
const MOST_FULLS = 400;
const MOST_HOLES = 100;

/** Stretches near full, gathered row by row. */
class Fulls {
  readonly found: NearFullStretch[] = [];
  private now: NearFullStretch | null = null;

  add(atS: number, seconds: number, meanV: number): void {
    const { now } = this;
    if (now && atS - now.toS <= APART_S) {
      now.toS = atS + seconds;
      if (meanV > now.peakV) [now.peakS, now.peakV] = [atS, meanV];
      return;
    }
    this.end();
    this.now = { fromS: atS, toS: atS + seconds, peakS: atS, peakV: meanV };
  }

  end(): NearFullStretch[] {
    const { now } = this;
    if (now && now.toS - now.fromS >= SHORTEST_S && this.found.length < MOST_FULLS)
      this.found.push(now);
    this.now = null;
    return this.found;
  }
}

/** Everything a watch adds up on its one pass. */
class Tally {
  readonly spreads = new SpreadTimes();
  readonly byMean: (SpreadTimes | undefined)[] = new Array<SpreadTimes | undefined>(MEAN_STEPS);
  readonly all: LeadTimes;
  readonly full: LeadTimes;
  readonly fulls = new Fulls();
  highestAtS = 0;

  constructor(
    cells: number,
    private readonly aboveV: number,
  ) {
    this.all = new LeadTimes(cells);
    this.full = new LeadTimes(cells);
  }

  add(
    row: Float64Array,
    { highest, lowest, meanV }: { highest: number; lowest: number; meanV: number },
    { atS, seconds }: { atS: number; seconds: number },
  ): void {
    const spread = highest - lowest;
    if (spread > this.spreads.highest) this.highestAtS = atS;
    this.spreads.add(spread, seconds);
    const step = Math.max(0, Math.min(MEAN_STEPS - 1, (meanV / MEAN_STEP_V) | 0));
    (this.byMean[step] ??= new SpreadTimes()).add(spread, seconds);
    this.all.add(row, highest, lowest, seconds);
    if (meanV < this.aboveV) return;
    this.full.add(row, highest, lowest, seconds);
    this.fulls.add(atS, seconds, meanV);
  }

  told(): Omit<StringWatch, 'holeS' | 'holes' | 'offWires'> {
    const near = this.full.seconds > 0 ? this.full.told() : null;
    return {
      seconds: this.all.seconds,
      spread: {
        medianMv: this.spreads.medianMv(),
        highestMv: this.spreads.highestMv(),
        highestAtS: this.highestAtS,
      },
      spreadSeconds: this.spreads.steps(),
      byMean: this.byMean.flatMap((times, step) =>
        times
          ? [
              {
                meanV: (step + 0.5) * MEAN_STEP_V,
                medianMv: times.medianMv(),
                highestMv: times.highestMv(),
                seconds: times.total,
              },
            ]
          : [],
      ),
      leaders: this.all.told(),
      nearFull: near && { ...near, standOut: standingOut(near) },
      aboveV: this.aboveV,
      fulls: this.fulls.end(),
    };
  }
}

/**
 * Watches an assembled string: its spread against time and against mean voltage, and who leads, all
 * the time and near full. A fortnight of seconds of 16 cells is one pass.
 * @throws RangeError for fewer than two cells or rows, columns of unequal length, or a stretch of
 *   time that holds no readings.
 */
export function watchString(
  string: WatchedString,
  { chemistry, fromS = -Infinity, toS = Infinity }: WatchOptions,
): StringWatch {
  requireString(string);
  const { timeS, cellsV } = string;
  const cells = cellsV.length;
  // Nobody knows who led in a hole.
  const most = holeLimitS(timeS);
  const holes: StringWatch['holes'] = [];
  const off = cellsV.map((_, cell) => ({ cell, seconds: 0, showsV: NaN }));
  const tally = new Tally(cells, NEAR_FULL_V[chemistry]);
  const sums = new Float64Array(cells);
  const row = new Float64Array(cells);
  const half = SMOOTHED >> 1;
  const rows = timeS.length;
  const [first, last] = [rowAt(timeS, fromS), Math.min(rows - 1, rowAt(timeS, toS + 1e-9))];
  let from = Math.max(0, first - half);
  let to = from;
  for (let i = first; i < last; i++) {
    // Running sums over the rows around this one.
    const [wantFrom, wantTo] = [Math.max(0, i - half), Math.min(rows, i + half + 1)];
    for (; to < wantTo; to++) for (let c = 0; c < cells; c++) sums[c]! += cellsV[c]![to]!;
    for (; from < wantFrom; from++) for (let c = 0; c < cells; c++) sums[c]! -= cellsV[c]![from]!;
    const atS = timeS[i]!;
    const seconds = timeS[i + 1]! - atS;
    if (seconds > most && holes.length < MOST_HOLES) holes.push({ fromS: atS, toS: timeS[i + 1]! });
    if (!(seconds > 0) || seconds > most) continue;
    const scale = UNITS_PER_V / (to - from);
    let [highest, lowest, total] = [-Infinity, Infinity, 0];
    let wired = 0;
    for (let c = 0; c < cells; c++) {
      const own = cellsV[c]!;
      if (!(isOfWire(own[i]!) && isOfWire(own[wantFrom]!) && isOfWire(own[wantTo - 1]!))) {
        row[c] = NaN;
        if (!isOfWire(own[i]!)) {
          off[c]!.seconds += seconds;
          off[c]!.showsV = own[i]!;
        }
        continue;
      }
      const v = Math.round(sums[c]! * scale);
      row[c] = v;
      total += v;
      wired++;
      if (v > highest) highest = v;
      if (v < lowest) lowest = v;
    }
    // One cell alone has no spread.
    if (wired < 2) continue;
    tally.add(row, { highest, lowest, meanV: total / wired / UNITS_PER_V }, { atS, seconds });
  }
  if (tally.all.seconds === 0) throw new RangeError('Expected readings between these times.');
  return {
    ...tally.told(),
    holeS: most,
    holes,
    offWires: off.filter(({ seconds }) => seconds > 0),
  };
}
