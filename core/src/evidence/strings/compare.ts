import type { StringWatch } from './watch';

/** One cell’s leading in two periods. */
export interface LeadChange {
  /** Position in the string, from 0. */
  cell: number;
  side: 'highest' | 'lowest';
  /** Share of the time near full, in each. */
  before: number;
  after: number;
  change: 'no longer stands out' | 'stands out now' | 'still stands out';
}

/** Two periods of one string side by side. */
export interface PeriodChange {
  /** Median spread at means both periods have seen, mV each. */
  atMeans: { meanV: number; beforeMv: number; afterMv: number }[];
  leads: LeadChange[];
  /** Why leaders cannot be compared; null where they can. */
  refused: string | null;
}

/** Less time than this near full, or at a mean, is no basis to compare by, s. */
const BASIS_S = 300;

/**
 * Compares two periods of the same string: like with like, spread at the same mean voltage and
 * leaders near full only (handbook, chapter 4, "Watching an assembled string").
 * @throws RangeError for strings of unequal numbers of cells.
 */
export function comparePeriods(before: StringWatch, after: StringWatch): PeriodChange {
  if (before.leaders.highest.length !== after.leaders.highest.length)
    throw new RangeError('Expected the same cells in both periods.');
  const atMeans = before.byMean.flatMap(({ meanV, medianMv, seconds }) => {
    const other = after.byMean.find((one) => Math.abs(one.meanV - meanV) < 1e-9);
    return other && seconds >= BASIS_S && other.seconds >= BASIS_S
      ? [{ meanV, beforeMv: medianMv, afterMv: other.medianMv }]
      : [];
  });
  const short = [before, after].findIndex(({ nearFull }) => (nearFull?.seconds ?? 0) < BASIS_S);
  if (short >= 0)
    return {
      atMeans,
      leads: [],
      refused: `The ${short === 0 ? 'first' : 'second'} period was near full (mean at or above ${before.aboveV.toFixed(2)} V) for less than ${BASIS_S / 60} minutes: who leads there cannot be compared.`,
    };
  const [a, b] = [before.nearFull!, after.nearFull!];
  const leads = (['highest', 'lowest'] as const).flatMap((side) => {
    const cells = [a, b].flatMap(({ standOut }) =>
      standOut.filter((one) => one.side === side).map(({ cell }) => cell),
    );
    return [...new Set(cells)].map((cell): LeadChange => {
      const [was, is] = [a, b].map(({ standOut }) =>
        standOut.some((one) => one.side === side && one.cell === cell),
      );
      return {
        cell,
        side,
        before: a[side][cell]!,
        after: b[side][cell]!,
        change: was ? (is ? 'still stands out' : 'no longer stands out') : 'stands out now',
      };
    });
  });
  return { atMeans, leads, refused: null };
}
