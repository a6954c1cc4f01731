import {
  ACTIVE_RUN_STATES,
  ALARM_ACTIONS,
  ALARMS,
  type AlarmCode,
  leadLoss,
  type LeadLoss,
} from '@dusk-tally/core/bench';
import { leadFromSpots, type LeadSpot } from '@dusk-tally/core/evidence';
import type { BenchAlarmRow, BenchRecordRow, BenchRunRow, SpotReadingRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, question } from '../shared';
import { benchChannels } from './bench-channels';
import { lotConditions } from './conditions';
import { courseOfRun, progressOf } from './run-progress';
import { benchSettings } from './settings';

/** An agent that was not heard for so long is said to be silent, ms. */
export const AGENT_SILENT_MS = 10_000;
/** A reading older than this many intervals is old. */
const OLD_INTERVALS = 4;
/** An ended run stays on the board this long, ms. */
const STAYS_MS = 30 * 60_000;

export interface AlarmView extends Omit<BenchAlarmRow, 'cellId' | 'acknowledgedBy'> {
  cell: string;
  title: string;
  advice: string;
  channel: string | null;
  acknowledgedBy: string | null;
}

/** A run as the live board shows it. */
export interface LiveRun {
  id: number;
  cell: string;
  lot: string;
  lotId: number;
  recipe: string;
  driven: boolean;
  state: BenchRunRow['state'];
  phase: string;
  step: number;
  steps: number;
  stepKind: string;
  /** What a measuring step waits for. */
  asks: string | null;
  lastSeq: number;
  timeS: number;
  voltageV: number | null;
  currentA: number | null;
  temperatureC: number | null;
  stepAh: number;
  expectedAh: number;
  share: number | null;
  finishAt: string | null;
  startedAt: string | null;
  endReason: string | null;
  completed: boolean | null;
  speed: number;
  /** No reading came for a while. */
  isSilent: boolean;
  runId: number | null;
  openAlarms: number;
  /** Worst open alarm’s action. */
  worst: string | null;
}

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

export async function openAlarms(
  lab: Lab,
  channels: readonly { id: number; title: string }[],
): Promise<AlarmView[]> {
  const { bench, cells, people } = lab.store;
  const rows = await bench.alarms.find(
    { acknowledgedAt: null },
    { order: [['id', 'DESC']], limit: 200 },
  );
  if (rows.length === 0) return [];
  const [own, runs, persons] = await Promise.all([
    cells.find(
      { id: [...new Set(rows.map(({ cellId }) => cellId))] },
      {
        columns: ['id', 'number'],
      },
    ),
    bench.runs.find(
      { id: [...new Set(rows.map(({ benchRunId }) => benchRunId))] },
      {
        columns: ['id', 'channelId'],
      },
    ),
    people.find({}, { columns: ['id', 'name'] }),
  ]);
  const number = new Map(own.map((cell) => [cell.id, cell.number]));
  const channelOf = new Map(runs.map((run) => [run.id, run.channelId]));
  const titles = new Map(channels.map(({ id, title }) => [id, title]));
  const names = new Map(persons.map(({ id, name }) => [id, name]));
  return rows.map(({ cellId, acknowledgedBy, ...row }) => ({
    ...row,
    cell: number.get(cellId) ?? '',
    title: ALARMS[row.code as AlarmCode].title,
    advice: ALARMS[row.code as AlarmCode].advice,
    channel: titles.get(channelOf.get(row.benchRunId) ?? 0) ?? null,
    acknowledgedBy: acknowledgedBy === null ? null : (names.get(acknowledgedBy) ?? null),
  }));
}

async function liveRuns(
  lab: Lab,
  rows: readonly BenchRunRow[],
  alarms: readonly AlarmView[],
  now: Date,
): Promise<Map<number, LiveRun>> {
  if (rows.length === 0) return new Map();
  const { bench, cells, lots } = lab.store;
  const [lives, own, of, versions, recipes] = await Promise.all([
    bench.live.find({ benchRunId: rows.map(({ id }) => id) }),
    cells.find(
      { id: [...new Set(rows.map(({ cellId }) => cellId))] },
      {
        columns: ['id', 'number'],
      },
    ),
    lots.find(
      { id: [...new Set(rows.map(({ lotId }) => lotId))] },
      {
        columns: ['id', 'code'],
      },
    ),
    bench.recipeVersions.find(
      { id: [...new Set(rows.map((row) => row.recipeVersionId))] },
      { columns: ['id', 'recipeId'] },
    ),
    bench.recipes.find({}, { columns: ['id', 'name'] }),
  ]);
  const live = new Map(lives.map((row) => [row.benchRunId, row]));
  const numbers = new Map(own.map((cell) => [cell.id, cell.number]));
  const codes = new Map(of.map((lot) => [lot.id, lot.code]));
  const names = new Map(recipes.map((recipe) => [recipe.id, recipe.name]));
  const recipeName = new Map(
    versions.map((version) => [version.id, names.get(version.recipeId) ?? '']),
  );
  return new Map(
    rows.map((run): [number, LiveRun] => {
      const at = live.get(run.id) ?? null;
      const progress = progressOf(run, at);
      const step = run.program[at?.step ?? 0];
      const mine = alarms.filter(({ benchRunId }) => benchRunId === run.id);
      const everyMs = Math.max(1000, (run.limits.intervalS / run.speed) * 1000);
      const isOver = run.state === 'ended' || run.state === 'stored';
      const sinceStartS = run.startedAt ? (now.getTime() - run.startedAt.getTime()) / 1000 : 0;
      const leftS = run.driven ? progress.leftS : Math.max(0, progress.leftS - sinceStartS);
      return [
        run.id,
        {
          id: run.id,
          cell: numbers.get(run.cellId) ?? '',
          lot: codes.get(run.lotId) ?? '',
          lotId: run.lotId,
          recipe: recipeName.get(run.recipeVersionId) ?? '',
          driven: run.driven,
          state: run.state,
          phase: isOver ? 'ended' : (at?.phase ?? (run.driven ? 'waiting' : 'running')),
          step: Math.min(at?.step ?? 0, run.program.length - 1),
          steps: run.program.length,
          stepKind: step?.kind ?? 'rest',
          asks: step?.kind === 'measure' && at?.phase === 'running' ? step.what : null,
          lastSeq: at?.lastSeq ?? 0,
          timeS: at?.timeS ?? sinceStartS,
          voltageV: at?.voltageV ?? null,
          currentA: at?.currentA ?? null,
          temperatureC: at?.temperatureC ?? null,
          stepAh: at?.stepAh ?? 0,
          expectedAh: progress.expectedAh,
          share: progress.share,
          finishAt: isOver ? null : new Date(now.getTime() + leftS * 1000).toISOString(),
          startedAt: run.startedAt?.toISOString() ?? null,
          endReason: run.endReason,
          completed: run.completed,
          speed: run.speed,
          isSilent:
            run.driven &&
            !isOver &&
            at !== null &&
            now.getTime() - at.receivedAt.getTime() > OLD_INTERVALS * everyMs + 3000,
          runId: run.runId,
          openAlarms: mine.length,
          worst: ALARM_ACTIONS.find((action) => mine.some((one) => one.action === action)) ?? null,
        },
      ];
    }),
  );
}

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

/** Points of a run’s picture, most. */
const MOST_POINTS = 600;

/** Leads as spot readings of a run tell them. */
export interface SpotLeads {
  /** mΩ; null where the readings say none. */
  mohm: number | null;
  standardUncertaintyMohm: number | null;
  /** Why they say none. */
  reason: string | null;
  /** What they take at the current that flows; null where none flows. */
  loss: LeadLoss | null;
}

/** Currents below this tell nothing of leads, A. */
const LEAST_A = 0.05;

/** Leads from voltages read on the cell’s terminals beside what the instrument shows. */
function spotLeadsOf(
  spots: readonly Pick<SpotReadingRow, 'quantity' | 'value' | 'shownV' | 'shownA'>[],
  at: { nowA: number; wires: 2 | 4; cutoffV: number },
): SpotLeads | null {
  const read = spots.flatMap(({ quantity, value, shownV, shownA }): LeadSpot[] =>
    quantity !== 'voltage' || shownV === null || shownA === null || shownA > LEAST_A
      ? []
      : [{ testerV: shownV, cellV: value, currentA: shownA < -LEAST_A ? -shownA : 0 }],
  );
  if (!read.some(({ currentA }) => currentA > 0)) return null;
  const found = leadFromSpots(read);
  if (found.mohm === null)
    return { mohm: null, standardUncertaintyMohm: null, reason: found.reason, loss: null };
  const amps = Math.abs(at.nowA);
  return {
    mohm: found.mohm,
    standardUncertaintyMohm: found.standardUncertaintyMohm,
    reason: null,
    loss:
      amps > LEAST_A
        ? leadLoss(found.mohm, amps, { hours: 1, wires: at.wires, cutoffV: at.cutoffV })
        : null,
  };
}

export interface BenchRunView {
  run: LiveRun;
  points: {
    seq: number;
    timeS: number;
    voltageV: number;
    currentA: number;
    temperatureC: number | null;
    step: number;
  }[];
  events: { seq: number; timeS: number; event: NonNullable<BenchRecordRow['event']> }[];
  expected: { fromS: number; toS: number; kind: string }[];
  spots: { timeS: number; quantity: string; value: number; shownV: number | null; by: string }[];
  /** Resistance of leads that spot readings say, or why they say none; null without any. */
  spotLeads: SpotLeads | null;
  cutoffV: number;
}

/** One run with its curve, thinned, and what happened in it. */
export const benchRunView = question({
  role: 'technician',
  input: z.object({ id: z.int() }),
  run: async (lab, { id }): Promise<BenchRunView> => {
    const { bench, people } = lab.store;
    const row = found(await bench.runs.one({ id }), 'That run');
    const live = await bench.live.one({ benchRunId: id });
    const conditions = await lotConditions(lab, row.lotId);
    const every = Math.max(1, Math.ceil((live?.lastSeq ?? 0) / MOST_POINTS));
    const [records, spots, persons, alarms, channels] = await Promise.all([
      bench.thinned(id, every),
      bench.spots.find({ benchRunId: id }, { order: [['id', 'ASC']] }),
      people.find({}, { columns: ['id', 'name'] }),
      openAlarms(lab, []),
      benchChannels(lab),
    ]);
    const names = new Map(persons.map((person) => [person.id, person.name]));
    const channel = channels.find(({ id: own }) => own === row.channelId);
    return {
      run: (await liveRuns(lab, [row], alarms, lab.now())).get(id)!,
      points: records.flatMap(({ seq, timeS, voltageV, currentA, temperatureC, step, event }) =>
        event === null
          ? [{ seq, timeS, voltageV: voltageV!, currentA: currentA!, temperatureC, step }]
          : [],
      ),
      events: records.flatMap(({ seq, timeS, event }) => (event ? [{ seq, timeS, event }] : [])),
      expected: courseOfRun(row).map(({ fromS, toS, kind }) => ({ fromS, toS, kind })),
      spots: spots.map(({ timeS, quantity, value, shownV, personId }) => ({
        timeS,
        quantity,
        value,
        shownV,
        by: names.get(personId) ?? '',
      })),
      spotLeads: spotLeadsOf(spots, {
        nowA: live?.currentA ?? 0,
        wires: channel?.limits.wires ?? 2,
        cutoffV: conditions.claimCutoffV,
      }),
      cutoffV: conditions.claimCutoffV,
    };
  },
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
