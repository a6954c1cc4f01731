import { type CorrectionFactors, HOUSE_FACTORS } from './factors';
import { fitJointly } from './meters/joint-fit';

/** A capacity of one cell under known conditions, for learning what its model does. */
export interface ConditionedCapacity {
  cell: string;
  capacityAh: number;
  currentA: number;
  temperatureC: number | null;
  /** Where it ran; null where that is not known. */
  channel: string | null;
}

/**
 * What one model does with rate and temperature, where its runs tell; the house defaults
 * elsewhere (handbook, chapter 3). Channels are fitted along.
 */
export function factorsOfModel(runs: readonly ConditionedCapacity[]): CorrectionFactors {
  const { factors } = fitJointly(
    runs.map(({ capacityAh, ...run }) => ({ ...run, value: capacityAh, model: 'own' })),
  );
  return factors.get('own') ?? HOUSE_FACTORS;
}
