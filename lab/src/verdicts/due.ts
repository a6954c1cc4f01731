import type { LotRow } from '@dusk-tally/store';
import { DUE, type DueItem, type Lab, type Urgency } from '../shared';

export type VerdictDue =
  'held' | 'short' | 'ready' | 'untested' | 'tooClose' | 'atLeast' | 'resistance';

/** A lower bound decides nothing of these. */
const UNDECIDED: ReadonlySet<string> = new Set(['tooClose', 'notMet']);

/** What the judging of lots waits for, counted in the database. */
export async function dueVerdicts(
  lab: Lab,
  lots: readonly LotRow[],
): Promise<DueItem<VerdictDue>[]> {
  const { verdicts } = lab.store;
  const [cells, capacities, ready, resistances] = await Promise.all([
    verdicts.cellCounts(),
    verdicts.capacityCounts(),
    verdicts.readyUntested(),
    verdicts.resistanceCounts(lots.map(({ id }) => id)),
  ]);
  const of = (rows: readonly { lotId: number; count: number }[], lotId: number) =>
    rows.find((row) => row.lotId === lotId)?.count ?? 0;
  return lots.flatMap((lot) => {
    const all = of(cells, lot.id);
    const states = capacities.filter((row) => row.lotId === lot.id);
    const sum = (pick: (row: (typeof states)[number]) => boolean) =>
      states.filter(pick).reduce((total, { count }) => total + count, 0);
    const untested = all - sum(() => true);
    const waiting = of(ready, lot.id);
    const item = (
      kind: VerdictDue,
      urgency: Urgency,
      path: string,
      count: number,
    ): DueItem<VerdictDue>[] =>
      count > 0
        ? [
            {
              ...DUE,
              key: `${kind} ${lot.code}`,
              stage: 'verdicts',
              kind,
              urgency,
              lot: { code: lot.code, title: lot.title },
              count,
              of: all,
              path: path.startsWith('/') ? path : `/lots/${lot.code}/${path}`,
            },
          ]
        : [];
    const isAtLeast = (bound: string | null) => bound === 'atLeast';
    return [
      ...item(
        'held',
        'now',
        'cells?show=held',
        sum(({ state }) => state === 'held'),
      ),
      ...item(
        'short',
        'canWait',
        'verdict',
        sum(({ state, bound }) => state === 'notMet' && !isAtLeast(bound)),
      ),
      ...item('ready', 'canWait', '/bench/plan', waiting),
      ...item('untested', 'canWait', 'cells', untested - waiting),
      ...item(
        'tooClose',
        'canWait',
        'cells',
        sum(({ state, bound }) => state === 'tooClose' && !isAtLeast(bound)),
      ),
      ...item(
        'atLeast',
        'canWait',
        'cells',
        sum(({ state, bound }) => UNDECIDED.has(state) && isAtLeast(bound)),
      ),
      ...item('resistance', 'canWait', 'readings', all - of(resistances, lot.id)),
    ];
  });
}
