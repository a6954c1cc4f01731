import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** When rounds of conditioning of cells began, oldest first, by cell. */
export type Conditioned = ReadonlyMap<number, readonly Date[]>;

/** Rounds of conditioning on the bench that began: of a lot, or of the whole lab. */
export async function conditionedCells(
  lab: Lab,
  lotId: number | null,
  transaction?: Transaction,
): Promise<Conditioned> {
  const { bench } = lab.store;
  const versions = await bench.versionsFor('conditioning', transaction);
  if (versions.length === 0) return new Map();
  const runs = await bench.runs.find(
    {
      recipeVersionId: versions,
      // One that is on has begun: what is tested since is of the cell as it leaves it.
      state: ['running', 'ended', 'stored'],
      ...(lotId !== null && { lotId }),
    },
    { transaction, columns: ['cellId', 'startedAt', 'createdAt'], order: [['id', 'ASC']] },
  );
  const byCell = new Map<number, Date[]>();
  for (const { cellId, startedAt, createdAt } of runs)
    byCell.set(cellId, [...(byCell.get(cellId) ?? []), startedAt ?? createdAt]);
  return byCell;
}

/**
 * How many rounds of conditioning began before a run of a cell: results on both sides of one are no
 * repeats of each other, because the cell is not what it was (handbook, chapter 4).
 */
export const roundsBefore = (conditioned: Conditioned, cellId: number, at: Date): number =>
  conditioned.get(cellId)?.filter((began) => began <= at).length ?? 0;
