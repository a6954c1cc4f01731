/** Voltages of all cells of a string against time, from any monitor. */
export interface WatchedString {
  /** s, ascending. */
  timeS: Float64Array;
  /** One array per cell, V, finite, each as long as `timeS`. */
  cellsV: readonly (Float64Array | Float32Array)[];
  /** Current of the string as it was logged, A; null where the log has none. */
  currentA?: Float64Array | Float32Array | null;
}

/** A cell of a string in use never shows less, or more, V: its wire is off, or on the wrong place. */
const LEAST_CELL_V = 0.5;
const MOST_CELL_V = 6;

/** Whether a reading can be a cell’s at all. */
export const isOfWire = (voltageV: number): boolean =>
  voltageV >= LEAST_CELL_V && voltageV <= MOST_CELL_V;

/** @throws RangeError for fewer than two cells or rows, or columns of unequal length. */
export function requireString({ timeS, cellsV }: WatchedString): void {
  if (cellsV.length < 2 || timeS.length < 2 || cellsV.some((one) => one.length !== timeS.length))
    throw new RangeError('Expected two cells and two rows at least, all columns as long as time.');
}
