import {
  type Bound,
  type Estimate,
  type Figure,
  formatNumber,
  scaledEstimate,
  scaledPart,
} from '../units';

/** Kept with every state of health. */
export const STATE_OF_HEALTH_METHOD = { name: 'state-of-health', version: 1 };

/**
 * State of health as a share, where only the number and its doubt are asked for.
 * @example healthEstimate({ value: 93.6, standardUncertainty: 0.52, bound: 'exact' }, 104) // { value: 0.9, standardUncertainty: 0.005, bound: 'exact' }
 */
export function healthEstimate(capacity: Estimate, ratedAh: number): Estimate {
  if (!(ratedAh > 0)) throw new RangeError('Expected a rated capacity above 0 Ah.');
  return { ...scaledEstimate(capacity, 1 / ratedAh), value: capacity.value / ratedAh };
}

/**
 * State of health: tested over rated capacity, as a share (handbook, README, "Words").
 * The rated value is taken as exact: it is a statement, not a measurement.
 */
export function stateOfHealth(capacity: Figure, ratedAh: number): Figure {
  if (!(ratedAh > 0)) throw new RangeError('Expected a rated capacity above 0 Ah.');
  const scaled = (value: number) => value / ratedAh;
  return {
    ...capacity,
    quantity: 'stateOfHealth',
    value: scaled(capacity.value),
    unit: '1',
    standardUncertainty:
      capacity.standardUncertainty === null ? null : scaled(capacity.standardUncertainty),
    method: STATE_OF_HEALTH_METHOD,
    inputs: [
      { name: 'capacity', value: capacity.value, unit: 'Ah' },
      { name: 'rated capacity', value: ratedAh, unit: 'Ah' },
    ],
    steps: [...capacity.steps, 'Divided by the rated capacity.'],
    budget: capacity.budget.map((part) => scaledPart(part, 1 / ratedAh)),
  };
}

/**
 * A state of health as a table shows it, %.
 * @param bound of the capacity it is by: a lower bound says so.
 * @example healthText(39.5, 'atLeast') // '≥ 39.5'
 */
export const healthText = (pct: number | null, bound: Bound | undefined): string =>
  pct === null ? '–' : `${bound === 'atLeast' ? '≥ ' : ''}${formatNumber(pct, 1)}`;
