import { dayIn } from '@dusk-tally/core/units';
import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** Every time a sample of a lot that was decided, or had results, was opened again: when, by whom, and why. */
export async function reopenedWords(
  lab: Lab,
  lotId: number,
  timeZone: string,
  transaction: Transaction,
): Promise<string[]> {
  const { arrivals, people } = lab.store;
  const plans = await arrivals.samplingPlans.find({ lotId }, { transaction, columns: ['id'] });
  if (plans.length === 0) return [];
  const rows = await arrivals.samplingResults.find(
    { planId: plans.map(({ id }) => id), state: 'reopened' },
    { transaction, order: [['id', 'ASC']] },
  );
  if (rows.length === 0) return [];
  const leads = await people.find(
    { id: rows.flatMap(({ personId }) => personId ?? []) },
    { transaction, columns: ['id', 'name'] },
  );
  const nameOf = new Map(leads.map(({ id, name }) => [id, name]));
  return rows.map(
    ({ at, personId, reason }) =>
      `The sample of the lot was opened again on ${dayIn(timeZone, at)} by ${nameOf.get(personId!)}: ${reason}`,
  );
}
