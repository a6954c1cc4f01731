import { type IdentityOfLog, suspectedSwaps, type SuspectedSwap } from '@dusk-tally/core/verdicts';
import type { Transaction } from '@dusk-tally/store';
import type { Touched } from '../derived';
import { SCANNED_AT_PLACE } from '../bench';
import { ruleHold } from '../evidence';
import type { Lab } from '../shared';

type LotFigure = Awaited<ReturnType<Lab['store']['evidence']['identityFigures']>>[number];

/** Newest value of each quantity, by cell for what was measured of it, by run for what its log shows. */
function newestBy(figures: readonly LotFigure[], key: 'cellId' | 'runId') {
  const newest = new Map<number, Map<string, LotFigure>>();
  for (const figure of figures) {
    const id = figure[key];
    if (id === null || (key === 'cellId') !== (figure.runId === null)) continue;
    if (!newest.has(id)) newest.set(id, new Map());
    newest.get(id)!.set(figure.quantity, figure);
  }
  return newest;
}

/** Logs of a lot with what tells whose they are; those that are held for another reason say nothing. */
async function logsOf(
  lab: Lab,
  lotId: number,
  held: ReadonlySet<number>,
  transaction: Transaction,
): Promise<{ logs: IdentityOfLog[]; cellOf: Map<number, number> }> {
  const figures = await lab.store.evidence.identityFigures(lotId, transaction);
  const [seen, own] = [newestBy(figures, 'runId'), newestBy(figures, 'cellId')];
  const [runs, driven] = await Promise.all([
    lab.store.runs.find(
      { lotId },
      { transaction, columns: ['id', 'cellId', 'startedAt', 'createdAt'], order: [['id', 'ASC']] },
    ),
    lab.store.bench.runs.find({ lotId }, { transaction, columns: ['runId', 'startList'] }),
  ]);
  const scanned = new Set(
    driven.flatMap(({ runId, startList }) =>
      runId !== null && startList.some(({ question }) => question === SCANNED_AT_PLACE)
        ? [runId]
        : [],
    ),
  );
  const logs = runs.flatMap(({ id, cellId, startedAt, createdAt }): IdentityOfLog[] => {
    const of = seen.get(id);
    if (!of || held.has(id)) return [];
    return [
      {
        key: String(id),
        cell: String(cellId),
        atMs: (startedAt ?? createdAt).getTime(),
        isCertain: scanned.has(id),
        own: {
          acMohm: own.get(cellId)?.get('acResistance')?.value ?? null,
          massG: own.get(cellId)?.get('mass')?.value ?? null,
        },
        log: {
          after1sMohm: of.get('dcResistance1s') ?? null,
          after10sMohm: of.get('dcResistance10s') ?? null,
          after30sMohm: of.get('dcResistance30s') ?? null,
          capacityAh: of.get('capacity') ?? null,
        },
      },
    ];
  });
  return { logs, cellOf: new Map(runs.map(({ id, cellId }) => [id, cellId])) };
}

const wordsOf = (other: string, { by }: SuspectedSwap): string =>
  `This log fits ${other}, and that one’s fits this cell, by ${by.join(' and ')}: were the two swapped between their places, or their readings? A lead exchanges the logs, or lifts this hold.`;

/**
 * Holds logs of a lot that were probably filed under each other’s cells, and frees those that are no
 * longer. @returns cells whose holds changed.
 */
export async function refreshSwapped(
  lab: Lab,
  { lotId, cellIds }: Touched,
  transaction: Transaction,
): Promise<number[]> {
  const { holds } = lab.store.results;
  // Only what has run can be swapped: cells that are just received cost nothing here.
  const ran = await lab.store.runs.count(
    cellIds ? { lotId, cellId: [...cellIds] } : { lotId },
    transaction,
  );
  const rows = await holds.find({ lotId, rule: 'swapped' }, { transaction });
  if (ran === 0 && rows.length === 0) return [];
  const others = await holds.find(
    { lotId, liftedAt: null },
    { transaction, columns: ['runId', 'rule'] },
  );
  const held = new Set(
    others.flatMap(({ runId, rule }) => (runId !== null && rule !== 'swapped' ? [runId] : [])),
  );
  const { logs, cellOf } = await logsOf(lab, lotId, held, transaction);
  const now = new Map<number, { other: number; swap: SuspectedSwap }>();
  for (const swap of suspectedSwaps(logs)) {
    const [a, b] = swap.keys.map(Number) as [number, number];
    now.set(a, { other: b, swap }).set(b, { other: a, swap });
  }
  const gone = rows.filter(
    ({ runId, liftedAt, otherRunId }) => liftedAt === null && now.get(runId!)?.other !== otherRunId,
  );
  if (gone.length > 0) await holds.remove({ id: gone.map(({ id }) => id) }, transaction);
  const known = new Set(rows.filter((row) => !gone.includes(row)).map(({ runId }) => runId));
  const fresh = [...now].filter(([runId]) => !known.has(runId));
  if (fresh.length > 0) {
    const numbers = new Map(
      (
        await lab.store.cells.find(
          { id: fresh.map(([, { other }]) => cellOf.get(other)!) },
          { transaction, columns: ['id', 'number'] },
        )
      ).map(({ id, number }) => [id, number]),
    );
    await holds.insertMany(
      fresh.map(([runId, { other, swap }]) =>
        ruleHold(lab, {
          lotId,
          cellId: cellOf.get(runId)!,
          runId,
          readingId: null,
          rule: 'swapped',
          text: wordsOf(numbers.get(cellOf.get(other)!)!, swap),
          otherRunId: other,
        }),
      ),
      transaction,
    );
  }
  return [
    ...new Set([
      ...gone.map(({ cellId }) => cellId),
      ...fresh.map(([runId]) => cellOf.get(runId)!),
    ]),
  ];
}
