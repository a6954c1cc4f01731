import { betaQuantile, mean } from '../statistics';

/** Cells of one lot that were judged, and how many met the claim. */
export interface LotShare {
  judged: number;
  met: number;
}

/** Cells of one lot are alike: so far they go together (house; handbook, chapter 5, "Supplier record"). */
export const ALIKE = 0.3;
/** From so many lots on it is estimated instead. */
export const LOTS_TO_ESTIMATE = 8;
/** Strength of the prior, in cells that stand for themselves. */
export const PRIOR_STRENGTH = 2;
/** From so many suppliers on it is estimated instead. */
export const SUPPLIERS_TO_ESTIMATE = 8;
const MOST_STRENGTH = 20;

const requireShare = ({ judged, met }: LotShare): void => {
  if (!(judged >= 0) || !(met >= 0) || met > judged)
    throw new RangeError(`Expected 0 ≤ met ≤ judged; found ${met} of ${judged}.`);
};

/**
 * How many cells that stand for themselves a lot of n alike ones is worth: n / (1 + (n − 1)·ρ).
 * @example effectiveCount(8, 0.3) // 2.5806
 */
export function effectiveCount(n: number, alike = ALIKE): number {
  return n > 0 ? n / (1 + (n - 1) * alike) : 0;
}

/** An estimate is drawn toward the house value as strongly as eight lots do, and goes no lower than this. */
const LEAST_ALIKE = 0.1;

/**
 * How far cells of one lot go together, as it is used: the estimate drawn toward the house value,
 * ρ = (8·0.3 + m·ρ̂) / (8 + m) with m lots, never below 0.1 (handbook, chapter 5).
 * @example drawnAlike(0, 8) // 0.15
 */
export const drawnAlike = (estimated: number, lots: number): number =>
  Math.max(LEAST_ALIKE, (LOTS_TO_ESTIMATE * ALIKE + lots * estimated) / (LOTS_TO_ESTIMATE + lots));

/**
 * How far cells of one lot go together beyond their supplier: one-way analysis of variance of met and
 * not met, lots within suppliers; null below eight lots, or where no supplier has two.
 * @returns 0 to 1.
 */
export function estimatedAlike(suppliers: readonly (readonly LotShare[])[]): number | null {
  const known = suppliers
    .map((lots) => lots.filter(({ judged }) => judged > 0))
    .filter((lots) => lots.length > 0);
  const lots = known.flat();
  const between = lots.length - known.length;
  const cells = lots.reduce((sum, { judged }) => sum + judged, 0);
  const within = cells - lots.length;
  if (lots.length < LOTS_TO_ESTIMATE || between < 1 || within < 1) return null;
  let [ofLots, ofCells, unequal] = [0, 0, 0];
  for (const own of known) {
    const n = own.reduce((sum, { judged }) => sum + judged, 0);
    const share = own.reduce((sum, { met }) => sum + met, 0) / n;
    for (const { judged, met } of own) {
      ofLots += judged * (met / judged - share) ** 2;
      ofCells += (met * (judged - met)) / judged;
      unequal += judged ** 2 / n;
    }
  }
  const [msb, msw] = [ofLots / between, ofCells / within];
  const size = (cells - unequal) / between;
  const total = msb + (size - 1) * msw;
  return total > 0 ? Math.min(1, Math.max(0, (msb - msw) / total)) : null;
}

/** What all suppliers together say of one nobody knows yet. */
export interface Prior {
  mean: number;
  strength: number;
}

interface Counted {
  n: number;
  met: number;
}

function counted(lots: readonly LotShare[], alike: number): Counted {
  let [n, met] = [0, 0];
  for (const lot of lots) {
    requireShare(lot);
    if (lot.judged === 0) continue;
    const own = effectiveCount(lot.judged, alike);
    n += own;
    met += (own * lot.met) / lot.judged;
  }
  return { n, met };
}

/** Strength by moments: what the suppliers differ by beyond what their few cells explain. */
function strengthOf(shares: readonly Counted[], center: number): number {
  const values = shares.map(({ n, met }) => met / n);
  const variance =
    values.reduce((sum, one) => sum + (one - center) ** 2, 0) / Math.max(1, values.length - 1);
  const spread = center * (1 - center);
  const byChance = mean(shares.map(({ n }) => spread / (n + 1)));
  const true_ = variance - byChance;
  if (!(true_ > 0)) return MOST_STRENGTH;
  return Math.min(MOST_STRENGTH, Math.max(PRIOR_STRENGTH, spread / true_ - 1));
}

/**
 * Mean of the suppliers’ shares, no nearer to none or all than half a supplier more would leave it: where
 * the one supplier that is known met all, the next one is not certain to.
 */
function cautiousMean(shares: readonly number[]): number {
  const edge = 0.5 / (shares.length + 1);
  return Math.min(1 - edge, Math.max(edge, mean([...shares])));
}

/** Share of claims met by a supplier, drawn toward the mean of all. */
export interface SupplierShare {
  /** Mean of what is known of it, 0 to 1. */
  share: number;
  /** 95 % interval. */
  low: number;
  high: number;
  lots: number;
  judged: number;
  met: number;
  /** What its cells are worth, standing for themselves. */
  effective: number;
  /** Parameters of the Beta distribution. */
  alpha: number;
  beta: number;
}

/** All suppliers beside each other. */
export interface SupplierShares {
  /** Null before any lot was judged. */
  prior: Prior | null;
  alike: number;
  /** Whether the likeness within lots was estimated. */
  isEstimated: boolean;
  /** In the order they were given; null for one without a judged cell before there is a prior. */
  shares: (SupplierShare | null)[];
}

/** A Beta distribution in the words of a share. */
const shareOf = (
  alpha: number,
  beta: number,
  own: Pick<SupplierShare, 'lots' | 'judged' | 'met' | 'effective'>,
): SupplierShare => ({
  ...own,
  alpha,
  beta,
  share: alpha / (alpha + beta),
  low: betaQuantile(0.025, alpha, beta),
  high: betaQuantile(0.975, alpha, beta),
});

/**
 * Shares of claims met, few lots shown as few: a lot of n cells counts as n / (1 + (n − 1)·ρ), and each
 * share is drawn toward the mean of all suppliers by a Beta prior (handbook, chapter 5, "Supplier
 * record").
 * @throws RangeError where more are met than judged.
 */
export function supplierShares(suppliers: readonly (readonly LotShare[])[]): SupplierShares {
  const estimated = estimatedAlike(suppliers);
  const judgedLots = suppliers.flat().filter(({ judged }) => judged > 0).length;
  const alike = estimated === null ? ALIKE : drawnAlike(estimated, judgedLots);
  const counts = suppliers.map((lots) => counted(lots, alike));
  const known = counts.filter(({ n }) => n > 0);
  if (known.length === 0)
    return {
      prior: null,
      alike,
      isEstimated: estimated !== null,
      shares: suppliers.map(() => null),
    };
  const center = cautiousMean(known.map(({ n, met }) => met / n));
  const strength =
    known.length >= SUPPLIERS_TO_ESTIMATE ? strengthOf(known, center) : PRIOR_STRENGTH;
  const [a, b] = [center * strength, (1 - center) * strength];
  return {
    prior: { mean: center, strength },
    alike,
    isEstimated: estimated !== null,
    shares: counts.map(({ n, met }, i) =>
      shareOf(a + met, b + n - met, {
        effective: n,
        lots: suppliers[i]!.filter(({ judged }) => judged > 0).length,
        judged: suppliers[i]!.reduce((sum, { judged }) => sum + judged, 0),
        met: suppliers[i]!.reduce((sum, one) => sum + one.met, 0),
      }),
    ),
  };
}

/** Place of a supplier among all, and whom it cannot be told apart from. */
export interface RankedSupplier {
  /** Position in what was given. */
  index: number;
  /** Others whose intervals overlap with its own. */
  alikeTo: number[];
}

/** Suppliers by their share, the best first; who overlaps cannot be told apart. */
export function rankedSuppliers(shares: readonly (SupplierShare | null)[]): RankedSupplier[] {
  const known = shares.flatMap((share, index) => (share ? [{ share, index }] : []));
  return [...known]
    .sort((a, b) => b.share.share - a.share.share || a.index - b.index)
    .map(({ share, index }) => ({
      index,
      alikeTo: known.flatMap((other) =>
        other.index !== index && other.share.low <= share.high && other.share.high >= share.low
          ? [other.index]
          : [],
      ),
    }));
}
