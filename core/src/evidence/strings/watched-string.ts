/** Voltages of all cells of a string against time, from any monitor. */
export interface WatchedString {
  /** s, ascending. */
  timeS: Float64Array;
  /** One array per cell, V, finite, each as long as `timeS`. */
  cellsV: readonly (Float64Array | Float32Array)[];
  /** Current of the string as it was logged, A; null where the log has none. */
  currentA?: Float64Array | Float32Array | null;
}

/** @throws RangeError for fewer than two cells or rows, or columns of unequal length. */
export function requireString({ timeS, cellsV }: WatchedString): void {
  if (cellsV.length < 2 || timeS.length < 2 || cellsV.some((one) => one.length !== timeS.length))
    throw new RangeError('Expected two cells and two rows at least, all columns as long as time.');
}
