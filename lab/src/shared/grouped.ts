/** Rows that have a key in common, in the order they came in. */
export function groupedBy<Row, Key>(
  rows: readonly Row[],
  keyOf: (row: Row) => Key,
): Map<Key, Row[]> {
  const groups = new Map<Key, Row[]>();
  for (const row of rows) {
    const own = groups.get(keyOf(row));
    if (own) own.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** Rows of several lots, by lot. */
export const byLot = <Row extends { lotId: number }>(rows: readonly Row[]): Map<number, Row[]> =>
  groupedBy(rows, ({ lotId }) => lotId);
