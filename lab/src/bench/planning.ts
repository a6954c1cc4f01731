import { type PlanningProblem, planFaults } from '@dusk-tally/core/bench';
import type { BenchJobRow, PlanSummary } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, LabError, procedure, question } from '../shared';
import { openJob } from './jobs';
import { type BenchProblem, loadProblem, placementsOf } from './problem';
import type { PlanAnswer } from '../compute';

/** Longest the planner is given, ms. */
const MOST_MS = 20_000;

/** Time between looks whether somebody asked the planner to stop, ms. */
const LOOK_MS = 50;
/** A plan begun longer ago than this is no longer under way: its process was killed. */
const GONE_MS = 2 * MOST_MS;

const underWay = (lab: Lab) => ({
  endedAt: null,
  startedAt: { above: new Date(lab.now().getTime() - GONE_MS) },
});

/** Has every planner at work, in any process, stop with the best plan it has. @returns how many there were. */
export const stopPlanning = procedure({
  role: 'technician',
  input: z.object({}),
  run: async ({ lab, actor, transaction }): Promise<number> =>
    lab.store.bench.plannings.update(
      { stoppedAt: lab.now(), stoppedBy: actor.id },
      { ...underWay(lab), stoppedAt: null },
      transaction,
    ),
});

/** Computes a plan that somebody may stop from anywhere; what it has then is the answer. */
async function planStoppably(
  lab: Lab,
  personId: number,
  task: { problem: PlanningProblem; seed: number },
): Promise<PlanAnswer> {
  const { plannings } = lab.store.bench;
  const { id } = await plannings.insert({
    startedAt: lab.now(),
    personId,
    stoppedAt: null,
    stoppedBy: null,
    endedAt: null,
  });
  const stop = new SharedArrayBuffer(4);
  const halt = () => Atomics.store(new Int32Array(stop), 0, 1);
  const timer = setTimeout(halt, MOST_MS);
  const look = setInterval(() => {
    plannings
      .one({ id }, { columns: ['stoppedAt'] })
      .then((row) => (row?.stoppedAt ? halt() : undefined))
      // A look that fails is made again; the time limit holds whatever happens.
      .catch(() => undefined);
  }, LOOK_MS);
  try {
    return await lab.compute.planTask({ ...task, stop });
  } finally {
    clearTimeout(timer);
    clearInterval(look);
    await plannings.update({ endedAt: lab.now() }, { id });
  }
}

const momentAt = (now: Date, seconds: number) => new Date(now.getTime() + seconds * 1000);

interface Prepared {
  loaded: BenchProblem;
  answer: PlanAnswer;
}

/** Plans all that waits, from now on. What was put by hand stays; runs under way are planned around. */
export const planAll = procedure({
  role: 'technician',
  input: z.object({
    seed: z
      .int()
      .min(1)
      .max(2 ** 31)
      .default(1),
    /** Also moves what was put by hand. */
    freePinned: z.boolean().default(false),
  }),
  prepare: async (lab, input, actor): Promise<Prepared> => {
    const loaded = await loadProblem(lab);
    const problem = input.freePinned ? { ...loaded.problem, pinned: [] } : loaded.problem;
    return { loaded, answer: await planStoppably(lab, actor.id, { problem, seed: input.seed }) };
  },
  run: async ({
    lab,
    input,
    prepared: { loaded, answer },
    transaction,
    audit,
  }): Promise<PlanSummary> => {
    const { jobs, settings } = lab.store.bench;
    const { now, channels } = loaded;
    const parts = new Map<number, BenchJobRow['parts']>();
    for (const { job, channel, fromS, toS } of [...answer.plan.placements].sort(
      (a, b) => a.leg - b.leg,
    ))
      parts.set(job, [
        ...(parts.get(job) ?? []),
        {
          channelId: channels[channel]!.id,
          from: momentAt(now, fromS).toISOString(),
          to: momentAt(now, toS).toISOString(),
        },
      ]);
    for (const job of loaded.jobs) {
      const own = parts.get(job.id) ?? [];
      const pinned = job.pinned && !input.freePinned && own.length > 0;
      if (JSON.stringify(own) === JSON.stringify(job.parts) && pinned === job.pinned) continue;
      // A job somebody changed or started meanwhile keeps what they made of it.
      await jobs.update(
        {
          parts: own,
          pinned,
          state: own.length > 0 ? 'planned' : 'waiting',
          version: job.version + 1,
        },
        { id: job.id, version: job.version },
        transaction,
      );
    }
    const { plan, bound, gap, tried, oneMore } = answer;
    const summary: PlanSummary = {
      finishAt: momentAt(now, plan.finishS).toISOString(),
      boundAt: momentAt(now, bound.finishS).toISOString(),
      boundFrom: bound.from,
      gap,
      lateJobs: plan.lateJobs,
      tried,
      oneMore: oneMore && { channelId: channels[oneMore.channel]!.id, savedS: oneMore.savedS },
      impossible: [...plan.impossible, ...loaded.unfit],
    };
    await settings.update({ plannedAt: now, planSummary: summary }, { id: 1 }, transaction);
    await audit({
      act: 'planned the bench',
      subjectType: 'bench',
      subjectId: 'plan',
      after: { jobs: parts.size, finishAt: summary.finishAt },
    });
    return summary;
  },
});

/** What is wrong with a place for a part of a job, in words; empty where it fits. */
function faultsOfPlace(
  loaded: BenchProblem,
  place: { jobId: number; part: number; channelId: number; from: Date },
): { reasons: string[]; toS: number } {
  const index = new Map(loaded.channels.map(({ id }, i) => [id, i]));
  const channel = index.get(place.channelId);
  const job = loaded.problem.jobs.find(({ id }) => id === place.jobId);
  const leg = job?.legs[place.part];
  if (channel === undefined || !leg)
    throw new LabError('notFound', 'That job or channel is not here.');
  const fromS = (place.from.getTime() - loaded.now.getTime()) / 1000;
  const durationS = leg.durationS[channel]!;
  if (!Number.isFinite(durationS))
    return { reasons: ['The channel cannot run it: see its limits.'], toS: fromS };
  const others = loaded.jobs
    .flatMap((row) => placementsOf(row, index, loaded.now))
    .filter((one) => !(one.job === place.jobId && one.leg === place.part));
  const moved = { job: place.jobId, leg: place.part, channel, fromS, toS: fromS + durationS };
  const faults = planFaults(loaded.problem, [...others, moved]);
  const mine = faults.filter(
    (fault) =>
      (fault.job === place.jobId && fault.leg === place.part) ||
      isOn(others, fault, moved) ||
      fault.job === place.jobId,
  );
  const reasons = new Set(mine.map(({ reason }) => reason));
  if (fromS < -60) reasons.add('That is past.');
  return { reasons: [...reasons], toS: moved.toS };
}

/** Whether a fault of another part comes from the one that was moved: both lie on one channel then. */
const isOn = (
  others: readonly { job: number; leg: number; channel: number; fromS: number; toS: number }[],
  fault: { job: number; leg: number },
  moved: { channel: number; fromS: number; toS: number },
): boolean =>
  others.some(
    (one) =>
      one.job === fault.job &&
      one.leg === fault.leg &&
      one.channel === moved.channel &&
      one.fromS < moved.toS &&
      one.toS > moved.fromS,
  );

const place = {
  jobId: z.int(),
  part: z.int().min(0).max(20),
  channelId: z.int(),
  from: z.coerce.date(),
};

/** Asks whether a part of a job fits a place. */
export const checkPlace = question({
  role: 'technician',
  input: z.object(place),
  run: async (lab, input): Promise<{ reasons: string[]; to: Date }> => {
    const loaded = await loadProblem(lab);
    const { reasons, toS } = faultsOfPlace(loaded, input);
    return { reasons, to: momentAt(loaded.now, toS) };
  },
});

/** Puts a part of a job where a person wants it; it stays there. @throws LabError with every reason it does not fit. */
export const moveJob = procedure({
  role: 'technician',
  input: z.object({ ...place, version: z.int() }),
  run: async ({ lab, input, transaction, audit }): Promise<BenchJobRow['parts']> => {
    const job = await openJob(lab, input.jobId, input.version, transaction);
    const loaded = await loadProblem(lab, transaction);
    const { reasons, toS } = faultsOfPlace(loaded, input);
    if (reasons.length > 0)
      throw new LabError('invalid', `It does not fit there. ${reasons.join(' ')}`);
    const legs = loaded.problem.jobs.find(({ id }) => id === job.id)!.legs.length;
    if (input.part > 0 && job.parts.length <= input.part)
      throw new LabError('invalid', 'Expected the parts before it to be planned first.');
    const parts = [...job.parts].slice(0, legs);
    parts[input.part] = {
      channelId: input.channelId,
      from: input.from.toISOString(),
      to: momentAt(loaded.now, toS).toISOString(),
    };
    await lab.store.bench.jobs.update(
      { parts, pinned: parts.length === legs, state: 'planned', version: job.version + 1 },
      { id: job.id },
      transaction,
    );
    await audit({
      act: 'moved job',
      subjectType: 'job',
      subjectId: job.id,
      before: job.parts,
      after: parts,
    });
    return parts;
  },
});

/** Gives a job back to the planner. */
export const unpinJob = procedure({
  role: 'technician',
  input: z.object({ id: z.int(), version: z.int() }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const job = await openJob(lab, input.id, input.version, transaction);
    await lab.store.bench.jobs.update(
      { pinned: false, version: job.version + 1 },
      { id: job.id },
      transaction,
    );
    await audit({ act: 'unpinned job', subjectType: 'job', subjectId: job.id });
  },
});
