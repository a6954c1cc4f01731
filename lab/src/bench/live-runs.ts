import { ALARM_ACTIONS } from '@dusk-tally/core/bench';
import type { BenchLiveRow, BenchRunRow } from '@dusk-tally/store';
import type { Lab } from '../shared';
import { progressOf } from './run-progress';
import type { AlarmView } from './open-alarms';

/** A reading older than this many intervals is old. */
const OLD_INTERVALS = 4;

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

type Named = 'cell' | 'lot' | 'recipe' | 'openAlarms' | 'worst';

/** Where a run stands by the last that was heard of it. */
function standingOf(run: BenchRunRow, at: BenchLiveRow | null, now: Date): Omit<LiveRun, Named> {
  const progress = progressOf(run, at);
  const step = run.program[at?.step ?? 0];
  const everyMs = Math.max(1000, (run.limits.intervalS / run.speed) * 1000);
  const isOver = run.state === 'ended' || run.state === 'stored';
  const sinceStartS = run.startedAt ? (now.getTime() - run.startedAt.getTime()) / 1000 : 0;
  const leftS = run.driven ? progress.leftS : Math.max(0, progress.leftS - sinceStartS);
  return {
    id: run.id,
    lotId: run.lotId,
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
  };
}

/** Runs as the board shows them, by their number. */
export async function liveRuns(
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
      const mine = alarms.filter(({ benchRunId }) => benchRunId === run.id);
      return [
        run.id,
        {
          cell: numbers.get(run.cellId) ?? '',
          lot: codes.get(run.lotId) ?? '',
          recipe: recipeName.get(run.recipeVersionId) ?? '',
          openAlarms: mine.length,
          worst: ALARM_ACTIONS.find((action) => mine.some((one) => one.action === action)) ?? null,
          ...standingOf(run, live.get(run.id) ?? null, now),
        },
      ];
    }),
  );
}
