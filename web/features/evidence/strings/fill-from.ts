import { type NameableCell, readCells } from '@dusk-tally/core/arrivals';

/**
 * Fields with what one of them names put into it and, where that is several cells, into those after
 * it. All others stay as they were typed.
 * @returns the texts of all fields; or what is wrong, in words.
 */
export function fillFrom(
  texts: readonly string[],
  field: number,
  cells: readonly NameableCell[],
): { texts: string[] } | { wrong: string } {
  const text = texts[field]!.trim();
  if (text === '') return { texts: [...texts] };
  const { ids, unknown } = readCells(text, cells);
  if (unknown.length > 0) return { wrong: `“${unknown[0]}”: no cell of this lot.` };
  if (field + ids.length > texts.length)
    return {
      wrong: `“${text}” names ${ids.length} cells; from here on there are ${texts.length - field} columns.`,
    };
  const numbers = new Map(cells.map(({ id, number }) => [id, number]));
  return {
    texts: texts.map((old, i) => {
      const id = ids[i - field];
      return id === undefined ? old : numbers.get(id)!;
    }),
  };
}
