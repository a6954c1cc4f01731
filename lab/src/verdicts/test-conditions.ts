import type { Clamping } from '@dusk-tally/core/chemistry';
import { HAND_LOG_METHOD } from '@dusk-tally/core/evidence';
import type { FigureRow, Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';
import type { HandConditions, SlimFigure } from './at-claim';

/** How cells of hand logs among some figures were discharged: as their inputs say it. */
export async function handsOf(
  lab: Lab,
  figures: readonly Pick<FigureRow, 'id' | 'method'>[],
  transaction: Transaction,
): Promise<Map<number, HandConditions>> {
  const ids = figures.flatMap(({ id, method }) => (method === HAND_LOG_METHOD.name ? [id] : []));
  if (ids.length === 0) return new Map();
  const rows = await lab.store.figures.find(
    { id: ids },
    { transaction, columns: ['id', 'readingId', 'detail'] },
  );
  const heldBy = await heldByReading(
    lab,
    rows.flatMap(({ readingId }) => readingId ?? []),
    transaction,
  );
  const input = ({ detail }: FigureRow, name: string): number | null => {
    const value = detail.inputs.find((one) => one.name === name)?.value;
    return typeof value === 'number' ? value : null;
  };
  return new Map(
    rows.map((row) => [
      row.id,
      {
        currentA: input(row, 'discharge current'),
        temperatureC: input(row, 'mean temperature'),
        isLog: true,
        clamping: heldBy.get(row.readingId ?? 0) ?? null,
      },
    ]),
  );
}

/** How the cell was held in the run a hand log is of, by the reading it became. */
export async function heldByReading(
  lab: Lab,
  readingIds: readonly number[],
  transaction: Transaction,
): Promise<Map<number, Clamping | null>> {
  const logs = await lab.store.hand.logs.find(
    { readingId: [...readingIds] },
    { transaction, columns: ['readingId', 'benchRunId'] },
  );
  const runs = await lab.store.bench.runs.find(
    { id: logs.map(({ benchRunId }) => benchRunId) },
    { transaction, columns: ['id', 'clamping'] },
  );
  const clampingOf = new Map(runs.map(({ id, clamping }) => [id, clamping]));
  return new Map(
    logs.map(({ readingId, benchRunId }) => [readingId!, clampingOf.get(benchRunId) ?? null]),
  );
}

/** How typed readings were taken, by the figure of each: what stands beside them, and the temperature. */
export async function typedConditionsOf(
  lab: Lab,
  lotId: number,
  { figures, cellIds }: { figures: readonly SlimFigure[]; cellIds: number[] },
  transaction: Transaction,
): Promise<Map<number, HandConditions>> {
  const typed = figures.filter(({ readingId }) => readingId !== null);
  if (typed.length === 0) return new Map();
  const [latest, own] = await Promise.all([
    lab.store.evidence.latestReadings(lotId, cellIds, transaction),
    lab.store.readings.find(
      { id: typed.map(({ readingId }) => readingId!) },
      { transaction, columns: ['id', 'temperatureC'] },
    ),
  ]);
  const currentOf = new Map(
    latest.flatMap(({ kind, cellId, value }) =>
      kind === 'currentShown' && value !== null ? [[cellId, value] as const] : [],
    ),
  );
  const temperatureOf = new Map(own.map((row) => [row.id, row.temperatureC ?? null]));
  return new Map(
    typed.map((figure) => [
      figure.id,
      {
        currentA: currentOf.get(figure.cellId) ?? null,
        temperatureC: temperatureOf.get(figure.readingId!) ?? null,
      },
    ]),
  );
}

/** Currents of the two-step resistances among some figures, A. */
export async function stepsOf(
  lab: Lab,
  figures: readonly Pick<FigureRow, 'id' | 'quantity'>[],
  transaction: Transaction,
): Promise<Map<number, [number, number]>> {
  const ids = figures.flatMap(({ id, quantity }) =>
    quantity === 'dcResistanceTwoStep' ? [id] : [],
  );
  if (ids.length === 0) return new Map();
  const rows = await lab.store.figures.find(
    { id: ids },
    { transaction, columns: ['id', 'detail'] },
  );
  const amps = (row: FigureRow, name: string) =>
    Number(row.detail.inputs.find((input) => input.name === name)?.value);
  return new Map(rows.map((row) => [row.id, [amps(row, 'I1'), amps(row, 'I2')]]));
}
