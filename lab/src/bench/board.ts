import { ACTIVE_RUN_STATES } from '@dusk-tally/core/bench';
import type { ChannelLimits, Span } from '@dusk-tally/core/bench';
import type { BenchJobRow, BenchSettingsRow } from '@dusk-tally/store';
import { z } from 'zod';
import { question } from '../shared';
import { loadProblem } from './problem';
import { remainingOfRun } from './run-progress';
import { benchSettings } from './settings';

export interface BoardJob extends BenchJobRow {
  cell: string;
  lot: string;
  recipe: string;
  /** Why it cannot be planned; null where it can. */
  problem: string | null;
  /** Least time it takes on any channel, s; null where none can run it. */
  leastS: number | null;
  attendedOnly: boolean;
  firstCharge: boolean;
}

export interface BoardChannel {
  id: number;
  title: string;
  limits: ChannelLimits;
  isAssumed: boolean;
  driven: boolean;
  version: number | null;
  wiring: import('@dusk-tally/core/bench').ChannelWiring | null;
  agent: string | null;
  /** What runs on it now, until when. */
  busy: { benchRunId: number; cell: string; until: string }[];
}

export interface PlanBoard {
  now: string;
  timeZone: string;
  jobs: BoardJob[];
  channels: BoardChannel[];
  attended: Span[];
  settings: BenchSettingsRow;
}

/** Everything the planning board shows. */
export const planBoard = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<PlanBoard> => {
    const { store } = lab;
    const loaded = await loadProblem(lab);
    const active = await store.bench.runs.find({ state: ACTIVE_RUN_STATES });
    const ids = [...new Set([...loaded.jobs, ...active].map(({ cellId }) => cellId))];
    const [cells, lots, versions, recipes, settings, general, lives] = await Promise.all([
      store.cells.find({ id: [...ids] }, { columns: ['id', 'number'] }),
      store.lots.find({}, { columns: ['id', 'code'] }),
      store.bench.recipeVersions.find({}, { columns: ['id', 'recipeId', 'attendedOnly'] }),
      store.bench.recipes.find({}, { columns: ['id', 'name'] }),
      benchSettings(lab),
      store.settings.one({ id: 1 }),
      store.bench.live.find({ benchRunId: [...active.map(({ id }) => id)] }),
    ]);
    const number = new Map(cells.map((cell) => [cell.id, cell.number]));
    const code = new Map(lots.map((lot) => [lot.id, lot.code]));
    const name = new Map(recipes.map((recipe) => [recipe.id, recipe.name]));
    const version = new Map(versions.map((row) => [row.id, row]));
    const live = new Map(lives.map((row) => [row.benchRunId, row]));
    const unfit = new Map(loaded.unfit.map(({ job, reason }) => [job, reason]));
    const planned = new Map(loaded.problem.jobs.map((job) => [job.id, job]));
    return {
      now: loaded.now.toISOString(),
      timeZone: general?.timeZone ?? 'UTC',
      settings,
      attended: loaded.attended,
      channels: loaded.channels.map((channel) => ({
        id: channel.id,
        title: channel.title,
        limits: channel.limits,
        isAssumed: channel.isAssumed,
        driven: channel.wiring !== null,
        version: channel.version,
        wiring: channel.wiring,
        agent: channel.agent,
        busy: active
          .filter(({ channelId }) => channelId === channel.id)
          .map((run) => ({
            benchRunId: run.id,
            cell: number.get(run.cellId) ?? '',
            until: new Date(
              loaded.now.getTime() +
                remainingOfRun(run, live.get(run.id) ?? null, loaded.now) * 1000,
            ).toISOString(),
          })),
      })),
      jobs: loaded.jobs.map((job): BoardJob => {
        const legs = planned.get(job.id)?.legs ?? [];
        const shortest = legs.map((leg) => Math.min(...leg.durationS));
        const row = version.get(job.recipeVersionId);
        const blocked = shortest.some((one) => !Number.isFinite(one)) || legs.length === 0;
        return {
          ...job,
          cell: number.get(job.cellId) ?? '',
          lot: code.get(job.lotId) ?? '',
          recipe: name.get(row?.recipeId ?? 0) ?? '',
          attendedOnly: row?.attendedOnly ?? false,
          firstCharge:
            (loaded.courses.get(job.id)?.watchedS ?? 0) > 0 && !(row?.attendedOnly ?? false),
          problem:
            unfit.get(job.id) ??
            (blocked ? 'No channel can run it: see the limits of the channels.' : null),
          leastS: blocked ? null : shortest.reduce((sum, one) => sum + one, 0),
        };
      }),
    };
  },
});
