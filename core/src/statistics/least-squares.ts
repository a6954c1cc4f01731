import { fitLinear } from './linear-model';

/** A fitted value and its standard error. */
export interface FittedValue {
  value: number;
  error: number;
}

/**
 * Value at `atX` of the least-squares line through points (two or more).
 * @example lineAt([0, 1, 2], [1, 3, 5], 4).value // 9
 */
export function lineAt(xs: number[], ys: number[], atX: number): FittedValue {
  return fitAt(
    xs.map((x) => [1, x - xs[0]!]),
    ys,
    [1, atX - xs[0]!],
  );
}

/**
 * Ordinary least squares by the normal equations: value and standard error at one point.
 * @param basis one row of k terms per observation, at least k rows. @param at the terms there.
 * @returns the mean of `ys` where the terms cannot be told apart.
 * @example fitAt([[1, 0, 0], [1, 1, 1], [1, 2, 4], [1, 3, 9]], [0, 1, 4, 9], [1, 5, 25]).value // 25
 */
export function fitAt(basis: number[][], ys: number[], at: number[]): FittedValue {
  const fit = fitLinear(basis, ys);
  if (!fit) return { value: ys.reduce((a, b) => a + b, 0) / ys.length, error: 0 };
  const { coefficients, covariance } = fit;
  const variance = at.reduce(
    (sum, a, i) => sum + a * at.reduce((s, b, j) => s + covariance[i]![j]! * b, 0),
    0,
  );
  return {
    value: at.reduce((sum, term, i) => sum + term * coefficients[i]!, 0),
    error: Math.sqrt(Math.max(0, variance)),
  };
}
