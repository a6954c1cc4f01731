/**
 * Solves A·X = B by Gauss–Jordan with row pivoting. @returns null when A is singular.
 * @example solve([[2, 0], [0, 4]], [[2], [2]]) // [[1], [0.5]]
 */
export function solve(a: readonly number[][], b: readonly number[][]): number[][] | null {
  const k = a.length;
  const rows = a.map((row, i) => [...row, ...b[i]!]);
  const scale = Math.max(...rows.map((row, i) => Math.abs(row[i]!)), Number.MIN_VALUE);
  for (let column = 0; column < k; column++) {
    let pivot = column;
    for (let r = column + 1; r < k; r++)
      if (Math.abs(rows[r]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = r;
    if (!(Math.abs(rows[pivot]![column]!) > 1e-12 * scale)) return null;
    [rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!];
    const head = rows[column]!;
    const divisor = head[column]!;
    for (let j = 0; j < head.length; j++) head[j] = head[j]! / divisor;
    for (const [r, row] of rows.entries()) {
      const factor = row[column]!;
      if (r === column || factor === 0) continue;
      for (let j = column; j < row.length; j++) row[j] = row[j]! - factor * head[j]!;
    }
  }
  return rows.map((row) => row.slice(k));
}

/** Unit matrix of k rows. */
export const identity = (k: number): number[][] =>
  Array.from({ length: k }, (_, i) => Array.from({ length: k }, (_, j) => (i === j ? 1 : 0)));

/** A least-squares fit of y = X·β. */
export interface LinearFit {
  coefficients: number[];
  /** Covariance of the coefficients, from the residuals; zeros without degrees of freedom. */
  covariance: number[][];
  residualVariance: number;
  degreesOfFreedom: number;
}

/**
 * Ordinary least squares by the normal equations.
 * @param rows one row of k terms per observation, at least k of them.
 * @returns null where the terms cannot be told apart.
 * @example fitLinear([[1, 0], [1, 1], [1, 2]], [1, 3, 5]).coefficients // [1, 2]
 */
export function fitLinear(rows: readonly number[][], ys: readonly number[]): LinearFit | null {
  const k = rows[0]?.length ?? 0;
  if (k === 0 || rows.length < k) return null;
  const normal = Array.from({ length: k }, (_, i) =>
    Array.from({ length: k }, (_, j) => rows.reduce((sum, row) => sum + row[i]! * row[j]!, 0)),
  );
  const inverse = solve(normal, identity(k));
  if (!inverse) return null;
  const moments = Array.from({ length: k }, (_, i) =>
    rows.reduce((sum, row, r) => sum + row[i]! * ys[r]!, 0),
  );
  const coefficients = inverse.map((row) => row.reduce((sum, v, j) => sum + v * moments[j]!, 0));
  const residual = rows.reduce(
    (sum, row, r) => sum + (ys[r]! - row.reduce((s, v, j) => s + v * coefficients[j]!, 0)) ** 2,
    0,
  );
  const degreesOfFreedom = rows.length - k;
  const residualVariance = degreesOfFreedom > 0 ? residual / degreesOfFreedom : 0;
  return {
    coefficients,
    covariance: inverse.map((row) => row.map((value) => value * residualVariance)),
    residualVariance,
    degreesOfFreedom,
  };
}
