import { type NameableCell, readCells } from '@dusk-tally/core/arrivals';

/**
 * Columns with what one field names put into it and, where that is several cells, into those after it.
 * @returns the cell of each column, null for none; or what is wrong, in words.
 */
export function fillFrom(
  texts: readonly string[],
  column: number,
  cells: readonly NameableCell[],
): { ids: (number | null)[] } | { wrong: string } {
  const ids = texts.map((text) =>
    text.trim() === '' ? null : (readCells(text, cells).ids[0] ?? null),
  );
  const text = texts[column]!.trim();
  if (text === '') return { ids };
  const read = readCells(text, cells);
  if (read.unknown.length > 0) return { wrong: `“${read.unknown[0]}”: no cell of this lot.` };
  if (column + read.ids.length > texts.length)
    return {
      wrong: `“${text}” names ${read.ids.length} cells; from here on there are ${texts.length - column} columns.`,
    };
  read.ids.forEach((id, i) => (ids[column + i] = id));
  return { ids };
}
