import { rootSumOfSquares } from '@dusk-tally/core/units';
import type { RestRow, RunSummary, Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

const DAY_MS = 86_400_000;

/** Share of its capacity a cell kept over a rest, and when the discharge began that told it. */
export interface Retention {
  value: number;
  standardUncertainty: number;
  at: Date;
}

interface Tested {
  cellId: number;
  at: Date;
  ah: number;
  u: number;
  amps: number;
  /** It was charged before its discharge: what it kept cannot be told any more. */
  chargedFirst: boolean;
}

/** Discharges further apart in current than this share are not compared. */
const LIKE_CURRENT = 0.1;

/** Whether a log holds a charge before its load came on. */
const chargedFirst = ({ sections, loadOnS }: RunSummary): boolean =>
  sections.some(({ kind, fromS }) => kind === 'charge' && fromS < (loadOnS ?? Infinity));

/** Capacities of cells by their runs, in order of time; those only bounded, or of unknown doubt, left out. */
async function testedOf(
  lab: Lab,
  cellIds: readonly number[],
  transaction?: Transaction,
): Promise<Tested[]> {
  const [runs, figures, held] = await Promise.all([
    lab.store.runs.find(
      { cellId: cellIds },
      { transaction, columns: ['id', 'cellId', 'startedAt', 'createdAt', 'summary'] },
    ),
    lab.store.figures.find(
      { cellId: cellIds, quantity: 'capacity' },
      {
        transaction,
        columns: ['id', 'runId', 'cutoffV', 'value', 'standardUncertainty', 'bound'],
        order: [['id', 'ASC']],
      },
    ),
    lab.store.results.holds.find(
      { cellId: cellIds, liftedAt: null },
      { transaction, columns: ['runId'] },
    ),
  ]);
  const isHeld = new Set(held.map(({ runId }) => runId));
  return runs
    .flatMap(({ id, cellId, startedAt, createdAt, summary }): Tested[] => {
      const figure = figures.findLast(
        ({ runId, cutoffV }) => runId === id && cutoffV === summary.cutoffV,
      );
      if (!figure || isHeld.has(id) || figure.bound !== 'exact') return [];
      const amps = summary.meanCurrentA;
      if (figure.standardUncertainty === null || amps === null) return [];
      return [
        {
          cellId,
          at: startedAt ?? createdAt,
          ah: figure.value,
          u: figure.standardUncertainty,
          amps: Math.abs(amps),
          chargedFirst: chargedFirst(summary),
        },
      ];
    })
    .sort((a, b) => a.at.getTime() - b.at.getTime());
}

/**
 * What cells kept of their capacity over rests that ask for it: the first discharge after the due day,
 * not charged before, over the last one before the charge (handbook, chapter 4).
 * @returns by rest.
 */
export async function retentionsOf(
  lab: Lab,
  rests: readonly RestRow[],
  transaction?: Transaction,
): Promise<Map<number, Retention>> {
  const asking = rests.filter(({ protocol }) => protocol.leastRetention !== null);
  if (asking.length === 0) return new Map();
  const tested = await testedOf(
    lab,
    asking.map(({ cellId }) => cellId),
    transaction,
  );
  return new Map(
    asking.flatMap((rest) => {
      const own = tested.filter(({ cellId }) => cellId === rest.cellId);
      const due = rest.fullAt.getTime() + rest.protocol.looks[rest.look]!.dueDays * DAY_MS;
      // What was discharged before its due day, or charged again first, kept nothing to tell.
      const after = own.find(({ at }) => at > rest.fullAt);
      if (!after || after.at.getTime() < due || after.chargedFirst) return [];
      const before = own.findLast(
        ({ at, amps }) => at <= rest.fullAt && Math.abs(amps / after.amps - 1) <= LIKE_CURRENT,
      );
      if (!before) return [];
      const value = after.ah / before.ah;
      const standardUncertainty =
        value * rootSumOfSquares([after.u / after.ah, before.u / before.ah]);
      return [[rest.id, { value, standardUncertainty, at: after.at }] as const];
    }),
  );
}
