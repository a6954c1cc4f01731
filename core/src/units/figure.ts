import type { BudgetKind } from './budget-kinds';

/** How a value bounds the quantity: exactly it, or only from one side. */
export type Bound = 'exact' | 'atLeast' | 'atMost';

/** A number with its doubt: what is judged, carried and compared; every Figure is one. */
export interface Estimate {
  value: number;
  /** Standard uncertainty; null where it is not known, which is never zero. */
  standardUncertainty: number | null;
  bound: Bound;
}

/** An estimate whose uncertainty is known: what can be judged. */
export interface KnownEstimate extends Estimate {
  standardUncertainty: number;
}

/** Whether anything is known of an estimate’s uncertainty. */
export const isKnown = <E extends Pick<Estimate, 'standardUncertainty'>>(
  estimate: E,
): estimate is E & { standardUncertainty: number } => estimate.standardUncertainty !== null;

/** Said where a verdict needs an uncertainty and none is known. */
export const NO_UNCERTAINTY = 'no uncertainty known';

/**
 * An estimate times an exact factor above 0.
 * @example scaledEstimate({ value: 100, standardUncertainty: 0.4, bound: 'exact' }, 1.01).value // 101
 */
export const scaledEstimate = (
  { value, standardUncertainty, bound }: Estimate,
  factor: number,
): Estimate => ({
  value: value * factor,
  standardUncertainty: standardUncertainty === null ? null : standardUncertainty * factor,
  bound,
});

/** Something noticed on the way to a figure or in a log, worth a person's eye. */
export interface Finding {
  /** Stable short name in kebab-case, for filters and scripts. */
  code: string;
  /** One plain sentence. */
  text: string;
  /** `warning` asks for attention, `note` only records. */
  severity: 'note' | 'warning';
  /**
   * Where it came from: reading the file, which is done once, or computing, which is done again
   * when what it is computed from changes. Absent outside logs.
   */
  from?: 'file' | 'computed';
}

/** One line of an uncertainty budget (JCGM 100). */
export interface BudgetComponent {
  /** What it is; all that logic asks of it. */
  kind: BudgetKind;
  /** As shown: the words of its kind, and where it acts if that is not clear. */
  name: string;
  /** Standard uncertainty, in the unit of the figure. */
  standardUncertainty: number;
  /** Where the number comes from, in words. */
  basis: string;
}

/** The function that made a figure, and its version: a change of result is a change of version. */
export interface Method {
  name: string;
  version: number;
}

/** An input a figure was computed from. */
export interface FigureInput {
  name: string;
  value: number | string;
  unit?: Unit;
}

/** Units figures are stored in; `1` for a share. */
export type Unit =
  | 'Ah'
  | 'Wh'
  | 'V'
  | 'A'
  | 'mΩ'
  | '°C'
  | 's'
  | '1'
  | '%'
  | 'g'
  | 'mm'
  | 'Wh/L'
  | 'Wh/kg'
  | 'mV/d'
  | 'µA';

/** The quantities a figure can state. AC and DC resistance are different quantities. */
export type Quantity =
  | 'capacity'
  | 'capacityAtClaim'
  | 'windowCapacity'
  | 'capacityFromWindow'
  | 'energy'
  | 'meanVoltage'
  | 'dcResistance1s'
  | 'dcResistance10s'
  | 'dcResistance30s'
  | 'dcResistanceTwoStep'
  | 'dcResistanceString'
  | 'acResistance'
  | 'openCircuitVoltage'
  | 'mass'
  | 'thickness'
  | 'stateOfHealth'
  | 'energyDensity'
  | 'energyBehindInverter'
  | 'inverterEfficiency'
  | 'inverterLosses'
  | 'selfDischargeSlope'
  | 'selfDischargeMonth'
  | 'leakageCurrent';

/**
 * A derived number with everything needed to defend it: value, unit, standard
 * uncertainty, bound, method, inputs, steps, findings and budget (handbook, chapter 3).
 */
export interface Figure extends Estimate {
  quantity: Quantity;
  unit: Unit;
  method: Method;
  inputs: FigureInput[];
  /** What was done, in order, one sentence each. */
  steps: string[];
  findings: Finding[];
  /** Largest first; the root sum of squares is `standardUncertainty`. */
  budget: BudgetComponent[];
  /** Part of the trace the figure was read from, seconds from its start. */
  span?: { fromS: number; toS: number };
}

/** Coverage factor used throughout (handbook, chapter 3). */
export const COVERAGE_FACTOR = 2;

/**
 * Expanded uncertainty U = k·u with k = 2, or null when u is unknown.
 * @example expandedUncertainty({ standardUncertainty: 0.4 }) // 0.8
 */
export function expandedUncertainty(figure: Pick<Estimate, 'standardUncertainty'>): number | null {
  return figure.standardUncertainty === null ? null : COVERAGE_FACTOR * figure.standardUncertainty;
}
