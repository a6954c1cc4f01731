import type { Derivation } from '../derived';
import type { Change } from '../shared';
import { refreshArrivals } from './refresh-arrivals';

/** Where cells stand between the box and the bench: findings, first voltage, triage, gate. */
export const arrivalsDerivation: Derivation = {
  name: 'arrivals',
  reads: [
    'cells',
    'readings',
    'inspection',
    'recoveries',
    'codes',
    'codeRules',
    'arrivalRules',
    'arrivalDay',
    'cellModel',
  ],
  makes: ['arrivals'],
  refresh: async (lab, touched, transaction) => {
    const made: Change[] = [];
    for (const { lotId, cellIds } of touched) {
      const changed = await refreshArrivals(lab, lotId, cellIds && [...cellIds], transaction);
      if (changed.length > 0) made.push({ what: 'arrivals', lotId, cellIds: changed });
    }
    return made;
  },
};
