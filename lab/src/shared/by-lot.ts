/** Rows of several lots, by lot, in the order they came in. */
export function byLot<Row extends { lotId: number }>(rows: readonly Row[]): Map<number, Row[]> {
  const lots = new Map<number, Row[]>();
  for (const row of rows) {
    const own = lots.get(row.lotId);
    if (own) own.push(row);
    else lots.set(row.lotId, [row]);
  }
  return lots;
}
