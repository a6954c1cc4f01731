/**
 * A number of the lab's own series: `B-0017`, four digits or more.
 * @example formatCellNumber('B', 17) // 'B-0017'
 */
export function formatCellNumber(prefix: string, sequence: number): string {
  return `${prefix}-${String(sequence).padStart(4, '0')}`;
}

/**
 * Finds which of the known cells a file name or typed code means: a whole number of the series,
 * the lab's digits alone, or the cell's own label; null when none or more than one fits.
 * @param cells number and optional own label of each candidate.
 */
export function matchCell<T extends { number: string; label: string | null }>(
  text: string,
  cells: T[],
): T | null {
  const stem = text.replace(/\.[a-z0-9]{1,4}$/i, '');
  const upper = stem.toUpperCase();
  const contains = (needle: string) => {
    const escaped = needle.toUpperCase().replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
    return new RegExp(`(^|[^A-Z0-9])${escaped}($|[^A-Z0-9])`).test(upper);
  };
  const whole = cells.filter(
    (cell) => contains(cell.number) || contains(cell.number.replace('-', '')),
  );
  if (whole.length > 0) return whole.length === 1 ? whole[0]! : null;
  const labelled = cells.filter((cell) => cell.label && contains(cell.label));
  if (labelled.length > 0) return labelled.length === 1 ? labelled[0]! : null;
  const bare = /^\s*0*(\d{1,6})\s*$/.exec(stem);
  if (!bare) return null;
  const numbered = cells.filter(
    (cell) => Number(/(\d+)$/.exec(cell.number)?.[1]) === Number(bare[1]),
  );
  return numbered.length === 1 ? numbered[0]! : null;
}
