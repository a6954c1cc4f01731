import type { Chemistry } from '../chemistry';

/** Open-circuit voltage against state of charge, V; points ascending in charge. */
const CURVES: Record<Chemistry, readonly (readonly [number, number])[]> = {
  LFP: [
    [0, 2.2],
    [0.004, 2.55],
    [0.012, 2.78],
    [0.03, 2.98],
    [0.06, 3.1],
    [0.1, 3.19],
    [0.2, 3.24],
    [0.35, 3.285],
    [0.5, 3.3],
    [0.65, 3.315],
    [0.75, 3.33],
    [0.9, 3.34],
    [0.97, 3.35],
    [0.992, 3.4],
    [1, 3.5],
  ],
  NMC: [
    [0, 2.6],
    [0.005, 2.85],
    [0.02, 3.1],
    [0.05, 3.3],
    [0.1, 3.45],
    [0.2, 3.55],
    [0.35, 3.63],
    [0.5, 3.7],
    [0.65, 3.83],
    [0.8, 3.98],
    [0.9, 4.08],
    [1, 4.2],
  ],
  LCO: [
    [0, 2.8],
    [0.01, 3.2],
    [0.05, 3.55],
    [0.1, 3.66],
    [0.3, 3.75],
    [0.5, 3.82],
    [0.7, 3.95],
    [0.85, 4.06],
    [1, 4.2],
  ],
  LMO: [
    [0, 2.8],
    [0.01, 3.3],
    [0.05, 3.65],
    [0.1, 3.78],
    [0.3, 3.92],
    [0.5, 4.0],
    [0.7, 4.07],
    [0.85, 4.12],
    [1, 4.2],
  ],
  LTO: [
    [0, 1.5],
    [0.01, 1.8],
    [0.05, 2.08],
    [0.1, 2.16],
    [0.3, 2.24],
    [0.5, 2.3],
    [0.7, 2.37],
    [0.9, 2.5],
    [1, 2.75],
  ],
  'sodium-ion': [
    [0, 1.5],
    [0.01, 1.8],
    [0.04, 2.15],
    [0.1, 2.45],
    [0.2, 2.68],
    [0.35, 2.88],
    [0.5, 3.02],
    [0.65, 3.18],
    [0.8, 3.38],
    [0.9, 3.55],
    [1, 3.92],
  ],
};

/** Slopes of a monotone cubic through the points (Fritsch and Carlson 1980). */
function monotoneSlopes(curve: readonly (readonly [number, number])[]): number[] {
  const secants = curve.slice(1).map(([x, y], i) => (y - curve[i]![1]) / (x - curve[i]![0]));
  return curve.map((_, i) => {
    const [before, after] = [secants[i - 1], secants[i]];
    if (before === undefined) return after!;
    if (after === undefined) return before;
    return before * after <= 0 ? 0 : (2 * before * after) / (before + after);
  });
}

const SLOPES = new Map<Chemistry, number[]>();

function slopesOf(chemistry: Chemistry): number[] {
  const known = SLOPES.get(chemistry);
  if (known) return known;
  const slopes = monotoneSlopes(CURVES[chemistry]);
  SLOPES.set(chemistry, slopes);
  return slopes;
}

/**
 * Open-circuit voltage of a chemistry at a state of charge (clamped to 0–1), V; rises throughout.
 * @example openCircuitVoltage('NMC', 1) // 4.2
 */
export function openCircuitVoltage(chemistry: Chemistry, stateOfCharge: number): number {
  const curve = CURVES[chemistry];
  const slopes = slopesOf(chemistry);
  const soc = Math.min(1, Math.max(0, stateOfCharge));
  let i = 1;
  while (i < curve.length - 1 && soc > curve[i]![0]) i++;
  const [x0, y0] = curve[i - 1]!;
  const [x1, y1] = curve[i]!;
  const h = x1 - x0;
  const t = (soc - x0) / h;
  return (
    y0 * (1 + 2 * t) * (1 - t) ** 2 +
    h * slopes[i - 1]! * t * (1 - t) ** 2 +
    y1 * t * t * (3 - 2 * t) +
    h * slopes[i]! * t * t * (t - 1)
  );
}
