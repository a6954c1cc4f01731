import { expandedUncertainty, formatWithUncertainty } from '@dusk-tally/core/units';
import type { AssessmentRow } from '@dusk-tally/store';
import type { MissedItem } from '../compute';
import type { Lab } from '../shared';
import type { LotItem } from '../verdicts';

/** What of a cell misses an item: its figure, or what contradicts the words. */
function missText({ value, standardUncertainty, detail }: AssessmentRow, unit: string | null) {
  if (value === null || unit === null) return detail.why.join('; ');
  const figure = formatWithUncertainty(value, expandedUncertainty({ standardUncertainty }));
  return `${figure.value}${figure.uncertainty ? ` ± ${figure.uncertainty}` : ''} ${unit}`;
}

/** Every claimed item but capacity that cells miss, cell by cell, so that each count can be checked. */
export async function missedItems(
  lab: Lab,
  lotId: number,
  items: readonly LotItem[],
  numberOf: ReadonlyMap<number, string>,
): Promise<MissedItem[]> {
  const rows = await lab.store.verdicts.assessments.find({
    lotId,
    state: ['notMet', 'contradicted'],
  });
  return items.flatMap(({ kind, words, claimed, unit }) => {
    const cells = rows
      .filter(({ item, cellId }) => item === kind && kind !== 'capacity' && numberOf.has(cellId))
      .map((row) => ({
        number: numberOf.get(row.cellId)!,
        text: missText(row, unit),
        ...(row.figureId === null ? {} : { resultId: row.figureId }),
      }))
      .sort((a, b) => a.number.localeCompare(b.number, 'en', { numeric: true }));
    return cells.length === 0 ? [] : [{ words, claimed, cells }];
  });
}
