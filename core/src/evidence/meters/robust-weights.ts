import { type Design, type Solution, standardised } from './joint-design';

/** Tuning of the bisquare (handbook, chapter 3), of the first rounds’ Huber weights, and rounds. */
const BISQUARE = 4.685;

const HUBER = 1.345;

/** Runs of one cell are not believed to scatter by less; closer to the others than this rejects nobody. */
export const LEAST_SCALE = 0.0015;

/** With fewer degrees of freedom nothing tells a wild result from a lone one: all count, and the scatter says so. */
export const ROBUST_FROM = 6;

/** From this round on the scale stays, so that the rounds come to rest. */
export const SCALE_ROUNDS = 14;

/** Scatter taken for a run where nothing tells it, as a share. */
export const HOUSE_SCATTER = 0.005;

const HOUSE_DEGREES = 2;

/** A factor counts as fitted where the runs narrowed the house value to this share of its u. */
export const NARROWED = 0.9;

/** Robust weights of scaled residuals. */
export const huber = (u: number): number => (u <= HUBER ? 1 : HUBER / u);

/**
 * Weight of a residual in scales (Tukey's bisquare): 1 at none, 0 beyond the bound.
 * @example bisquare(0) // 1
 */
export const bisquare = (u: number): number => (u < BISQUARE ? (1 - (u / BISQUARE) ** 2) ** 2 : 0);

/** What runs scatter about a fit, and by how many degrees of freedom that is known. */
export interface Scatter {
  variance: number;
  degrees: number;
}

/**
 * Variance of one result about the fit, over the rows that count. Where few degrees of freedom
 * are left a house scatter of 0.5 % counts as two more.
 * @param scale of the robust fit; null for plain least squares.
 */
export function scatterOf(
  design: Design,
  solution: Solution,
  own: readonly number[],
  { degrees, scale }: { degrees: number; scale: number | null },
): Scatter {
  if (scale !== null) return { variance: robustVariance(design, solution, own, scale), degrees };
  const kept = own.flatMap((weight, i) => (weight > 0 ? [i] : []));
  const squares = kept.reduce((sum, i) => sum + own[i]! * solution.residuals[i]! ** 2, 0);
  if (degrees >= ROBUST_FROM) return { variance: squares / degrees, degrees };
  const left = Math.max(
    0,
    kept.reduce((sum, i) => sum + 1 - solution.leverage[i]!, 0),
  );
  return {
    variance: (squares + HOUSE_DEGREES * HOUSE_SCATTER ** 2) / (left + HOUSE_DEGREES),
    degrees: left + HOUSE_DEGREES,
  };
}

/** Asymptotic variance of the bisquare with Huber’s correction for many fitted terms. */
function robustVariance(
  design: Design,
  solution: Solution,
  own: readonly number[],
  scale: number,
): number {
  let [psi, slope, slopes, n, fitted] = [0, 0, 0, 0, 0];
  for (const [i, r] of standardised(design, solution).entries()) {
    if (!(own[i]! > 0)) continue;
    fitted += solution.leverage[i]!;
    if (r === null) continue;
    n++;
    const u = (r / (scale * BISQUARE)) ** 2;
    if (u >= 1) continue;
    psi += r * r * (1 - u) ** 4;
    slope += (1 - u) * (1 - 5 * u);
    slopes += ((1 - u) * (1 - 5 * u)) ** 2;
  }
  const mean = slope / n;
  if (!(mean > 0)) return HOUSE_SCATTER ** 2;
  const widen = 1 + (fitted / n) * Math.max(0, slopes / n / mean ** 2 - 1);
  return ((psi / n) * widen ** 2) / mean ** 2;
}
