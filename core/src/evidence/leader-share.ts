/** Rows averaged before cells are compared, so that the meter's noise does not take turns. */
const SMOOTHED_ROWS = 9;

function smoothed(values: Float64Array): Float64Array {
  const half = Math.min(SMOOTHED_ROWS, values.length) >> 1;
  return values.map((_, row) => {
    const from = Math.max(0, row - half);
    const to = Math.min(values.length - 1, row + half);
    let sum = 0;
    for (let i = from; i <= to; i++) sum += values[i]!;
    return sum / (to - from + 1);
  });
}

/**
 * Fraction of time each cell of a string is the highest; ties share (handbook, chapter 4).
 * @param timeS s, ascending. @param cellsV one array per cell, V.
 * @returns one share per cell, adding up to 1; null without cells or time.
 * @example leaderShare(Float64Array.of(0, 1, 2, 3), [Float64Array.of(3, 3, 3, 3), Float64Array.of(2, 2, 4, 4)]) // [0.667, 0.333]
 */
export function leaderShare(timeS: Float64Array, cellsV: Float64Array[]): number[] | null {
  const spanS = timeS[timeS.length - 1]! - timeS[0]!;
  if (cellsV.length < 2 || !(spanS > 0)) return null;
  const curves = cellsV.map(smoothed);
  const ledS = cellsV.map(() => 0);
  for (let row = 0; row + 1 < timeS.length; row++) {
    const highest = Math.max(...curves.map((cell) => cell[row]!));
    const leaders = curves.flatMap((cell, i) => (cell[row] === highest ? [i] : []));
    const intervalS = timeS[row + 1]! - timeS[row]!;
    for (const leader of leaders) ledS[leader]! += intervalS / leaders.length;
  }
  return ledS.map((seconds) => seconds / spanS);
}
