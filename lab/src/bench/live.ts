import { ACTIVE_RUN_STATES } from '@dusk-tally/core/bench';
import type { BenchRecordRow } from '@dusk-tally/store';
import { z } from 'zod';
import { question } from '../shared';
import { benchChannels } from './bench-channels';
import { benchSettings } from './settings';
import { type LiveRun, liveRuns } from './live-runs';
import { type AlarmView, openAlarms } from './open-alarms';

/** An agent that was not heard for so long is said to be silent, ms. */
export const AGENT_SILENT_MS = 10_000;

/** An ended run stays on the board this long, ms. */
const STAYS_MS = 30 * 60_000;

export interface LiveChannel {
  id: number;
  title: string;
  driven: boolean;
  run: LiveRun | null;
}

export interface LiveBoard {
  at: string;
  channels: LiveChannel[];
  /** Runs without a channel. */
  loose: LiveRun[];
  alarms: AlarmView[];
  agents: { name: string; speed: number; seenAt: string; isSilent: boolean }[];
  ambientC: number | null;
  ambientAt: string | null;
}

/** The bench as it is now. */
export const liveBoard = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<LiveBoard> => {
    const { bench } = lab.store;
    const now = lab.now();
    const [channels, active, ended, agents, settings] = await Promise.all([
      benchChannels(lab),
      bench.runs.find({ state: ACTIVE_RUN_STATES }, { order: [['id', 'ASC']] }),
      bench.runs.find(
        {
          state: ['ended', 'stored'],
          endedAt: { above: new Date(now.getTime() - STAYS_MS) },
        },
        { order: [['id', 'DESC']], limit: 300 },
      ),
      bench.agents.find({}, { order: [['name', 'ASC']] }),
      benchSettings(lab),
    ]);
    const shown = [...active, ...ended];
    const alarms = await openAlarms(lab, channels);
    const runs = await liveRuns(lab, shown, alarms, now);
    const newest = new Map<number, LiveRun>();
    for (const run of shown) {
      const view = runs.get(run.id)!;
      if (run.channelId === null) continue;
      const there = newest.get(run.channelId);
      const isActive = run.state === 'ready' || run.state === 'running';
      if (
        !there ||
        (isActive && there.state !== 'running') ||
        (!isActive && there.state !== 'running' && there.state !== 'ready' && there.id < view.id)
      )
        newest.set(run.channelId, view);
    }
    return {
      at: now.toISOString(),
      channels: channels.map(({ id, title, wiring }) => ({
        id,
        title,
        driven: wiring !== null,
        run: newest.get(id) ?? null,
      })),
      loose: shown
        .filter((run) => run.channelId === null && run.state === 'running')
        .map((run) => runs.get(run.id)!),
      alarms,
      agents: agents.map(({ name, speed, seenAt }) => ({
        name,
        speed,
        seenAt: seenAt.toISOString(),
        isSilent: now.getTime() - seenAt.getTime() > AGENT_SILENT_MS,
      })),
      ambientC: settings.ambientC,
      ambientAt: settings.ambientAt?.toISOString() ?? null,
    };
  },
});

/** Records behind what a reader has of the runs that are on, for the live board. */
export const recordsBehind = question({
  role: 'technician',
  input: z.object({ cursors: z.record(z.string().regex(/^\d+$/), z.int().min(0)) }),
  run: (lab, { cursors }): Promise<BenchRecordRow[]> =>
    lab.store.bench.recordsSince(
      new Map(Object.entries(cursors).map(([run, seq]) => [Number(run), seq])),
      20_000,
    ),
});

/** Points of a tile’s curve, most. */
const TILE_POINTS = 80;

/** Voltage by time of the runs that are on, thinned, for the tiles of the board. */
export const liveCurves = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<Record<number, { x: number; v: number }[]>> => {
    const { bench } = lab.store;
    const runs = await bench.runs.find({ state: 'running', driven: true }, { columns: ['id'] });
    const lives = new Map(
      (await bench.live.find({ benchRunId: [...runs.map(({ id }) => id)] })).map((row) => [
        row.benchRunId,
        row,
      ]),
    );
    const curves: Record<number, { x: number; v: number }[]> = {};
    for (const { id } of runs) {
      const every = Math.max(1, Math.ceil((lives.get(id)?.lastSeq ?? 0) / TILE_POINTS));
      curves[id] = (await bench.thinned(id, every)).flatMap(({ timeS, voltageV }) =>
        voltageV === null ? [] : [{ x: timeS, v: voltageV }],
      );
    }
    return curves;
  },
});
