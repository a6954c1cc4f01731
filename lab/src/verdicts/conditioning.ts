import { earlyRiseZ } from '@dusk-tally/core/evidence';
import {
  conditioningChange,
  type ConditionedTest,
  type ConditioningChange,
} from '@dusk-tally/core/resting';
import { budgetKind, rootSumOfSquares } from '@dusk-tally/core/units';
import type { BenchRunRow, FigureRow, RunRow } from '@dusk-tally/store';
import { z } from 'zod';
import { heldRuns } from '../evidence';
import { type Lab, question } from '../shared';

/** Runs of one cell repeat within this share where nothing else says it: a house default (handbook, chapter 3). */
const REPEATS_WITHIN = 0.0025;

/** One round of conditioning: what the cell held before and after it. */
export interface ConditioningRound {
  cell: string;
  benchRunId: number;
  endedAt: Date;
  before: { runId: number; ah: number; expandedAh: number | null } | null;
  after: { runId: number; ah: number; expandedAh: number | null } | null;
  change: ConditioningChange | null;
  /** Why no change is told. */
  reason: string | null;
  /** How far its charge tail rises above the lot’s, as robust z. */
  riseBefore: number | null;
  riseAfter: number | null;
}

/** What conditioning did in a lot, and what it cost. */
export interface LotConditioning {
  rounds: ConditioningRound[];
  /** Time channels were taken, h. */
  benchHours: number;
}

type SlimRun = Pick<RunRow, 'id' | 'cellId' | 'createdAt' | 'startedAt' | 'channelId' | 'summary'>;

const momentOf = ({ startedAt, createdAt }: SlimRun): number => (startedAt ?? createdAt).getTime();

/** Capacities of runs: carried to the claim where they are, else as measured. */
async function capacitiesOf(lab: Lab, runIds: readonly number[]): Promise<Map<number, FigureRow>> {
  if (runIds.length === 0) return new Map();
  const figures = await lab.store.figures.find(
    { runId: [...runIds], quantity: ['capacity', 'capacityAtClaim'] },
    { order: [['id', 'ASC']] },
  );
  const best = new Map<number, FigureRow>();
  for (const figure of figures) {
    const known = best.get(figure.runId!);
    if (!known || figure.quantity === 'capacityAtClaim' || known.quantity === 'capacity')
      best.set(figure.runId!, figure);
  }
  return best;
}

/** How far a second run of the same cell would repeat it, Ah; 0 where its budget has that already. */
const repeatsAh = ({ value, detail: { budget } }: FigureRow): number =>
  budget.some(({ kind }) => kind === 'repeatability') ? 0 : REPEATS_WITHIN * value;

/** What of a capacity’s uncertainty differs from run to run, Ah; repeatability is in it in any case. */
const scatterOf = (figure: FigureRow): number =>
  rootSumOfSquares([
    ...figure.detail.budget
      .filter(({ kind }) => budgetKind(kind).acts === 'scatters')
      .map((part) => part.standardUncertainty),
    repeatsAh(figure),
  ]);

function testOf(run: SlimRun | undefined, figures: ReadonlyMap<number, FigureRow>) {
  const figure = run && figures.get(run.id);
  if (!run || !figure) return null;
  const { value, standardUncertainty, bound } = figure;
  const test: ConditionedTest = {
    estimate: {
      value,
      standardUncertainty:
        standardUncertainty === null
          ? null
          : rootSumOfSquares([standardUncertainty, repeatsAh(figure)]),
      bound,
    },
    channelId: run.channelId,
    scattersAh: scatterOf(figure),
  };
  return {
    test,
    told: {
      runId: run.id,
      ah: value,
      expandedAh: standardUncertainty === null ? null : 2 * standardUncertainty,
    },
  };
}

/** The charge tail of a run against those of the other cells, as they are now. */
function riseOf(run: SlimRun | undefined, newest: readonly SlimRun[]): number | null {
  const tail = run?.summary.shape?.chargeTailV;
  if (!run || !tail) return null;
  const others = newest.flatMap(({ cellId, summary }) =>
    cellId !== run.cellId && summary.shape?.chargeTailV ? [summary.shape.chargeTailV] : [],
  );
  return earlyRiseZ(tail, others);
}

function roundOf(
  round: BenchRunRow,
  cell: string,
  own: readonly SlimRun[],
  newest: readonly SlimRun[],
  figures: ReadonlyMap<number, FigureRow>,
): ConditioningRound {
  const began = (round.startedAt ?? round.createdAt).getTime();
  const first = own.findLast((run) => momentOf(run) < began);
  const later = own.filter((run) => momentOf(run) >= began);
  const last = later.findLast((run) => figures.has(run.id));
  const [before, after] = [testOf(first, figures), testOf(last, figures)];
  const change = before && after ? conditioningChange(before.test, after.test) : null;
  return {
    cell,
    benchRunId: round.id,
    endedAt: round.endedAt ?? round.createdAt,
    before: before?.told ?? null,
    after: after?.told ?? null,
    change,
    reason: change
      ? null
      : !before
        ? 'not tested before it'
        : !after
          ? 'not tested since'
          : 'one of the two is only a bound, or its uncertainty is not known',
    riseBefore: riseOf(first, newest),
    riseAfter: riseOf(last, newest),
  };
}

/** Rounds of conditioning of a lot, or of one of its cells: before and after, and their cost (handbook, chapter 4). */
export const lotConditioning = question({
  role: 'technician',
  input: z.object({ lotId: z.int(), cellId: z.int().optional() }),
  run: async (lab, { lotId, cellId }): Promise<LotConditioning> => {
    const { bench, cells, runs } = lab.store;
    const versions = await bench.versionsFor('conditioning');
    const rounds = await bench.runs.find(
      {
        lotId,
        recipeVersionId: versions,
        state: ['ended', 'stored'],
        ...(cellId !== undefined && { cellId }),
      },
      { order: [['id', 'ASC']] },
    );
    if (rounds.length === 0) return { rounds: [], benchHours: 0 };
    const [all, held, rows] = await Promise.all([
      runs.find(
        { lotId },
        {
          columns: ['id', 'cellId', 'createdAt', 'startedAt', 'channelId', 'summary'],
          order: [['id', 'ASC']],
        },
      ),
      heldRuns(lab, [lotId]),
      cells.find({ id: rounds.map((one) => one.cellId) }, { columns: ['id', 'number'] }),
    ]);
    const free = all.filter(({ id }) => !held.has(id));
    const newest = [...new Map(free.map((run) => [run.cellId, run])).values()];
    const conditioned = new Set(rounds.map((one) => one.cellId));
    const own = free.filter((run) => conditioned.has(run.cellId));
    const figures = await capacitiesOf(
      lab,
      own.map(({ id }) => id),
    );
    const numbers = new Map(rows.map(({ id, number }) => [id, number]));
    return {
      rounds: rounds.map((round) =>
        roundOf(
          round,
          numbers.get(round.cellId) ?? '',
          own.filter((run) => run.cellId === round.cellId),
          newest,
          figures,
        ),
      ),
      benchHours: rounds.reduce(
        (sum, { startedAt, endedAt }) =>
          sum + (startedAt && endedAt ? (endedAt.getTime() - startedAt.getTime()) / 3_600_000 : 0),
        0,
      ),
    };
  },
});
