import { type CurveShape, type OddCurve, oddCurves } from '@dusk-tally/core/evidence';
import type { RunRow } from '@dusk-tally/store';
import { z } from 'zod';
import { heldRuns, isWholeDischarge } from '../evidence';
import { type Lab, question } from '../shared';

/** Runs of a lot that are not held, oldest first. */
async function freeRuns(
  lab: Lab,
  lotId: number,
  columns: (keyof RunRow & string)[],
): Promise<RunRow[]> {
  const [runs, held] = await Promise.all([
    lab.store.runs.find({ lotId }, { columns, order: [['id', 'ASC']] }),
    heldRuns(lab, [lotId]),
  ]);
  return runs.filter(({ id }) => !held.has(id));
}

/** The run each cell is shown by: the one that counts, else its newest free discharge. */
async function shownRuns(
  lab: Lab,
  lotId: number,
  columns: (keyof RunRow & string)[],
): Promise<Map<number, RunRow>> {
  const [runs, counting] = await Promise.all([
    freeRuns(lab, lotId, columns),
    lab.store.verdicts.countingRuns(lotId),
  ]);
  const shown = new Map(
    runs.filter(({ summary }) => summary.loadOnS !== null).map((run) => [run.cellId, run]),
  );
  for (const run of runs) if (counting.get(run.cellId) === run.id) shown.set(run.cellId, run);
  return shown;
}

/** The thinned discharge every cell of a lot is shown by: `id:number` list and the joined curves. */
export const lotCurves = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }) => {
    const [cells, shown] = await Promise.all([
      lab.store.cells.find({ lotId }, { columns: ['id', 'number'] }),
      shownRuns(lab, lotId, ['id', 'cellId', 'curve', 'summary']),
    ]);
    const withRun = cells.filter((cell) => shown.has(cell.id));
    return {
      cells: withRun.map((cell) => cell.number),
      curves: Buffer.concat(withRun.map((cell) => shown.get(cell.id)!.curve)),
    };
  },
});

/** Of a discharge that ended early only its charge can be compared. */
const chargeOnly = (shape: CurveShape): CurveShape => ({
  ...shape,
  knee: null,
  incremental: null,
  differential: null,
  endSlopeVPerAh: null,
  relaxationV: { after1min: null, after10min: null, after1h: null },
});

/** Cells whose newest curve stands out from the others of the lot, worst first. */
export const lotOddCurves = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<OddCurve[]> => {
    const [cells, runs] = await Promise.all([
      lab.store.cells.find({ lotId }, { columns: ['id', 'number'] }),
      freeRuns(lab, lotId, ['id', 'cellId', 'summary']),
    ]);
    const number = new Map(cells.map((cell) => [cell.id, cell.number]));
    const shapes = new Map<string, CurveShape>();
    for (const { cellId, summary } of runs) {
      const cell = number.get(cellId);
      if (cell && summary.shape)
        shapes.set(cell, isWholeDischarge(summary) ? summary.shape : chargeOnly(summary.shape));
    }
    return oddCurves(shapes);
  },
});

/** dQ/dV and dV/dQ of the discharge a cell is shown by. */
export interface Derivatives {
  number: string;
  incremental: { voltageV: number[]; ahPerV: number[] } | null;
  differential: { ah: number[]; voltPerAh: number[] } | null;
}

/** The derivatives of every cell of a lot that has a discharge. */
export const lotDerivatives = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<Derivatives[]> => {
    const [cells, shown] = await Promise.all([
      lab.store.cells.find({ lotId }, { columns: ['id', 'number'] }),
      shownRuns(lab, lotId, ['id', 'cellId', 'summary']),
    ]);
    return cells.flatMap(({ id, number }): Derivatives[] => {
      const shape = shown.get(id)?.summary.shape;
      if (!shape?.incremental && !shape?.differential) return [];
      const { incremental, differential } = shape;
      return [
        {
          number,
          incremental: incremental
            ? { voltageV: incremental.voltageV, ahPerV: incremental.ahPerV }
            : null,
          differential: differential ?? null,
        },
      ];
    });
  },
});
