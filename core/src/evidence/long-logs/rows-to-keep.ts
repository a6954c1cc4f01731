/** Rows kept before an event, and time after it: four times the longest delay of a resistance. */
const ROWS_BEFORE = 64;
const AFTER_S = 125;
const MOST_AFTER = 60_000;

/** Stretches of rows kept whole, in order and apart from each other. */
export function keptWhole(
  { events, intervalS }: { events: readonly number[]; intervalS: number },
  rows: number,
  budget: number,
): [number, number][] {
  if (events.length === 0) return [];
  const wanted = Math.min(MOST_AFTER, Math.ceil(AFTER_S / intervalS));
  const share = Math.floor(budget / events.length);
  const before = Math.min(ROWS_BEFORE, Math.max(2, share >> 1));
  const after = Math.max(2, Math.min(wanted, share - before));
  const most = Math.ceil(budget / 4);
  const kept: [number, number][] = [];
  // More steps than could ever be kept whole: every so many of them.
  const every = Math.max(1, Math.ceil(events.length / most));
  for (let k = 0; k < events.length; k += every) {
    const from = Math.max(0, events[k]! - before);
    const to = Math.min(rows - 1, events[k]! + after);
    const last = kept[kept.length - 1];
    if (last && from <= last[1] + 1) last[1] = Math.max(last[1], to);
    else kept.push([from, to]);
  }
  return kept;
}

/** Rows kept: every `stride`-th, all of the stretches kept whole, and the last. */
export function keptRows(rows: number, stride: number, whole: [number, number][]): Uint32Array {
  const kept: number[] = [];
  let next = 0;
  let row = 0;
  while (row < rows) {
    while (next < whole.length && whole[next]![1] < row) next++;
    kept.push(row);
    const span = whole[next];
    if (span && row >= span[0] && row < span[1]) row++;
    else {
      const even = (Math.floor(row / stride) + 1) * stride;
      row = span && span[0] > row ? Math.min(even, span[0]) : even;
    }
  }
  if (kept[kept.length - 1] !== rows - 1) kept.push(rows - 1);
  return Uint32Array.from(kept);
}
