import { lotForecast, type LotForecast } from '@dusk-tally/core/verdicts';
import { z } from 'zod';
import { question } from '../shared';

/** What the tests of a lot so far make expect of all of it, and when they are done. */
export interface LotOutlook {
  /** Null before the first result, and once every cell has one. */
  forecast: LotForecast | null;
  /** The tested cells are those of a drawn sample: nobody picked them. */
  isDrawn: boolean;
  /** When the last of its planned tests ends; null where none is planned. */
  doneAt: Date | null;
  /** Cells without a result that nothing is planned for. */
  unplanned: number;
}

/** A lot's share short as its tests so far make expect it, and its bench time by the plan. */
export const lotOutlook = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<LotOutlook> => {
    const { store } = lab;
    const [cells, rows, jobs, plan] = await Promise.all([
      store.cells.count({ lotId }),
      store.verdicts.assessments.find(
        { lotId, item: 'capacity', state: ['met', 'notMet', 'tooClose'] },
        { columns: ['cellId', 'state'] },
      ),
      store.bench.jobs.find({ lotId, state: ['waiting', 'planned', 'running'] }),
      store.arrivals.samplingPlans.one({ lotId }, { order: [['id', 'DESC']] }),
    ]);
    const judged = new Set(rows.map(({ cellId }) => cellId));
    const waiting = new Set(jobs.map(({ cellId }) => cellId).filter((id) => !judged.has(id)));
    const ends = jobs.flatMap(({ parts }) => parts.map(({ to }) => Date.parse(to)));
    const drawn = new Set(plan && plan.method !== 'all' ? plan.cellIds : []);
    return {
      forecast:
        judged.size > 0 && judged.size < cells
          ? lotForecast(cells, judged.size, rows.filter(({ state }) => state !== 'met').length)
          : null,
      isDrawn: judged.size > 0 && [...judged].every((id) => drawn.has(id)),
      doneAt: ends.length > 0 ? new Date(Math.max(...ends)) : null,
      unplanned: cells - judged.size - waiting.size,
    };
  },
});
