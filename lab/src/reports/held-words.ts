import { type Clamping, CLAMPING_WORDS } from '@dusk-tally/core/chemistry';
import type { FigureRow, RunRow, Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';
import { type CellLine, heldByReading } from '../verdicts';

/**
 * How flat cells were held when their capacity was tested, in a sentence; none for round cells.
 * @param ways of the reported cells, one each; null where nobody recorded it.
 */
export function heldWords(
  format: 'cylinder' | 'prism' | 'pouch',
  ways: readonly (Clamping | null)[],
): string[] {
  if (format === 'cylinder' || ways.length === 0) return [];
  const counts = [CLAMPING_WORDS.fixture, CLAMPING_WORDS.free, 'not recorded'].flatMap(
    (words, i) => {
      const held = (['fixture', 'free', null] as const)[i]!;
      const count = ways.filter((way) => way === held).length;
      return count > 0 ? [`${count} ${words}`] : [];
    },
  );
  return [`How the cells were held in the test: ${counts.join('; ')}.`];
}

/** What stands of the cells of a report. */
interface Standing {
  lines: readonly CellLine[];
  /** Of the reported cells. */
  figures: readonly Pick<FigureRow, 'id' | 'runId' | 'readingId'>[];
  runs: readonly RunRow[];
}

/** How the reported cells were held when the capacity they stand by was tested, in a sentence. */
export async function heldInTests(
  lab: Lab,
  format: 'cylinder' | 'prism' | 'pouch',
  { lines, figures, runs }: Standing,
  transaction: Transaction,
): Promise<string[]> {
  const ids = new Set(lines.flatMap(({ capacityFigureId }) => capacityFigureId ?? []));
  const capacities = figures.filter(({ id }) => ids.has(id));
  const byReading = await heldByReading(
    lab,
    capacities.flatMap(({ readingId }) => readingId ?? []),
    transaction,
  );
  return heldWords(
    format,
    capacities.map(({ runId, readingId }) =>
      runId === null
        ? (byReading.get(readingId!) ?? null)
        : (runs.find(({ id }) => id === runId)?.clamping ?? null),
    ),
  );
}
