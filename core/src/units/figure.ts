/** How a value bounds the quantity: exactly it, or only from one side. */
export type Bound = 'exact' | 'atLeast' | 'atMost';

/** A number with its doubt: what is judged, carried and compared; every Figure is one. */
export interface Estimate {
  value: number;
  /** Standard uncertainty; null where it is not known, which is never zero. */
  standardUncertainty: number | null;
  bound: Bound;
}

/** Something noticed on the way to a figure or in a log, worth a person's eye. */
export interface Finding {
  /** Stable short name in kebab-case, for filters and scripts. */
  code: string;
  /** One plain sentence. */
  text: string;
  /** `warning` asks for attention, `note` only records. */
  severity: 'note' | 'warning';
}

/** One line of an uncertainty budget (JCGM 100). */
export interface BudgetComponent {
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

export type Unit =
  'Ah' | 'Wh' | 'V' | 'A' | 'mΩ' | '°C' | 's' | '1' | '%' | 'g' | 'mm' | 'Wh/L' | 'Wh/kg';

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
  | 'inverterLosses';

/**
 * A derived number with everything needed to defend it: value, unit, standard
 * uncertainty, bound, method, inputs, steps, findings and budget (handbook, chapter 3).
 */
export interface Figure {
  quantity: Quantity;
  value: number;
  unit: Unit;
  /** Standard uncertainty u in `unit`; null only when nothing is known of it. */
  standardUncertainty: number | null;
  bound: Bound;
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

/** Expanded uncertainty U = k·u with k = 2, or null when u is unknown. */
export function expandedUncertainty(figure: Pick<Figure, 'standardUncertainty'>): number | null {
  return figure.standardUncertainty === null ? null : COVERAGE_FACTOR * figure.standardUncertainty;
}
