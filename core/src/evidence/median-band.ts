import { median, medianAbsoluteDeviation, quantile } from '../statistics';

/** Median and scaled median absolute deviation of curves at each point of a grid. */
export interface MedianBand {
  x: number[];
  median: number[];
  /** 1.4826 · MAD, as wide as a standard deviation for normal scatter. */
  spread: number[];
  /** How many curves reach each point. */
  count: number[];
}

/**
 * Curves aligned by charge since full, with their median and spread per point.
 * @param curves charge ascending, Ah, and voltage, V. @param points of the even grid.
 */
export function medianBand(
  curves: readonly { ah: ArrayLike<number>; voltageV: ArrayLike<number> }[],
  points = 120,
): MedianBand {
  const ends = curves.map(({ ah }) => ah[ah.length - 1]!);
  // No further than nearly all curves go: those that end first are not like those that go on.
  const reach = ends.length > 0 ? quantile(ends, 0.1) : 0;
  const band: MedianBand = { x: [], median: [], spread: [], count: [] };
  for (let p = 0; p < points; p++) {
    const x = (reach * p) / (points - 1);
    const values: number[] = [];
    curves.forEach(({ ah, voltageV }, c) => {
      if (x <= ends[c]!) values.push(interpolate(ah, voltageV, x));
    });
    if (values.length < 3) continue;
    band.x.push(x);
    band.median.push(median(values));
    band.spread.push(1.4826 * medianAbsoluteDeviation(values));
    band.count.push(values.length);
  }
  return band;
}

function interpolate(xs: ArrayLike<number>, ys: ArrayLike<number>, x: number): number {
  let low = 0;
  let high = xs.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (xs[middle]! <= x) low = middle;
    else high = middle;
  }
  const width = xs[high]! - xs[low]!;
  return width > 0 ? ys[low]! + ((ys[high]! - ys[low]!) * (x - xs[low]!)) / width : ys[low]!;
}
