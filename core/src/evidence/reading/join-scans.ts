import { refuseForText, type ScannedRows } from './scanned-rows';

/** Two stretches of rows as one; the room behind the first is used where there is enough. */
function joined<T extends Float64Array | Uint8Array>(first: T, second: T): T {
  const total = first.length + second.length;
  // eslint-disable-next-line no-restricted-syntax -- The constructor of an array says no more than Function.
  const Kind = first.constructor as unknown as {
    new (buffer: ArrayBufferLike, offset: number, n: number): T;
    new (n: number): T;
  };
  const room = (first.buffer.byteLength - first.byteOffset) / first.BYTES_PER_ELEMENT;
  const whole = room >= total ? new Kind(first.buffer, first.byteOffset, total) : new Kind(total);
  if (room < total) whole.set(first as ArrayLike<number>, 0);
  whole.set(second as ArrayLike<number>, first.length);
  return whole;
}

/** Empty cells of two pieces, by header. */
export function addedBlanks(
  first: ScannedRows['blanks'] = {},
  second: ScannedRows['blanks'] = {},
): Record<string, number> {
  const sum = { ...first };
  for (const [header, count] of Object.entries(second)) sum[header] = (sum[header] ?? 0) + count;
  return sum;
}

/**
 * Rows of two pieces of one log that follow each other, scanned apart with `partOfMore`, the
 * second as if it began in line 1.
 * @throws LogRefusal where more than 1 % of all rows hold text.
 */
export function joinScans(first: ScannedRows, second: ScannedRows): ScannedRows {
  const lines = first.nextRow - 1;
  const rejected = [
    ...first.rejected,
    ...second.rejected.map((entry) => ({ ...entry, row: entry.row + lines })),
  ].slice(0, 20);
  const rejectedCount = first.rejectedCount + second.rejectedCount;
  const count = first.count + second.count;
  refuseForText(rejected, rejectedCount, count + rejectedCount);
  return {
    count,
    timeS: joined(first.timeS, second.timeS),
    timeDecimals: Math.max(first.timeDecimals, second.timeDecimals),
    numbers: first.numbers.map((sink, i) => ({
      ...sink,
      values: joined(sink.values, second.numbers[i]!.values),
      decimals: Math.max(sink.decimals, second.numbers[i]!.decimals),
    })),
    mode: first.mode && second.mode && joined(first.mode, second.mode),
    rejected,
    rejectedCount,
    brokenTailRow: second.brokenTailRow === null ? null : second.brokenTailRow + lines,
    commentRows: first.commentRows + second.commentRows,
    blanks: addedBlanks(first.blanks, second.blanks),
    nextRow: second.nextRow + lines,
  };
}
