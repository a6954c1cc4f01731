import { mean, standardDeviation } from '../statistics';
import {
  combineBudget,
  type Figure,
  type BudgetComponent,
  budgetKind,
  budgetPart,
  scaledPart,
} from '../units';
import { type CapacityFigures, capacitiesToCutoffs } from './capacity';
import type { Discharge } from './sections';
import type { Trace } from './trace';
import type { Accuracy } from './accuracy';

/** Kept with every charge between two voltages. */
export const WINDOW_METHOD = { name: 'window-capacity', version: 2 };
/** Kept with every capacity reckoned from a window. */
export const FROM_WINDOW_METHOD = { name: 'capacity-from-window', version: 2 };

/** A discharge curve of another cell of the same model, charge ascending from full, Ah, V. */
export interface FullCurve {
  cell: string;
  ah: ArrayLike<number>;
  voltageV: ArrayLike<number>;
  /** Capacity to the cut-off, Ah. */
  fullAh: number;
}

/** A figure, or why there is none. */
export type WindowOrReason =
  { figure: Figure; reason?: undefined } | { figure: null; reason: string };

const isAtEnd = ({ kind }: BudgetComponent): boolean => budgetKind(kind).atEnd === true;

/** With one curve of the model nothing is known of its cells’ spread: this share stands for it. */
const ONE_CURVE_SPREAD = 0.02;

/**
 * Charge between two voltages of a discharge (handbook, chapter 3): stated as window capacity,
 * with its window, and never as the cell’s capacity.
 * @param window V; `fromV` above `toV`, both passed through under load.
 */
export function windowCapacity(
  trace: Trace,
  discharge: Discharge | null,
  window: { fromV: number; toV: number },
  options: { accuracy: Accuracy; leadMohm?: number; leadUncertaintyMohm?: number },
): WindowOrReason {
  const { fromV, toV } = window;
  if (!discharge) return { figure: null, reason: 'The log holds no discharge.' };
  if (!(fromV > toV))
    return {
      figure: null,
      reason: `Expected the upper voltage first: ${fromV} V is not above ${toV} V.`,
    };
  const [upper, lower] = capacitiesToCutoffs(trace, discharge, [fromV, toV], options) as [
    CapacityFigures,
    CapacityFigures,
  ];
  const start = trace.voltageV[discharge.sections[0]!.fromIndex]!;
  if (fromV > start + 0.0005)
    return {
      figure: null,
      reason: `Under load the voltage began at ${start.toFixed(3)} V, below ${fromV} V: the window is not inside the log.`,
    };
  if (lower.capacity.bound !== 'exact')
    return { figure: null, reason: `The discharge did not reach ${toV} V.` };
  const value = lower.capacity.value - upper.capacity.value;
  // Gain, offset and clock act on the charge of the window; the two ends are independent.
  const share = lower.capacity.value > 0 ? value / lower.capacity.value : 0;
  const parts = lower.capacity.budget
    .filter(({ kind }) => kind !== 'loadOn')
    .map((part) => (isAtEnd(part) ? part : scaledPart(part, share, '; the window’s share')));
  const upperEnd = upper.capacity.budget.filter(isAtEnd);
  return {
    figure: {
      ...lower.capacity,
      quantity: 'windowCapacity',
      value,
      method: WINDOW_METHOD,
      inputs: [
        { name: 'from', value: fromV, unit: 'V' },
        { name: 'to', value: toV, unit: 'V' },
      ],
      steps: [
        `Charge when the voltage under load first falls to ${fromV} V: ${upper.capacity.value.toPrecision(6)} Ah.`,
        `Charge when it first falls to ${toV} V: ${lower.capacity.value.toPrecision(6)} Ah.`,
        'The difference, which is the charge of this window and not the cell’s capacity.',
      ],
      span: { fromS: upper.capacity.span!.toS, toS: lower.capacity.span!.toS },
      ...combineBudget([
        ...parts,
        ...upperEnd.map((part) => ({
          ...part,
          name: `${part.name}, upper end`,
        })),
      ]),
    },
  };
}

/** Charge at which a curve first falls to a voltage, Ah; null when it does not. */
function chargeAt(
  { ah, voltageV }: Pick<FullCurve, 'ah' | 'voltageV'>,
  atV: number,
): number | null {
  for (let i = 1; i < ah.length; i++) {
    if (voltageV[i]! > atV) continue;
    const [high, low] = [voltageV[i - 1]!, voltageV[i]!];
    if (high < atV) return i === 1 ? ah[0]! : null;
    const part = high > low ? (high - atV) / (high - low) : 1;
    return ah[i - 1]! + part * (ah[i]! - ah[i - 1]!);
  }
  return null;
}

/**
 * Full capacity from a window, by full curves of the same model: how much more each of them gave
 * than between the same voltages, with the spread of its cells as uncertainty (handbook,
 * chapter 3). A share of the voltage range is never taken for a share of the charge.
 */
export function capacityFromWindow(window: Figure, curves: readonly FullCurve[]): WindowOrReason {
  const [fromV, toV] = [window.inputs[0]!.value as number, window.inputs[1]!.value as number];
  const ratios = curves.flatMap((curve) => {
    const [first, last] = [chargeAt(curve, fromV), chargeAt(curve, toV)];
    return first === null || last === null || last - first < 0.05 * curve.fullAh
      ? []
      : [curve.fullAh / (last - first)];
  });
  if (ratios.length === 0)
    return {
      figure: null,
      reason:
        'No full discharge of this model passes through the window: without one the full capacity is not estimated.',
    };
  const ratio = mean(ratios);
  const value = window.value * ratio;
  const spread =
    ratios.length > 1
      ? standardDeviation(ratios) * Math.sqrt(1 + 1 / ratios.length)
      : ONE_CURVE_SPREAD * ratio;
  return {
    figure: {
      ...window,
      quantity: 'capacityFromWindow',
      value,
      method: FROM_WINDOW_METHOD,
      inputs: [
        { name: 'window capacity', value: window.value, unit: 'Ah' },
        { name: 'from', value: fromV, unit: 'V' },
        { name: 'to', value: toV, unit: 'V' },
        { name: 'full over window', value: ratio },
        { name: 'full curves of the model', value: ratios.length },
      ],
      steps: [
        `${ratios.length} full discharge(s) of this model gave ${ratio.toPrecision(5)} times what they gave between ${fromV} V and ${toV} V.`,
        `${window.value.toPrecision(5)} Ah times that. An estimate, not a measurement.`,
      ],
      ...combineBudget([
        ...window.budget.map((part) => scaledPart(part, ratio)),
        budgetPart(
          'modelSpread',
          window.value * spread,
          ratios.length > 1
            ? `${ratios.length} curves of the model, scatter of one more`
            : `one curve only: ${100 * ONE_CURVE_SPREAD} % stands for the spread of its cells`,
        ),
      ]),
    },
  };
}
