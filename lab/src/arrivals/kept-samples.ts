import type { SamplingResultRow, Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** What is kept of a sample: results that count, and what it was decided as; of the time since it was opened again. */
export interface KeptSample {
  /** What each cell came to first. */
  first: ReadonlyMap<number, SamplingResultRow>;
  decided: SamplingResultRow | null;
  /** Every time it was opened again, oldest first. */
  reopened: readonly SamplingResultRow[];
}

/** Rows of one plan as they count. @param rows oldest first. */
export function keptSample(rows: readonly SamplingResultRow[]): KeptSample {
  const reopened = rows.filter(({ state }) => state === 'reopened');
  const since = reopened.at(-1)?.id ?? 0;
  const counting = rows.filter(({ id, state }) => id > since && state !== 'reopened');
  const first = new Map<number, SamplingResultRow>();
  for (const row of counting)
    if (row.cellId !== null && !first.has(row.cellId)) first.set(row.cellId, row);
  return { first, decided: counting.find(({ cellId }) => cellId === null) ?? null, reopened };
}

/** What is kept of some plans, by plan. */
export async function keptSamples(
  lab: Lab,
  planIds: readonly number[],
  transaction?: Transaction,
): Promise<Map<number, KeptSample>> {
  const rows = await lab.store.arrivals.samplingResults.find(
    { planId: [...planIds] },
    { transaction, order: [['id', 'ASC']] },
  );
  return new Map(
    planIds.map((planId) => [planId, keptSample(rows.filter((row) => row.planId === planId))]),
  );
}
