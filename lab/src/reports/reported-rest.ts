import { formatWithUncertainty } from '@dusk-tally/core/units';
import { REST_OUTCOMES } from '@dusk-tally/core/resting';
import type { RestRow, Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

type Told = { value: number; standardUncertainty: number };

const withU = ({ value, standardUncertainty }: Told, unit: string, factor = 1): string => {
  const told = formatWithUncertainty(factor * value, 2 * factor * standardUncertainty);
  return `${told.value} ± ${told.uncertainty} ${unit}`;
};

/**
 * What a rest on the shelf came to, each part a text of its own.
 * @param rest one that is over and was not called off.
 */
export function restWords({ protocol, outcome, detail }: RestRow): string[] {
  const { days, slope, monthly, retention } = detail;
  return [
    `At rest for ${days === null ? 'some' : days.toFixed(1)} days by the protocol ${protocol.name}: ${REST_OUTCOMES[outcome!].words}.`,
    ...(slope ? [`Voltage at rest: ${withU(slope, 'mV')} a day.`] : []),
    ...(monthly ? [`Charge lost at rest: ${withU(monthly, '%')} in 30 days.`] : []),
    ...(retention ? [`Charge kept over the rest: ${withU(retention, '%', 100)}.`] : []),
  ];
}

/** What the last rest of each cell came to; cells that did not stand, or still do, are absent. */
export async function restsToReport(
  lab: Lab,
  cellIds: readonly number[],
  transaction: Transaction,
): Promise<Map<number, string[]>> {
  const rests = await lab.store.resting.rests.find(
    { cellId: [...cellIds], takenOff: false },
    { transaction, order: [['id', 'ASC']] },
  );
  return new Map(
    rests
      .filter(({ outcome }) => outcome !== null)
      .map((rest) => [rest.cellId, restWords(rest)] as const),
  );
}
