/** Step of the histogram of spreads, mV. */
export const SPREAD_STEP_MV = 0.5;
const MOST_SPREAD_MV = 1000;
/** Voltages are compared in whole steps of 10 µV: what is left of adding up is no lead. */
export const UNITS_PER_V = 1e5;
const UNITS_PER_STEP = (SPREAD_STEP_MV / 1000) * UNITS_PER_V;
const STEPS = MOST_SPREAD_MV / SPREAD_STEP_MV + 1;

/** Time by spread: a histogram, so that a fortnight of seconds needs no sorting. */
export class SpreadTimes {
  private readonly seconds = new Float64Array(STEPS);
  total = 0;
  /** In units of 10 µV. */
  highest = 0;

  /** @param spread in units of 10 µV. */
  add(spread: number, seconds: number): void {
    const at = (spread / UNITS_PER_STEP) | 0;
    this.seconds[at < STEPS ? at : STEPS - 1]! += seconds;
    this.total += seconds;
    if (spread > this.highest) this.highest = spread;
  }

  highestMv(): number {
    return (1000 * this.highest) / UNITS_PER_V;
  }

  /** Spread that half of the time lies below, mV, to half a step. */
  medianMv(): number {
    let sum = 0;
    for (let i = 0; i < STEPS; i++) {
      sum += this.seconds[i]!;
      if (sum >= this.total / 2) return (i + 0.5) * SPREAD_STEP_MV;
    }
    return 0;
  }

  /** Seconds of each step from 0 mV on, without the empty ones at the end. */
  steps(): number[] {
    let last = STEPS;
    while (last > 0 && this.seconds[last - 1] === 0) last--;
    return Array.from(this.seconds.subarray(0, last), (s) => Math.round(1000 * s) / 1000);
  }
}

/**
 * Share of the time a balancer acts that begins at this spread, to the histogram’s half millivolt.
 * @param seconds of each step of 0.5 mV, from 0 on, as a watch tells them. @param balanceMv above 0.
 * @example shareAbove([10, 10, 20], 1) // 0.5
 */
export function shareAbove(seconds: readonly number[], balanceMv: number): number {
  const total = seconds.reduce((sum, s) => sum + s, 0);
  const from = Math.ceil(balanceMv / SPREAD_STEP_MV - 1e-9);
  return total > 0 ? seconds.slice(from).reduce((sum, s) => sum + s, 0) / total : 0;
}
