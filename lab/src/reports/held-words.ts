import { CLAMPING_WORDS } from '@dusk-tally/core/chemistry';
import type { RunRow } from '@dusk-tally/store';

/**
 * How flat cells were held in the runs their capacity comes from, in a sentence; none for round cells.
 * @param runs of the reported cells, one each.
 */
export function heldWords(
  format: 'cylinder' | 'prism' | 'pouch',
  runs: readonly Pick<RunRow, 'clamping'>[],
): string[] {
  if (format === 'cylinder' || runs.length === 0) return [];
  const counts = [CLAMPING_WORDS.fixture, CLAMPING_WORDS.free, 'not recorded'].flatMap(
    (words, i) => {
      const held = (['fixture', 'free', null] as const)[i]!;
      const count = runs.filter(({ clamping }) => clamping === held).length;
      return count > 0 ? [`${count} ${words}`] : [];
    },
  );
  return [`How the cells were held in the test: ${counts.join('; ')}.`];
}
