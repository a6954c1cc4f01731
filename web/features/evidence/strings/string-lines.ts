import type { ThinnedString } from '@dusk-tally/core/evidence';

/** A line through the lowest and highest of each stretch, in pieces between holes. */
export interface LinePiece {
  h: number[];
  y: number[];
}

/** Time in the middle of a stretch, h. */
export const hourOf = ({ fromS, widthS }: ThinnedString, at: number): number =>
  (fromS + (at + 0.5) * widthS) / 3600;

/**
 * One column of a thinned string as lines; a stretch in which it moved is a stroke up and down.
 * @param holeS longer than this without a reading there is a hole, s.
 */
export function linesOf(
  thinned: ThinnedString,
  low: Float32Array,
  high: Float32Array,
  holeS: number,
): LinePiece[] {
  const pieces: LinePiece[] = [];
  let now: LinePiece | null = null;
  let last = -Infinity;
  const most = Math.max(holeS, 2.5 * thinned.widthS) / 3600;
  for (let i = 0; i < thinned.points; i++) {
    const [a, b] = [low[i]!, high[i]!];
    if (Number.isNaN(a)) continue;
    const h = hourOf(thinned, i);
    if (!now || h - last > most) pieces.push((now = { h: [], y: [] }));
    last = h;
    const before = now.y.at(-1);
    // The end nearer to the line so far comes first: no stroke is drawn twice.
    const [first, second] =
      before !== undefined && Math.abs(before - b) < Math.abs(before - a) ? [b, a] : [a, b];
    now.h.push(h);
    now.y.push(first);
    if (second !== first) {
      now.h.push(h);
      now.y.push(second);
    }
  }
  return pieces;
}

/** The stretch with readings nearest to a moment, h; null where there is none. */
export function nearestStretch(thinned: ThinnedString, h: number): number | null {
  const middle = Math.round((h * 3600 - thinned.fromS) / thinned.widthS - 0.5);
  for (let off = 0; off < thinned.points; off++)
    for (const at of [middle - off, middle + off])
      if (at >= 0 && at < thinned.points && !Number.isNaN(thinned.lowV[0]![at]!)) return at;
  return null;
}

/** What a cell read in a stretch, to the digits of the log: one value, or from one to another. */
export function readingAt(low: number, high: number, digits: number): string {
  const [a, b] = [low.toFixed(digits), high.toFixed(digits)];
  return a === b ? a : `${a} to ${b}`;
}

/** Lowest and highest of what is drawn. */
export function rangeOf(
  columns: readonly (readonly [Float32Array, Float32Array])[],
): [number, number] {
  let [lowest, highest] = [Infinity, -Infinity];
  for (const [low, high] of columns)
    for (let i = 0; i < low.length; i++) {
      if (low[i]! < lowest) lowest = low[i]!;
      if (high[i]! > highest) highest = high[i]!;
    }
  return [lowest, highest];
}

/** Curves as a file of comma-separated values. */
export function stringCsv(
  thinned: ThinnedString,
  names: readonly string[],
  digits: number,
): string {
  const head = [
    'time_s',
    ...names.flatMap((name) => [`${name}_low_V`, `${name}_high_V`]),
    'spread_high_mV',
  ];
  const rows = Array.from({ length: thinned.points }, (_, i) => i)
    .filter((i) => !Number.isNaN(thinned.lowV[0]![i]!))
    .map((i) =>
      [
        (hourOf(thinned, i) * 3600).toFixed(1),
        ...names.flatMap((_, c) => [
          thinned.lowV[c]![i]!.toFixed(digits),
          thinned.highV[c]![i]!.toFixed(digits),
        ]),
        (1000 * thinned.highSpreadV[i]!).toFixed(1),
      ].join(','),
    );
  return `${[head.join(','), ...rows].join('\n')}\n`;
}
