import type { Derivation } from '../derived';
import type { Change } from '../shared';
import { refreshStandings } from './standings';
import { refreshSwapped } from './swapped-cells';

export { gradedCells } from './grading/regrade';

/** Logs that were probably filed under each other’s cells. */
export const swappedCells: Derivation = {
  name: 'swapped cells',
  reads: ['cells', 'readings', 'runs', 'figures', 'holds'],
  makes: ['holds'],
  refresh: async (lab, touched, transaction) => {
    const made: Change[] = [];
    for (const one of touched) {
      const cellIds = await refreshSwapped(lab, one, transaction);
      if (cellIds.length > 0) made.push({ what: 'holds', lotId: one.lotId, cellIds });
    }
    return made;
  },
};

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
    'room',
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
