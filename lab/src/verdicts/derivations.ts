import type { Derivation } from '../derived';
import type { Change } from '../shared';
import { refreshStandings } from './standings';

export { gradedCells } from './grading/regrade';

/** Where cells stand against everything claimed of them, and their grades. */
export const judgedCells: Derivation = {
  name: 'judged cells',
  reads: [
    'cells',
    'readings',
    'runs',
    'figures',
    'holds',
    'holdLimits',
    'guardFactor',
    'arrivals',
    'arrivalDay',
    'boxMass',
    'claim',
    'cellModel',
    'chemistryProfile',
    'channelFit',
    'restOutcomes',
    'recoveries',
    'gradeDecision',
  ],
  makes: ['ruleHolds'],
  refresh: async (lab, touched, transaction, origin) => {
    const made: Change[] = [];
    for (const { lotId, cellIds } of touched)
      made.push(
        ...(await refreshStandings(lab, lotId, cellIds && [...cellIds], transaction, origin)).map(
          (cells): Change => ({ what: 'ruleHolds', lotId, cellIds: cells }),
        ),
      );
    return made;
  },
};
