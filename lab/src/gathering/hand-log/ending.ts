import type { HandPoint } from '@dusk-tally/core/evidence';
import type { HandLogRow } from '@dusk-tally/store';
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { closeRun } from '../../bench';
import { figureRow } from '../../evidence';
import { LabError, procedure, workerOf } from '../../shared';
import { beganLog, handRun } from './acts';
import { pointsOf, resultOf, shapeRunsOf } from './load';

/** Digits of the charge, as its counter showed them. */
const chargeDigits = (points: readonly HandPoint[]): number =>
  Math.max(1, ...points.flatMap(({ decimals }) => decimals.shownAh ?? []));

/** Ends a hand log: what its points give becomes the capacity of its cell, and the run is over. */
export const endHandLog = procedure({
  role: 'technician',
  input: z.object({ benchRunId: z.int(), note: z.string().trim().max(300).default('') }),
  run: async ({
    lab,
    actor,
    input,
    transaction,
    audit,
    changed,
  }): Promise<{ capacityAh: number; bound: string }> => {
    const { store } = lab;
    const run = await handRun(lab, input.benchRunId, transaction);
    const log = await beganLog(lab, run, transaction);
    if (log.endedAt !== null)
      throw new LabError('conflict', 'This hand log has ended already; its result stands.');
    const shapeRuns = await shapeRunsOf(lab, run.lotId, transaction);
    const rows = await store.hand.points.find({ handLogId: log.id }, { transaction });
    const { figure, reason } = await resultOf(lab, { ...log, shapeRuns }, transaction);
    if (!figure) throw new LabError('invalid', reason);
    const decimals = chargeDigits(pointsOf(log, rows));
    const clientKey = randomUUID();
    const now = lab.now();
    await store.readings.insert(
      {
        cellId: log.cellId,
        lotId: log.lotId,
        kind: 'capacity',
        value: Number(figure.value.toFixed(decimals)),
        decimals,
        repeats: null,
        probe: null,
        purpose: 'stock',
        temperatureC: null,
        instrumentId: null,
        handLogId: log.id,
        keptDespite: null,
        clientKey,
        personId: workerOf(actor),
        at: now,
      },
      transaction,
    );
    const reading = (await store.readings.one({ clientKey }, { transaction }))!;
    await store.figures.insertMany([handFigure(log, reading.id, figure)], transaction);
    await store.hand.logs.update(
      { shapeRuns, endedAt: now, readingId: reading.id, version: log.version + 1 },
      { id: log.id },
      transaction,
    );
    await closeRun(
      lab,
      run.id,
      { reason: input.note || 'Read by hand to its end.', completed: true, at: now },
      transaction,
    );
    await store.bench.runs.update({ state: 'stored' }, { id: run.id }, transaction);
    changed({ what: 'readings', lotId: log.lotId, cellIds: [log.cellId] });
    await audit({
      act: 'ended hand log',
      subjectType: 'benchRun',
      subjectId: run.id,
      after: { capacityAh: figure.value, bound: figure.bound, points: rows.length },
    });
    return { capacityAh: figure.value, bound: figure.bound };
  },
});

/** The figure of a hand log as a row. */
export const handFigure = (
  log: Pick<HandLogRow, 'id' | 'cellId' | 'lotId'>,
  readingId: number,
  figure: Parameters<typeof figureRow>[0],
) =>
  figureRow(
    figure,
    { cellId: log.cellId, lotId: log.lotId, runId: null, readingId, cutoffV: null },
    { handLogId: log.id, value: figure.value, budget: figure.budget },
  );
