import { apartShare } from '../units';
import type { Doubt } from './check-typed';

/** What a tester without a log shows of one discharge, as far as it was typed. */
export interface TypedResult {
  ah: number | null;
  wh: number | null;
  currentA: number | null;
  hours: number | null;
}

/** Voltages such a discharge runs between, V; null where nothing says. */
export interface ResultVoltages {
  cutoffV: number | null;
  chargeV: number | null;
  nominalV: number | null;
}

/** Current times time and charge agree within this share (handbook, chapter 3). */
const AGREE = 0.03;
/** A mean voltage further from the nominal one than this share is asked about. */
const NEAR_NOMINAL = 0.12;

/**
 * The arithmetic of a typed result: I × t against Ah, and Wh / Ah between cut-off and charge
 * voltage and near the mean (handbook, chapter 3, "Typed results"). @returns the first doubt.
 */
export function checkTypedResult(
  { ah, wh, currentA, hours }: TypedResult,
  { cutoffV, chargeV, nominalV }: ResultVoltages,
): Doubt | null {
  if (ah !== null && ah > 0 && currentA !== null && hours !== null) {
    const product = Math.abs(currentA) * hours;
    const apart = Math.abs(product / ah - 1);
    if (apart > AGREE)
      return {
        code: 'time-and-charge',
        question: `${Math.abs(currentA)} A for ${hours} h make ${product.toPrecision(4)} Ah, not ${ah} Ah: ${(100 * apartShare(product, ah)).toFixed(1)} % apart${slipOf(product / ah)}. Keep it?`,
      };
  }
  if (ah !== null && ah > 0 && wh !== null) {
    const meanV = wh / ah;
    const low = cutoffV ?? 0;
    const high = chargeV ?? Infinity;
    if (meanV < low || meanV > high)
      return {
        code: 'energy-and-charge',
        question: `${wh} Wh over ${ah} Ah is ${meanV.toFixed(2)} V, outside ${low} to ${high} V${slipOf(meanV / (nominalV ?? meanV))}. Keep it?`,
      };
    if (nominalV !== null && Math.abs(meanV / nominalV - 1) > NEAR_NOMINAL)
      return {
        code: 'energy-and-charge',
        question: `${wh} Wh over ${ah} Ah is ${meanV.toFixed(2)} V on average, far from the usual ${nominalV} V. Keep it?`,
      };
  }
  return null;
}

/** What a factor between two figures usually is. */
function slipOf(factor: number): string {
  const near = (target: number) => Math.abs(factor / target - 1) < 0.1;
  if (near(1000) || near(1 / 1000)) return '; is one of them in thousandths?';
  if (near(60) || near(1 / 60)) return '; are minutes typed for hours?';
  return '';
}
