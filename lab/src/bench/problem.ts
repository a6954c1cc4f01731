import {
  ACTIVE_RUN_STATES,
  type PlannedJob,
  type Placement,
  type PlanningProblem,
  type Span,
} from '@dusk-tally/core/bench';
import { attendedSpans, momentIn } from '@dusk-tally/core/units';
import type { BenchJobRow, RecipeVersionRow, Transaction } from '@dusk-tally/store';
import { labTimeZone } from '../lots';
import type { Lab } from '../shared';
import { type BenchChannel, benchChannels } from './bench-channels';
import { conditionsOfLots, type LotConditions } from './conditions';
import { knownCells } from './known-cells';
import { type JobCourse, jobCourse, legsOf } from './job-course';
import { remainingOfRun } from './run-progress';
import { benchSettings } from './settings';

/** Days planned ahead. */
export const DAYS_AHEAD = 60;
const DAY_MIN = 1440;

/** What planning starts from. */
export interface BenchProblem {
  now: Date;
  problem: PlanningProblem;
  channels: BenchChannel[];
  jobs: BenchJobRow[];
  courses: Map<number, JobCourse>;
  attended: Span[];
  /** Jobs whose recipe cannot run with their lot. */
  unfit: { job: number; reason: string }[];
}

/** Voltages read last, by cell. */
export async function newestVoltages(
  lab: Lab,
  cellIds: readonly number[],
  transaction?: Transaction,
): Promise<Map<number, number>> {
  if (cellIds.length === 0) return new Map();
  const rows = await lab.store.readings.find(
    { cellId: [...cellIds], kind: 'openCircuitVoltage' },
    { transaction, order: [['id', 'ASC']], columns: ['id', 'cellId', 'value', 'purpose'] },
  );
  // Taken back is only what was read for the same purpose.
  const standing = new Map<string, (typeof rows)[number]>();
  for (const row of rows) standing.set(`${row.cellId} ${row.purpose}`, row);
  const newest = new Map<number, number>();
  for (const { cellId, value } of [...standing.values()].sort((a, b) => a.id - b.id))
    if (value !== null) newest.set(cellId, value);
  return newest;
}

/** Jobs as the planner takes them, and those whose recipe cannot run with their lot. */
function plannedJobs(
  jobs: readonly BenchJobRow[],
  given: {
    conditions: ReadonlyMap<number, LotConditions | string>;
    versions: ReadonlyMap<number, RecipeVersionRow>;
    voltages: ReadonlyMap<number, number>;
    known: ReadonlySet<number>;
    channels: readonly BenchChannel[];
    dueS: (day: string) => number;
  },
): Pick<BenchProblem, 'courses' | 'unfit'> & { planned: PlannedJob[] } {
  const { conditions, versions, voltages, known, channels, dueS } = given;
  const courses = new Map<number, JobCourse>();
  const unfit: BenchProblem['unfit'] = [];
  const planned: PlannedJob[] = [];
  for (const job of jobs) {
    const own = conditions.get(job.lotId)!;
    if (typeof own === 'string') {
      unfit.push({ job: job.id, reason: own });
      continue;
    }
    const course = jobCourse(versions.get(job.recipeVersionId)!, own, {
      voltageV: voltages.get(job.cellId) ?? null,
      isKnown: known.has(job.cellId),
    });
    courses.set(job.id, course);
    if (course.problem) {
      unfit.push({ job: job.id, reason: course.problem });
      continue;
    }
    planned.push({
      id: job.id,
      legs: legsOf(course, own, channels),
      releaseS: 0,
      dueS: job.dueOn ? dueS(job.dueOn) : null,
      priority: job.priority,
    });
  }
  return { courses, unfit, planned };
}

/** Everything the planner needs, from now on: jobs that wait, channels with what runs on them, hours. */
export async function loadProblem(lab: Lab, transaction?: Transaction): Promise<BenchProblem> {
  const { store } = lab;
  const now = lab.now();
  const [channels, settings, timeZone, jobs, active] = [
    await benchChannels(lab, transaction),
    await benchSettings(lab, transaction),
    await labTimeZone(lab, transaction),
    await store.bench.jobs.find(
      { state: ['waiting', 'planned'] },
      {
        transaction,
        order: [['id', 'ASC']],
      },
    ),
    await store.bench.runs.find({ state: ACTIVE_RUN_STATES }, { transaction }),
  ];
  const attended = attendedSpans(settings, timeZone, now, DAYS_AHEAD);
  const lotIds = [...new Set([...jobs, ...active].map((row) => row.lotId))];
  const conditions = await conditionsOfLots(lab, lotIds, transaction);
  const cellIds = jobs.map(({ cellId }) => cellId);
  const voltages = await newestVoltages(lab, cellIds, transaction);
  const known = await knownCells(lab, cellIds, transaction);
  const versions = new Map(
    (
      await store.bench.recipeVersions.find(
        { id: [...new Set(jobs.map((job) => job.recipeVersionId))] },
        { transaction },
      )
    ).map((row) => [row.id, row]),
  );
  const { courses, unfit, planned } = plannedJobs(jobs, {
    conditions,
    versions,
    voltages,
    known,
    channels,
    dueS: (day) => (momentIn(timeZone, day, DAY_MIN) - now.getTime()) / 1000,
  });
  const lives = new Map(
    (await store.bench.live.find({ benchRunId: active.map(({ id }) => id) }, { transaction })).map(
      (live) => [live.benchRunId, live],
    ),
  );
  const taken = new Map<number, Span[]>();
  for (const run of active) {
    if (run.channelId === null) continue;
    const endS = remainingOfRun(run, lives.get(run.id) ?? null, now);
    taken.set(run.channelId, [...(taken.get(run.channelId) ?? []), { fromS: 0, toS: endS }]);
  }
  const index = new Map(channels.map(({ id }, i) => [id, i]));
  const pinned = jobs.filter((job) => job.pinned).flatMap((job) => placementsOf(job, index, now));
  return {
    now,
    jobs,
    channels,
    courses,
    attended,
    unfit,
    problem: {
      jobs: planned,
      channels: channels.map(({ id }) => ({ id, taken: taken.get(id) ?? [] })),
      attended,
      pinned,
    },
  };
}

/** A job’s parts as the planner has them. */
export const placementsOf = (
  job: BenchJobRow,
  index: ReadonlyMap<number, number>,
  now: Date,
): Placement[] =>
  job.parts.flatMap(({ channelId, from, to }, leg) => {
    const channel = index.get(channelId);
    return channel === undefined
      ? []
      : [
          {
            job: job.id,
            leg,
            channel,
            fromS: (Date.parse(from) - now.getTime()) / 1000,
            toS: (Date.parse(to) - now.getTime()) / 1000,
          },
        ];
  });
