import { GATE_WORDS } from '@dusk-tally/core/arrivals';
import type { LotListRow } from '@dusk-tally/lab/verdicts';
import { STEP_NAMES } from './step-words';

/** Where a lot stands on arrival, in the few words a row has room for. */
export interface ArrivalWords {
  /** How far it is, and what comes next. */
  steps: string;
  /** What keeps cells from the bench, the worst first. */
  heldUp: { count: number; words: string }[];
  /** Everything that is open, for those who ask. */
  whole: string;
}

/** `GATE_WORDS` is in the order of what is worst. */
const WORST = Object.keys(GATE_WORDS);

/** Steps and gates of a lot’s arrival in words. */
export function arrivalWords({ gates, steps }: LotListRow['arrival']): ArrivalWords {
  const open = steps.filter(({ state }) => state === 'open' || state === 'begun');
  const names = open.map(({ step }) => STEP_NAMES[step].toLowerCase());
  const heldUp = gates
    .filter(({ gate, count }) => gate !== 'ready' && gate !== 'open' && count > 0)
    .sort((a, b) => WORST.indexOf(a.gate) - WORST.indexOf(b.gate))
    .map(({ gate, count }) => ({ count, words: `${count} ${GATE_WORDS[gate]}` }));
  return {
    steps: names.length === 0 ? 'complete' : `next: ${names[0]}`,
    heldUp,
    whole: [
      ...heldUp.map(({ words }) => words),
      names.length === 0 ? 'complete' : `open: ${names.join(', ')}`,
    ].join('; '),
  };
}
