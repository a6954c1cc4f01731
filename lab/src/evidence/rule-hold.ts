import type { ResultHoldRow } from '@dusk-tally/store';
import type { Lab } from '../shared';

type Said = Pick<ResultHoldRow, 'lotId' | 'cellId' | 'runId' | 'readingId' | 'rule' | 'text'> &
  Partial<Pick<ResultHoldRow, 'otherRunId'>>;

/** A hold as a rule says it: of nobody, and not lifted. */
export const ruleHold = (lab: Lab, said: Said): Omit<ResultHoldRow, 'id' | 'version'> => ({
  ...said,
  personId: null,
  at: lab.now(),
  liftedAt: null,
  liftedBy: null,
  liftReason: null,
});
