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

/** A cell that leads too often, and why it is named. */
export interface StandingOut {
  /** Position in the string, from 0. */
  cell: number;
  side: 'highest' | 'lowest';
  share: number;
  why: string;
}

/** A cell that leads more than this share stands out; so does the leader of an uneven string. */
const LEADS_SHARE = 0.5;
const UNEVEN = 0.6;

/**
 * Entropy of shares over that of equal ones: 1 where all are alike, 0 where one has all.
 * @example evenness([0.5, 0.5]) // 1
 */
export const evenness = (shares: readonly number[]): number =>
  shares.length < 2
    ? 1
    : shares.reduce((sum, p) => (p > 0 ? sum - p * Math.log(p) : sum), 0) / Math.log(shares.length);

/** Time each cell led. */
export class LeadTimes {
  private readonly high: Float64Array;
  private readonly low: Float64Array;
  seconds = 0;

  constructor(private readonly cells: number) {
    this.high = new Float64Array(cells);
    this.low = new Float64Array(cells);
  }

  /** Cells as high, or as low, as one another share. */
  add(row: Float64Array, highest: number, lowest: number, seconds: number): void {
    let [highs, lows] = [0, 0];
    for (let c = 0; c < this.cells; c++) {
      if (row[c] === highest) highs++;
      if (row[c] === lowest) lows++;
    }
    for (let c = 0; c < this.cells; c++) {
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

/** Cells that lead too often, on either side (handbook, chapter 4, "Watching an assembled string"). */
export function standingOut({
  highest,
  lowest,
  evenHighest,
  evenLowest,
}: Omit<Leaders, 'seconds'>): StandingOut[] {
  const found: StandingOut[] = [];
  for (const [side, shares, even] of [
    ['highest', highest, evenHighest],
    ['lowest', lowest, evenLowest],
  ] as const) {
    const cell = shares.indexOf(Math.max(...shares));
    const share = shares[cell]!;
    if (share > LEADS_SHARE || even < UNEVEN)
      found.push({
        cell,
        side,
        share,
        why: `${side} for ${(100 * share).toFixed(0)} % of the time near full${share > LEADS_SHARE ? '' : ', and the others hardly take turns'}`,
      });
  }
  return found;
}
