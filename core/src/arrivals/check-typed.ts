import { robustScores } from '../statistics';

/** What a column of the entry grid holds. */
export type TypedColumn =
  | 'acResistanceMohm'
  | 'ocvV'
  | 'capacityAh'
  | 'massG'
  | 'thicknessMm'
  | 'energyWh'
  | 'currentA'
  | 'durationH';

/** What a typed figure is compared with: its column, its neighbours and what the claim says, in the column's own unit. */
export interface TypedContext {
  /** Values already in the column, this cell's own left out. */
  others: number[];
  /** The values just above, nearest first. */
  previous: number[];
  /** What the claim says, when it says it. */
  expected: number | null;
}

/** Why a typed figure is asked about before it is stored (handbook, chapter 1), in words that give the figure likely meant. */
export interface Doubt {
  code:
    | 'out-of-range'
    | 'decimal-point'
    | 'unit-slip'
    | 'transposed'
    | 'unlike-the-lot'
    | 'same-again'
    | 'time-and-charge'
    | 'energy-and-charge';
  /** Asked once, in place. */
  question: string;
}

const RANGE: Record<TypedColumn, { low: number; high: number; unit: string }> = {
  acResistanceMohm: { low: 0.05, high: 5000, unit: 'mΩ' },
  ocvV: { low: 0, high: 5, unit: 'V' },
  capacityAh: { low: 0.005, high: 2000, unit: 'Ah' },
  massG: { low: 1, high: 20_000, unit: 'g' },
  thicknessMm: { low: 0.5, high: 400, unit: 'mm' },
  energyWh: { low: 0.01, high: 1e6, unit: 'Wh' },
  currentA: { low: 0.001, high: 5000, unit: 'A' },
  durationH: { low: 0.001, high: 2000, unit: 'h' },
};

/** What a factor of a thousand usually is. */
const SLIPS: Record<TypedColumn, string> = {
  acResistanceMohm: 'Ω and mΩ',
  ocvV: 'mV for V',
  capacityAh: 'mAh for Ah',
  massG: 'kg and g',
  thicknessMm: 'm and mm',
  energyWh: 'kWh and Wh',
  currentA: 'mA and A',
  durationH: 'a thousandth of hours',
};

/** A robust z beyond this is asked about. */
const UNLIKE = 4;
/** However little a lot scatters, within this share of its middle nothing is unlike it. */
const SAME_READING = 0.002;

const near = (value: number, target: number, share: number): boolean =>
  Math.abs(value / target - 1) <= share;

/** Whether two neighbouring digits changed over give a value that fits. */
function digitsSwapped(value: number, fits: (swapped: number) => boolean): boolean {
  const text = String(value);
  for (let i = 0; i + 1 < text.length; i++) {
    if (!/\d/.test(text[i]!) || !/\d/.test(text[i + 1]!) || text[i] === text[i + 1]) continue;
    const swapped = Number(text.slice(0, i) + text[i + 1] + text[i] + text.slice(i + 2));
    if (fits(swapped)) return true;
  }
  return false;
}

/**
 * Checks a figure as it is typed against physical range, the lot's own spread and the common
 * slips (handbook, chapter 1, "Typing it in"). @returns the first doubt, or null.
 */
export function checkTyped(
  column: TypedColumn,
  value: number,
  context: TypedContext,
): Doubt | null {
  const { low, high, unit } = RANGE[column];
  const sorted = [...context.others].sort((a, b) => a - b);
  const centre = sorted.length >= 5 ? sorted[sorted.length >> 1]! : context.expected;
  if (centre && centre > 0) {
    for (const factor of [1000, 1 / 1000]) {
      if (near(value, centre * factor, 0.3)) {
        const slip = SLIPS[column];
        return {
          code: 'unit-slip',
          question: `${value} ${unit} is ${factor > 1 ? 'a thousand times' : 'a thousandth of'} the usual ${centre} ${unit}: ${slip}?`,
        };
      }
    }
    for (const factor of [10, 100, 0.1, 0.01]) {
      if (near(value, centre * factor, 0.25))
        return {
          code: 'decimal-point',
          question: `${value} ${unit} against the usual ${centre} ${unit}: is the decimal point right?`,
        };
    }
  }
  if (value < low || value > high) {
    return {
      code: 'out-of-range',
      question: `${value} ${unit} is outside what a cell can show (${low} to ${high} ${unit}). Keep it?`,
    };
  }
  const scoreOf = robustScores(context.others);
  const isUnlike = (other: number): boolean =>
    Math.abs(scoreOf(other) ?? 0) > UNLIKE && !near(other, centre ?? other, SAME_READING);
  if (isUnlike(value)) {
    if (digitsSwapped(value, (swapped) => !isUnlike(swapped))) {
      return {
        code: 'transposed',
        question: `${value} ${unit} against the usual ${centre} ${unit}: are two digits swapped?`,
      };
    }
    return {
      code: 'unlike-the-lot',
      question: `${value} ${unit} is far from the rest of the lot (median ${centre} ${unit}). Keep it?`,
    };
  }
  if (
    context.previous.length >= 4 &&
    context.previous.slice(0, 4).every((other) => other === value)
  ) {
    return {
      code: 'same-again',
      question: `${value} ${unit} for the fifth time in a row. Is the meter still reading?`,
    };
  }
  return null;
}
