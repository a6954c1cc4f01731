import { mean, standardDeviation, studentQuantile } from '../statistics';

/** A lot that ran its course: energy in good cells over the energy that was claimed. */
export interface LotYield {
  /** 0 and up; 1 where all that was claimed is there, in good cells. */
  good: number;
}

/** Lots of all others count like so many of the supplier’s own. */
const OTHERS_COUNT = 2;
/** Lots scatter so much where fewer than three are known: a house default. */
const USUAL_SCATTER = 0.15;

/** What share of the claimed energy is to be expected in good cells of the next lot. */
export interface ExpectedYield {
  good: number;
  /** 95 % of such lots lie within, as far as it is known. */
  low: number;
  high: number;
  ownLots: number;
  allLots: number;
}

/**
 * What the next lot of a supplier is to hold in good cells, drawn toward what all lots held: the own
 * mean with weight n, the mean of all with weight 2; the interval is that of one more lot (Student’s t).
 * Null before any lot is known.
 * @param own good shares of this supplier’s lots. @param all of every lot, the own ones among them.
 */
export function expectedYield(
  own: readonly number[],
  all: readonly number[],
): ExpectedYield | null {
  if (all.length === 0) return null;
  const weight = own.length + OTHERS_COUNT;
  const good =
    ((own.length > 0 ? mean([...own]) * own.length : 0) + OTHERS_COUNT * mean([...all])) / weight;
  const scatter = all.length >= 3 ? Math.max(standardDeviation([...all]), 0.01) : USUAL_SCATTER;
  const half =
    studentQuantile(0.975, Math.max(2, all.length - 1)) * scatter * Math.sqrt(1 + 1 / weight);
  return {
    good,
    low: Math.max(0, good - half),
    high: good + half,
    ownLots: own.length,
    allLots: all.length,
  };
}

/** What a kWh in good cells is to cost, cents; `high` is null where such a lot may hold none. */
export interface ExpectedCost {
  cents: number;
  low: number;
  high: number | null;
}

/**
 * Landed cost over the energy that is to be expected in good cells.
 * @param claimedKwh cells × claimed Ah × nominal V / 1000, above 0.
 * @example expectedCost(100_000, 10, { good: 0.8, low: 0.5, high: 1, ownLots: 2, allLots: 5 }).cents // 12500
 */
export function expectedCost(
  landedCents: number,
  claimedKwh: number,
  { good, low, high }: ExpectedYield,
): ExpectedCost | null {
  if (!(claimedKwh > 0)) throw new RangeError('Expected a claimed energy above 0 kWh.');
  if (!(good > 0)) return null;
  const per = (share: number) => landedCents / (claimedKwh * share);
  return { cents: per(good), low: per(high), high: low > 0 ? per(low) : null };
}

/**
 * What we would pay: the price at which a kWh in good cells is to cost what the lab wants it to.
 * @param targetCents a kWh in good cells. @param besideCents what comes on top of the price: freight,
 *   duty, fees, own time.
 * @returns cents, 0 where even a gift costs too much.
 */
export function worthPaying(
  targetCents: number,
  claimedKwh: number,
  good: number,
  besideCents: number,
): number {
  return Math.max(0, Math.round(targetCents * claimedKwh * good - besideCents));
}

/** What a sample of a lot tells before the rest is tested. */
export interface SampleTells {
  sample: number;
  /** Chance to find a short cell where one in ten is short. */
  findsOneInTen: number;
  /** Half width of the 95 % interval of the share, at the share that is expected. */
  halfWidth: number;
}

/**
 * What samples of a lot tell: finding a fault that one cell in ten has, without putting back, and how
 * near the share is known then.
 * @param expected share of cells that meet the claim, 0 to 1.
 */
export function whatSamplesTell(
  lot: number,
  expected: number,
  sizes: readonly number[] = [5, 8, 13, 20, 32, 50],
): SampleTells[] {
  const short = Math.max(1, Math.round(lot / 10));
  return sizes
    .filter((n) => n < lot)
    .map((n) => {
      let none = 1;
      for (let i = 0; i < n; i++) none *= Math.max(0, lot - short - i) / (lot - i);
      const finite = Math.sqrt((lot - n) / Math.max(1, lot - 1));
      // Wilson’s interval: it does not shrink to nothing where all or none is expected.
      const z2 = 1.96 ** 2;
      const spread = Math.sqrt((expected * (1 - expected)) / n + z2 / (4 * n * n));
      return {
        sample: n,
        findsOneInTen: 1 - none,
        halfWidth: ((1.96 * spread) / (1 + z2 / n)) * finite,
      };
    });
}
