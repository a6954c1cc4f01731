import { fitLinear } from '../statistics';

/** dQ/dV against voltage, from a discharge or a charge. */
export interface IncrementalCapacity {
  /** Even grid, V. */
  voltageV: number[];
  /** |dQ/dV|, Ah/V. */
  ahPerV: number[];
  peaks: { voltageV: number; ahPerV: number }[];
}

/**
 * Savitzky–Golay weights for a window of `2·half + 1` points and a polynomial of `degree`: value
 * (`derivative` 0) or slope per step (1) at the middle.
 * @example savitzkyGolay(2, 2, 0).map((w) => 35 * w) // [-3, 12, 17, 12, -3]
 */
export function savitzkyGolay(half: number, degree: number, derivative: 0 | 1): number[] {
  const offsets = Array.from({ length: 2 * half + 1 }, (_, i) => i - half);
  const rows = offsets.map((x) => Array.from({ length: degree + 1 }, (_, k) => x ** k));
  // The weight of a point is what the fit gives for a series that is 1 there and 0 elsewhere.
  return offsets.map((_, i) => {
    const unit = offsets.map((__, j) => (i === j ? 1 : 0));
    return fitLinear(rows, unit)!.coefficients[derivative]!;
  });
}

/**
 * dQ/dV on an even voltage grid, smoothed (handbook, chapter 3, "Odd curves").
 * @param ah charge ascending, Ah. @param voltageV falling or rising with it, with noise.
 * @param stepV grid, V. @param half points on each side of the smoothing window.
 * @returns null where the voltage spans too little.
 */
export function incrementalCapacity(
  ah: ArrayLike<number>,
  voltageV: ArrayLike<number>,
  { stepV = 0.005, half = 7 } = {},
): IncrementalCapacity | null {
  const n = ah.length;
  if (n < 10) return null;
  const falling = voltageV[n - 1]! < voltageV[0]!;
  // Charge per slice of voltage: noise moves rows between neighbours, the smoothing evens it out.
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < n; i++) {
    low = Math.min(low, voltageV[i]!);
    high = Math.max(high, voltageV[i]!);
  }
  const first = Math.floor(low / stepV);
  const slices = Math.floor(high / stepV) - first + 1;
  if (slices < 4 * half) return null;
  const charge = new Float64Array(slices);
  for (let i = 1; i < n; i++) {
    const middle = (voltageV[i]! + voltageV[i - 1]!) / 2;
    const slice = Math.min(slices - 1, Math.floor(middle / stepV) - first);
    charge[slice] = charge[slice]! + ah[i]! - ah[i - 1]!;
  }
  const weights = savitzkyGolay(half, 2, 0);
  const voltages: number[] = [];
  const values: number[] = [];
  for (let slice = half; slice < slices - half; slice++) {
    let sum = 0;
    for (let k = -half; k <= half; k++) sum += weights[k + half]! * charge[slice + k]!;
    voltages.push((first + slice + 0.5) * stepV);
    values.push(sum / stepV);
  }
  if (falling) {
    voltages.reverse();
    values.reverse();
  }
  return { voltageV: voltages, ahPerV: values, peaks: peaksOf(voltages, values) };
}

/** Local tops that stand clear of the valleys beside them by a tenth of the highest. */
function peaksOf(voltageV: number[], ahPerV: number[]): IncrementalCapacity['peaks'] {
  const highest = Math.max(...ahPerV);
  const clear = 0.1 * highest;
  const peaks: IncrementalCapacity['peaks'] = [];
  let valley = Infinity;
  let top: number | null = null;
  for (let i = 0; i < ahPerV.length; i++) {
    const value = ahPerV[i]!;
    if (top === null) {
      valley = Math.min(valley, value);
      if (value > valley + clear) top = i;
    } else if (value > ahPerV[top]!) top = i;
    else if (value < ahPerV[top]! - clear) {
      peaks.push({ voltageV: voltageV[top]!, ahPerV: ahPerV[top]! });
      top = null;
      valley = value;
    }
  }
  return peaks;
}

/** dV/dQ against charge: how fast the voltage falls with each Ah. */
export interface DifferentialVoltage {
  /** Even grid from load-on, Ah. */
  ah: number[];
  /** Size of the slope, V/Ah. */
  voltPerAh: number[];
}

/**
 * dV/dQ on an even grid of charge: the voltage averaged over each slice, then the slope of a
 * parabola through the slices around it, as Savitzky and Golay do on even data (handbook,
 * chapter 3, "Odd curves").
 * @param ah charge ascending, Ah. @param slices of the grid. @returns null for too few readings.
 */
export function differentialVoltage(
  ah: ArrayLike<number>,
  voltageV: ArrayLike<number>,
  { slices = 120, half = 3 } = {},
): DifferentialVoltage | null {
  const n = ah.length;
  const reach = ah[n - 1]! - ah[0]!;
  if (n < slices || !(reach > 0)) return null;
  const sums = new Float64Array(slices);
  const charges = new Float64Array(slices);
  const counts = new Uint32Array(slices);
  for (let i = 0; i < n; i++) {
    const slice = Math.min(slices - 1, Math.floor(((ah[i]! - ah[0]!) / reach) * slices));
    sums[slice] = sums[slice]! + voltageV[i]!;
    charges[slice] = charges[slice]! + ah[i]!;
    counts[slice] = counts[slice]! + 1;
  }
  if (counts.some((count) => count === 0)) return null;
  const step = reach / slices;
  const result: DifferentialVoltage = { ah: [], voltPerAh: [] };
  for (let slice = half; slice < slices - half; slice++) {
    const centre = ah[0]! + (slice + 0.5) * step;
    const rows: number[][] = [];
    const means: number[] = [];
    for (let k = slice - half; k <= slice + half; k++) {
      // Slices hold unlike numbers of readings: each counts where its readings lie on average.
      const away = (charges[k]! / counts[k]! - centre) / step;
      rows.push([1, away, away * away]);
      means.push(sums[k]! / counts[k]!);
    }
    result.ah.push(centre);
    result.voltPerAh.push(Math.abs(fitLinear(rows, means)!.coefficients[1]!) / step);
  }
  return result;
}
