import type { Trace } from './trace';

/** Temperature of a cell over a part of a trace. */
export interface TemperatureSummary {
  meanC: number;
  maxC: number;
  /** Highest above the first reading, K. */
  riseK: number;
}

/** Temperature over rows `from` to `to`, missing readings left out; null without any. */
export function temperatureSummary(
  trace: Trace,
  from: number,
  to: number,
): TemperatureSummary | null {
  const { temperatureC } = trace;
  if (!temperatureC) return null;
  let count = 0;
  let sum = 0;
  let first = NaN;
  let maxC = -Infinity;
  for (let row = from; row <= to; row++) {
    const value = temperatureC[row]!;
    // Neither a missing reading nor an endless one is a number less itself.
    if (value - value !== 0) continue;
    if (count === 0) first = value;
    count++;
    sum += value;
    if (value > maxC) maxC = value;
  }
  return count === 0 ? null : { meanC: sum / count, maxC, riseK: maxC - first };
}
