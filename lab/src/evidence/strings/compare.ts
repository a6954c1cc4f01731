import { comparePeriods, type PeriodChange, type StringWatch } from '@dusk-tally/core/evidence';
import type { StringLogRow } from '@dusk-tally/store';
import { z } from 'zod';
import { stretchInput } from '../../inputs';
import { loadClaim } from '../../lots';
import { LabError, question } from '../../shared';
import { rowOf, watchOf } from './stretches';

/** Two stretches beside each other, of one log or of two logs of the same cells. */
export const compareStrings = question({
  role: 'technician',
  input: z.object({ before: stretchInput, after: stretchInput }),
  run: async (
    lab,
    { before, after },
  ): Promise<{ before: StringWatch; after: StringWatch; change: PeriodChange }> => {
    const [a, b] = await Promise.all([rowOf(lab, before.stringId), rowOf(lab, after.stringId)]);
    const { model } = await loadClaim(lab, a.lotId);
    const order = columnsOfSame(a, b);
    const [was, is] = await Promise.all([
      watchOf(lab, a, model.chemistry, before),
      watchOf(lab, b, model.chemistry, after),
    ]);
    const sorted = inOrder(is, order);
    return { before: was, after: sorted, change: comparePeriods(was, sorted) };
  },
});

/** Columns of the second log in the order of the first. @throws LabError for other cells. */
function columnsOfSame(a: StringLogRow, b: StringLogRow): number[] {
  const n = a.cellHeaders.length;
  const plain = Array.from({ length: n }, (_, i) => i);
  if (a.id === b.id) return plain;
  const refuse = (why: string): never => {
    throw new LabError('invalid', `“${a.name}” and “${b.name}” ${why}`, { field: 'after' });
  };
  if (a.lotId !== b.lotId || n !== b.cellHeaders.length)
    refuse(
      `are not of the same string: ${n} and ${b.cellHeaders.length} cells${a.lotId === b.lotId ? '' : ' of two lots'}.`,
    );
  const isTied = (row: StringLogRow) => row.cellIds.every((id) => id !== null);
  // Where nobody said which cell is which, the columns are taken as they stand.
  if (!isTied(a) || !isTied(b)) {
    const clash = plain.some((i) => a.cellIds[i] && b.cellIds[i] && a.cellIds[i] !== b.cellIds[i]);
    return clash ? refuse('name other cells for the same column; tie all of them first.') : plain;
  }
  const order = a.cellIds.map((id) => b.cellIds.indexOf(id));
  return order.includes(-1) ? refuse('are of other cells.') : order;
}

/** A watch with its cells in another order. */
function inOrder(watch: StringWatch, order: readonly number[]): StringWatch {
  const shares = <T extends { highest: number[]; lowest: number[] }>(one: T): T => ({
    ...one,
    highest: order.map((i) => one.highest[i]!),
    lowest: order.map((i) => one.lowest[i]!),
  });
  const { nearFull } = watch;
  return {
    ...watch,
    leaders: shares(watch.leaders),
    nearFull: nearFull && {
      ...shares(nearFull),
      standOut: nearFull.standOut.map((one) => ({ ...one, cell: order.indexOf(one.cell) })),
    },
  };
}
