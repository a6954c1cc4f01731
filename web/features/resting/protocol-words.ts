import { REST_OUTCOMES, type RestLook, type RestProtocol } from '@dusk-tally/core/resting';

/** One look in words: when it is due and what its voltage says. */
function lookWords({ dueDays, steps, otherwise }: RestLook): string {
  const volts = steps
    .toSorted((a, b) => b.atLeastV - a.atLeastV)
    .map(
      ({ atLeastV, outcome }) => `${REST_OUTCOMES[outcome].words} from ${atLeastV.toFixed(2)} V`,
    );
  return steps.length === 0
    ? `after ${dueDays} days`
    : `after ${dueDays} days: ${volts.join(', ')}, below that ${REST_OUTCOMES[otherwise].words}`;
}

/** A protocol in a line. */
export const protocolWords = ({ judges, looks, leastRetention }: RestProtocol): string =>
  `${looks.map(lookWords).join('; then ')}${leastRetention === null ? '' : `, then discharged uncharged: at least ${100 * leastRetention} % of its capacity kept`}; who loses faster than the lot is named${judges === 'lot' ? ', by the lot alone' : ''}`;
