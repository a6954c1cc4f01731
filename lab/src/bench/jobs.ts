import type { BenchJobRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { jobChange, jobsInput } from '../inputs';
import { openLot, requireOpenGate } from '../lots';
import { found, type Lab, LabError, procedure } from '../shared';
import { lotConditions } from './conditions';
import { jobCourse } from './job-course';
import { recipeOf } from './recipes';

/** Jobs that are not over. */
export const OPEN_STATES = ['waiting', 'planned', 'running'] as const;

/** So often a cell is conditioned without a reason: each round is cost (handbook, chapter 4). */
const FREE_ROUNDS = 2;

/** @throws LabError where a cell was conditioned so often already and nobody says why once more. */
async function requireFewRounds(
  lab: Lab,
  cells: readonly { id: number; number: string }[],
  reason: string,
  transaction: Transaction,
): Promise<void> {
  if (reason.length >= 3) return;
  const { bench } = lab.store;
  const versions = await bench.versionsFor('conditioning', transaction);
  const done = await bench.runs.find(
    { cellId: cells.map(({ id }) => id), recipeVersionId: versions },
    { transaction, columns: ['cellId'] },
  );
  const often = cells.filter(
    ({ id }) => done.filter(({ cellId }) => cellId === id).length >= FREE_ROUNDS,
  );
  if (often.length > 0)
    throw new LabError(
      'invalid',
      `${often
        .slice(0, 6)
        .map(({ number }) => number)
        .join(
          ', ',
        )}: conditioned ${FREE_ROUNDS} times already. Each round is cost; say why once more.`,
      { field: 'reason' },
    );
}

/** Puts cells of a lot on the list of the bench, one job each. */
export const addJobs = procedure({
  role: 'technician',
  input: jobsInput,
  run: async ({
    lab,
    actor,
    input,
    transaction,
    audit,
  }): Promise<{ added: number; skipped: string[] }> => {
    const { bench, cells } = lab.store;
    const lot = await openLot(lab, input.lotId, transaction);
    const row = found(
      await bench.recipes.one({ id: input.recipeId, retiredAt: null }, { transaction }),
      'That recipe',
    );
    const version = (await bench.recipeVersions.one(
      { recipeId: row.id, number: row.current },
      { transaction },
    ))!;
    const recipe = await recipeOf(lab, version.id, transaction);
    const wanted = [...new Set(input.cellIds)];
    const rows = await cells.find({ lotId: lot.id, id: wanted }, { transaction });
    if (rows.length !== wanted.length)
      throw new LabError(
        'notFound',
        `${wanted.length - rows.length} of these cells are not in ${lot.code}.`,
      );
    const course = jobCourse(recipe, await lotConditions(lab, lot.id, transaction), {
      voltageV: null,
      isKnown: false,
    });
    if (course.problem)
      throw new LabError(
        'invalid',
        `“${recipe.name}” cannot run with ${lot.code}: ${course.problem}`,
      );
    for (const cell of rows) await requireOpenGate(lab, cell, null, transaction);
    if (row.purpose === 'conditioning')
      await requireFewRounds(lab, rows, input.reason, transaction);
    const open = await bench.jobs.find(
      { cellId: wanted, state: [...OPEN_STATES] },
      {
        transaction,
      },
    );
    const busy = new Set(
      open.filter((job) => job.recipeVersionId === version.id).map(({ cellId }) => cellId),
    );
    const added = rows.filter(({ id }) => !busy.has(id)).sort((a, b) => a.position - b.position);
    await bench.jobs.insertMany(
      added.map((cell) => ({
        cellId: cell.id,
        lotId: lot.id,
        recipeVersionId: version.id,
        priority: input.priority,
        dueOn: input.dueOn,
        state: 'waiting' as const,
        parts: [],
        pinned: false,
        endedReason: null,
        personId: actor.id,
        createdAt: lab.now(),
      })),
      transaction,
    );
    if (added.length > 0)
      await audit({
        act: 'put on the bench’s list',
        subjectType: 'lot',
        subjectId: lot.code,
        after: {
          recipe: recipe.name,
          cells: added.map(({ number }) => number).slice(0, 60),
          dueOn: input.dueOn,
          ...(input.reason && { reason: input.reason }),
        },
      });
    return {
      added: added.length,
      skipped: rows.filter(({ id }) => busy.has(id)).map(({ number }) => number),
    };
  },
});

/** A job that may still be changed. */
export async function openJob(
  lab: Lab,
  id: number,
  version: number,
  transaction: Transaction,
): Promise<BenchJobRow> {
  const job = found(
    await lab.store.bench.jobs.one({ id }, { transaction, forUpdate: true }),
    'That job',
  );
  if (job.version !== version)
    throw new LabError(
      'conflict',
      'Someone changed this job meanwhile. The board shows how it stands now.',
    );
  if (job.state !== 'waiting' && job.state !== 'planned')
    throw new LabError('conflict', `This job is ${job.state}; only one that waits can be changed.`);
  return job;
}

/** Changes when a job is due and how pressing it is. */
export const changeJob = procedure({
  role: 'technician',
  input: jobChange,
  run: async ({ lab, input: { id, version, ...after }, transaction, audit }): Promise<void> => {
    const before = await openJob(lab, id, version, transaction);
    await lab.store.bench.jobs.update({ ...after, version: version + 1 }, { id }, transaction);
    await audit({
      act: 'changed job',
      subjectType: 'job',
      subjectId: id,
      before: { dueOn: before.dueOn, priority: before.priority },
      after,
    });
  },
});

/** Takes jobs off the list. */
export const cancelJobs = procedure({
  role: 'technician',
  input: z.object({
    ids: z.array(z.int()).min(1).max(2000),
    reason: z.string().trim().max(400).default(''),
  }),
  run: async ({ lab, input, transaction, audit }): Promise<{ cancelled: number }> => {
    const { jobs } = lab.store.bench;
    const rows = await jobs.find(
      { id: input.ids, state: ['waiting', 'planned'] },
      {
        transaction,
        forUpdate: true,
      },
    );
    for (const job of rows)
      await jobs.update(
        {
          state: 'cancelled',
          parts: [],
          pinned: false,
          endedReason: input.reason || null,
          version: job.version + 1,
        },
        { id: job.id },
        transaction,
      );
    if (rows.length > 0)
      await audit({
        act: 'cancelled jobs',
        subjectType: 'bench',
        subjectId: 'jobs',
        after: { ids: rows.map(({ id }) => id), reason: input.reason },
      });
    return { cancelled: rows.length };
  },
});
