import { type LifeAct, lifeOf, type LifeState } from '@dusk-tally/core/stock';
import type { CellRow, LotRow, StandingRow } from '@dusk-tally/store';
import { gateChanges } from '../arrivals';
import { labTimeZone, lifeOfGate } from '../lots';
import { momentIn } from '@dusk-tally/core/units';
import type { Lab } from '../shared';

/** A stretch of a cell’s life, in words a page can show. */
export interface LifeLine {
  state: LifeState;
  since: Date;
  by: string | null;
}

/** When a lot was counted in, and by whom; else its day of arrival. */
async function arrivalAct(lab: Lab, lot: LotRow): Promise<LifeAct> {
  const [counted] = await lab.store.arrivals.receiving.find(
    { lotId: lot.id, field: ['counted', 'packsCounted'] },
    { order: [['id', 'ASC']], limit: 1 },
  );
  const day = lot.arrivedOn ? momentIn(await labTimeZone(lab), lot.arrivedOn, 0) : null;
  return {
    at: day ?? counted?.at.getTime() ?? 0,
    by: counted ? String(counted.personId) : null,
    changes: {},
  };
}

/** When the newest result that counts came in, and through whom. */
async function gradedAct(lab: Lab, standing: StandingRow | null): Promise<LifeAct[]> {
  if (!standing?.grade || standing.capacityRawFigureId === null) return [];
  const { figures, runs, readings } = lab.store;
  const figure = await figures.one(
    { id: standing.capacityRawFigureId },
    { columns: ['runId', 'readingId'] },
  );
  const run = figure?.runId
    ? await runs.one({ id: figure.runId }, { columns: ['createdAt', 'personId'] })
    : null;
  const reading = figure?.readingId
    ? await readings.one({ id: figure.readingId }, { columns: ['at', 'personId'] })
    : null;
  const at = run?.createdAt ?? reading?.at;
  if (!at) return [];
  return [
    {
      at: at.getTime(),
      by: String(run?.personId ?? reading!.personId),
      changes: { graded: true },
    },
  ];
}

/** A cell’s life from the acts that are kept, oldest first. */
export async function cellLife(
  lab: Lab,
  lot: LotRow,
  cell: CellRow,
  nameOf: (personId: number) => string | null,
): Promise<LifeLine[]> {
  const { bench, resting, verdicts } = lab.store;
  const [arrived, gates, benchRuns, rests, standing] = await Promise.all([
    arrivalAct(lab, lot),
    gateChanges(lab, cell),
    bench.runs.find({ cellId: cell.id }, { order: [['id', 'ASC']] }),
    resting.rests.find({ cellId: cell.id }, { order: [['id', 'ASC']] }),
    verdicts.standings.one({ cellId: cell.id }),
  ]);
  const acts: LifeAct[] = [
    { ...arrived, changes: lifeOfGate(gates.first) },
    ...gates.changes.map(({ gate, at, personId }) => ({
      at: at.getTime(),
      by: String(personId),
      changes: lifeOfGate(gate),
    })),
    ...benchRuns.flatMap(({ startedAt, createdAt, endedAt, personId }): LifeAct[] => {
      const began = (startedAt ?? createdAt).getTime();
      const by = String(personId);
      const start = { at: began, by, changes: { onBench: true } };
      return endedAt
        ? [start, { at: Math.max(began, endedAt.getTime()), by, changes: { onBench: false } }]
        : [start];
    }),
    ...rests.flatMap(({ at, endedAt, personId }): LifeAct[] => {
      const by = String(personId);
      const laid = { at: at.getTime(), by, changes: { resting: true } };
      return endedAt
        ? [laid, { at: Math.max(at.getTime(), endedAt.getTime()), by, changes: { resting: false } }]
        : [laid];
    }),
    ...(await gradedAct(lab, standing)),
  ];
  return lifeOf(acts).map(({ state, since, by }) => ({
    state,
    since: new Date(since),
    by: by === null ? null : nameOf(Number(by)),
  }));
}
