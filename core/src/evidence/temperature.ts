import type { Trace } from './trace';

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
  const values = temperatureC.subarray(from, to + 1).filter((value) => Number.isFinite(value));
  if (values.length === 0) return null;
  const maxC = values.reduce((a, b) => Math.max(a, b), -Infinity);
  return {
    meanC: values.reduce((a, b) => a + b, 0) / values.length,
    maxC,
    riseK: maxC - values[0]!,
  };
}
