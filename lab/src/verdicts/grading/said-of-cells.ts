import { dayIn } from '@dusk-tally/core/units';
import type { GradeDecision } from '@dusk-tally/core/verdicts';
import type { Transaction } from '@dusk-tally/store';
import { labTimeZone } from '../../lots';
import type { Lab } from '../../shared';

/** What people did and said of cells that bears on their grades, by cell. */
export interface SaidOfCells {
  decisions: ReadonlyMap<number, GradeDecision>;
  recoveries: ReadonlyMap<number, number>;
}

/** Decisions that stand, and how often each cell was brought back from deep discharge. */
export async function saidOf(
  lab: Lab,
  lotId: number,
  cellIds: readonly number[] | null,
  transaction: Transaction,
): Promise<SaidOfCells> {
  const { grading, arrivals, people } = lab.store;
  const where = cellIds ? { lotId, cellId: [...cellIds] } : { lotId };
  const [decided, released] = await Promise.all([
    grading.decisions.find(
      { ...where, takenBackAt: null },
      { transaction, order: [['id', 'ASC']] },
    ),
    arrivals.recoveries.find(
      { ...where, act: 'released' },
      { transaction, columns: ['id', 'cellId'] },
    ),
  ]);
  const recoveries = new Map<number, number>();
  for (const { cellId } of released) recoveries.set(cellId, (recoveries.get(cellId) ?? 0) + 1);
  if (decided.length === 0) return { decisions: new Map(), recoveries };
  const [timeZone, names] = await Promise.all([
    labTimeZone(lab, transaction),
    people.find(
      { id: [...new Set(decided.map(({ personId }) => personId))] },
      { transaction, columns: ['id', 'name'] },
    ),
  ]);
  const nameOf = new Map(names.map(({ id, name }) => [id, name]));
  return {
    recoveries,
    decisions: new Map(
      decided.map(({ cellId, grade, reason, personId, at }) => [
        cellId,
        { grade, reason, who: nameOf.get(personId) ?? '', day: dayIn(timeZone, at) },
      ]),
    ),
  };
}

/** What was said of one cell, as it is judged with. */
export const saidOfCell = (
  { decisions, recoveries }: SaidOfCells,
  cellId: number,
): { decision?: GradeDecision; recoveries?: number } => {
  const [decision, times] = [decisions.get(cellId), recoveries.get(cellId)];
  return { ...(decision && { decision }), ...(times && { recoveries: times }) };
};
