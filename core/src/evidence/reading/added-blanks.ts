import type { ScannedRows } from './scanned-rows';

/** Empty cells of two pieces, by header. */
export function addedBlanks(
  first: ScannedRows['blanks'] = {},
  second: ScannedRows['blanks'] = {},
): Record<string, number> {
  const sum = { ...first };
  for (const [header, count] of Object.entries(second)) sum[header] = (sum[header] ?? 0) + count;
  return sum;
}
