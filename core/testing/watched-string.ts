import type { WatchedString } from '../src/evidence';
import { seededRandom } from '../src/statistics';

/** A string near full: every cell about one voltage, with so much of its own, V. */
export function stringOf(
  rows: number,
  own: readonly ((i: number) => number)[],
  seed = 1,
): WatchedString {
  const random = seededRandom(seed);
  const timeS = Float64Array.from({ length: rows }, (_, i) => 10 * i);
  return {
    timeS,
    cellsV: own.map((more) =>
      Float64Array.from(timeS, (_, i) => 3.45 + more(i) + 0.0001 * random.normal()),
    ),
  };
}

/** Cell c of n is highest in its turn. */
export const turns = (c: number, n: number) => (i: number) =>
  0.004 * Math.sin((2 * Math.PI * i) / 400 + (2 * Math.PI * c) / n);
