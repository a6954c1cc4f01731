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
    const byText = new Map<string, string[]>();
    for (const row of rows) {
      const number = numberOf.get(row.cellId);
      if (row.item !== kind || kind === 'capacity' || number === undefined) continue;
      const text = missText(row, unit);
      byText.set(text, [...(byText.get(text) ?? []), number]);
    }
    const order = (a: string, b: string) => a.localeCompare(b, 'en', { numeric: true });
    const found = [...byText]
      .map(([text, cells]) => ({ text, cells: cells.sort(order) }))
      .sort((a, b) => b.cells.length - a.cells.length || order(a.cells[0]!, b.cells[0]!));
    return found.length === 0 ? [] : [{ words, claimed, found }];
  });
}
