/** What an instrument's data sheet or calibration states, as limits (±), not standard uncertainties. */
export interface Accuracy {
  /** Share of reading, %. */
  currentGainPct: number;
  currentOffsetA: number;
  voltageGainPct: number;
  voltageOffsetV: number;
  /** Clock, parts per million. */
  timePpm: number;
  /** Who says so, for the trail. */
  source: string;
}

/**
 * House default for a tester nobody has described: 0.5 % of reading, an offset of 0.1 % of the
 * largest current, 10 mV, 100 ppm.
 */
export function unknownTesterAccuracy(largestCurrentA: number): Accuracy {
  return {
    currentGainPct: 0.5,
    currentOffsetA: 0.001 * largestCurrentA,
    voltageGainPct: 0,
    voltageOffsetV: 0.01,
    timePpm: 100,
    source: 'house default for a tester not described',
  };
}
