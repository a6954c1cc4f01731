import { type HandPoint, newDoubts } from '@dusk-tally/core/evidence';
import type { BenchRunRow, HandLogRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { handLogInput, handPointsInput } from '../../inputs';
import { openLot } from '../../lots';
import { found, type Lab, LabError, procedure, workerOf } from '../../shared';
import { pointsOf, resultOf, settingOf } from './load';

/** A clock may be ahead of ours by so much, ms. */
const AHEAD_MS = 5 * 60_000;

/** A run that is read by hand, locked. @throws LabError where an agent drives it. */
export async function handRun(
  lab: Lab,
  benchRunId: number,
  transaction: Transaction,
): Promise<BenchRunRow> {
  const run = found(
    await lab.store.bench.runs.one({ id: benchRunId }, { transaction, forUpdate: true }),
    'That run',
  );
  if (run.driven)
    throw new LabError('invalid', 'An agent drives this run and keeps its readings by itself.');
  await openLot(lab, run.lotId, transaction, true);
  return run;
}

/** Which cell a change of a hand log is of. */
const changeOf = ({ lotId, cellId }: Pick<HandLogRow, 'lotId' | 'cellId'>) =>
  ({ what: 'handPoints', lotId, cellIds: [cellId] }) as const;

/** Says when the load came on and how the tester was set; said again, it corrects that. */
export const setHandLog = procedure({
  role: 'technician',
  input: handLogInput,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ id: number }> => {
    const { hand } = lab.store;
    const run = await handRun(lab, input.benchRunId, transaction);
    const loadOnAt = new Date(input.loadOnAt);
    const now = lab.now();
    if (loadOnAt.getTime() > now.getTime() + AHEAD_MS)
      throw new LabError('invalid', 'Expected a load that came on already.', { field: 'loadOnAt' });
    if (loadOnAt.getTime() < (run.startedAt ?? run.createdAt).getTime() - 86_400_000)
      throw new LabError(
        'invalid',
        'Expected a load that came on after the run was begun, or at most a day before.',
        { field: 'loadOnAt' },
      );
    const log = await hand.logs.one({ benchRunId: run.id }, { transaction, forUpdate: true });
    if ((log?.version ?? 0) !== input.version)
      throw new LabError(
        'conflict',
        'Somebody else said how this tester is set meanwhile. Look at it, then say it again.',
      );
    const points = log ? await hand.points.find({ handLogId: log.id }, { transaction }) : [];
    if (points.some(({ at, takenBackAt }) => takenBackAt === null && at < loadOnAt))
      throw new LabError('invalid', 'Expected a load that came on before the first point.', {
        field: 'loadOnAt',
      });
    const { setA, setCutoffV, countAtStartAh } = input;
    const said = { loadOnAt, setA, setCutoffV, countAtStartAh };
    if (log)
      await hand.logs.update({ ...said, version: log.version + 1 }, { id: log.id }, transaction);
    const row =
      log ??
      (await hand.logs.insert(
        {
          ...said,
          benchRunId: run.id,
          cellId: run.cellId,
          lotId: run.lotId,
          shapeRuns: [],
          endedAt: null,
          readingId: null,
          personId: workerOf(actor),
          at: now,
        },
        transaction,
      ));
    if (log?.endedAt) changed(changeOf(log));
    await audit({
      act: log ? 'corrected hand log' : 'began hand log',
      subjectType: 'benchRun',
      subjectId: run.id,
      before: log && {
        loadOnAt: log.loadOnAt.toISOString(),
        setA: log.setA,
        setCutoffV: log.setCutoffV,
        countAtStartAh: log.countAtStartAh,
      },
      after: { ...said, loadOnAt: loadOnAt.toISOString() },
    });
    return { id: row.id };
  },
});

/** The hand log of a run. @throws LabError where nobody said yet when its load came on. */
export async function beganLog(lab: Lab, run: BenchRunRow, transaction: Transaction) {
  const log = await lab.store.hand.logs.one(
    { benchRunId: run.id },
    { transaction, forUpdate: true },
  );
  if (!log)
    throw new LabError('invalid', 'Say first when the load came on; points count from there.');
  return log;
}

/**
 * Keeps points of a hand log. What does not fit is asked about in the browser before; a point that was
 * not asked about and does not fit is refused, so that a program cannot pass it by. Sending points again
 * stores nothing twice.
 */
export const keepHandPoints = procedure({
  role: 'technician',
  input: handPointsInput,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ stored: number }> => {
    const { hand } = lab.store;
    const run = await handRun(lab, input.benchRunId, transaction);
    const log = await beganLog(lab, run, transaction);
    const keys = input.points.map(({ clientKey }) => clientKey);
    const known = new Set(
      (await hand.points.find({ clientKey: keys }, { transaction, columns: ['clientKey'] })).map(
        ({ clientKey }) => clientKey,
      ),
    );
    const fresh = input.points.filter(
      ({ clientKey }, i) => !known.has(clientKey) && keys.indexOf(clientKey) === i,
    );
    if (fresh.length === 0) return { stored: 0 };
    const now = lab.now();
    const setting = await settingOf(lab, run, log, transaction);
    const before: HandPoint[] = pointsOf(
      log,
      await hand.points.find({ handLogId: log.id }, { transaction }),
    );
    for (const { at, keptDespite, ...read } of fresh) {
      const point = { ...read, atS: (Date.parse(at) - log.loadOnAt.getTime()) / 1000 };
      if (Date.parse(at) > now.getTime() + AHEAD_MS || point.atS < 0)
        throw new LabError(
          'invalid',
          'Expected a point between the moment the load came on and now.',
          { field: 'at' },
        );
      const [doubt] = newDoubts(point, before, setting);
      if (doubt && keptDespite === null) throw new LabError('invalid', doubt.text);
      before.push(point);
      before.sort((a, b) => a.atS - b.atS);
    }
    await hand.points.insertMany(
      fresh.map((point) => ({
        ...point,
        at: new Date(point.at),
        handLogId: log.id,
        personId: workerOf(actor),
        typedAt: now,
        takenBackAt: null,
        takenBackBy: null,
      })),
      transaction,
    );
    if (log.endedAt) changed(changeOf(log));
    await audit({
      act: 'kept points of hand log',
      subjectType: 'benchRun',
      subjectId: run.id,
      after: fresh.map(({ at, values, isStop, keptDespite }) => ({
        at,
        ...values,
        ...(isStop ? { isStop } : {}),
        ...(keptDespite ? { keptDespite } : {}),
      })),
    });
    return { stored: fresh.length };
  },
});

/** Takes a point back: it stays in the books, and counts no more. */
export const takeBackHandPoint = procedure({
  role: 'technician',
  input: z.object({ pointId: z.int() }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { hand } = lab.store;
    const point = found(
      await hand.points.one({ id: input.pointId }, { transaction, forUpdate: true }),
      'That point',
    );
    if (point.takenBackAt !== null) return;
    const log = (await hand.logs.one({ id: point.handLogId }, { transaction }))!;
    await openLot(lab, log.lotId, transaction);
    await hand.points.update(
      { takenBackAt: lab.now(), takenBackBy: actor.id },
      { id: point.id },
      transaction,
    );
    if (log.endedAt) {
      const { figure } = await resultOf(lab, log, transaction);
      if (!figure)
        throw new LabError(
          'invalid',
          'The result stands on this point alone. Type the capacity anew under Readings instead, or take that back.',
        );
      changed(changeOf(log));
    }
    await audit({
      act: 'took point of hand log back',
      subjectType: 'benchRun',
      subjectId: log.benchRunId,
      before: { at: point.at.toISOString(), ...point.values },
    });
  },
});
