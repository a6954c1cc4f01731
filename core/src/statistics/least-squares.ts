/** A fitted value and its standard error. */
export interface FittedValue {
  value: number;
  error: number;
}

/** Value at `atX` of the least-squares line through points (two or more). */
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
 */
export function fitAt(basis: number[][], ys: number[], at: number[]): FittedValue {
  const k = at.length;
  const n = ys.length;
  // The normal matrix beside the identity; elimination turns the latter into the inverse.
  const rows = Array.from({ length: k }, (_, i) => [
    ...Array.from({ length: k }, (_, j) =>
      basis.reduce((sum, terms) => sum + terms[i]! * terms[j]!, 0),
    ),
    ...Array.from({ length: k }, (_, j) => (i === j ? 1 : 0)),
  ]);
  if (!eliminate(rows, k)) return { value: ys.reduce((a, b) => a + b, 0) / n, error: 0 };
  const inverse = rows.map((row) => row.slice(k));
  const moments = Array.from({ length: k }, (_, i) =>
    basis.reduce((sum, terms, r) => sum + terms[i]! * ys[r]!, 0),
  );
  const coefficients = inverse.map((row) =>
    row.reduce((sum, value, j) => sum + value * moments[j]!, 0),
  );
  const predict = (terms: number[]) =>
    terms.reduce((sum, term, i) => sum + term * coefficients[i]!, 0);
  const residual = basis.reduce((sum, terms, r) => sum + (ys[r]! - predict(terms)) ** 2, 0);
  const variance = n > k ? residual / (n - k) : 0;
  const leverage = at.reduce(
    (sum, a, i) => sum + a * inverse[i]!.reduce((s, value, j) => s + value * at[j]!, 0),
    0,
  );
  return { value: predict(at), error: Math.sqrt(Math.max(0, variance * leverage)) };
}

/** Gauss–Jordan with row pivoting, in place; false when a pivot vanishes. */
function eliminate(rows: number[][], k: number): boolean {
  const scale = Math.max(...rows.map((row, i) => Math.abs(row[i]!)));
  for (let column = 0; column < k; column++) {
    let pivot = column;
    for (let r = column; r < k; r++)
      if (Math.abs(rows[r]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = r;
    if (!(Math.abs(rows[pivot]![column]!) > 1e-12 * scale)) return false;
    [rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!];
    const head = rows[column]!;
    const divisor = head[column]!;
    for (let j = 0; j < head.length; j++) head[j] = head[j]! / divisor;
    for (const [r, row] of rows.entries()) {
      if (r === column) continue;
      const factor = row[column]!;
      for (let j = 0; j < row.length; j++) row[j] = row[j]! - factor * head[j]!;
    }
  }
  return true;
}
