import { z } from 'zod';
import { found, type Lab, question } from '../shared';
import { atPlace, type Logged, loggedOf, resultOf } from './string-tests';

export interface PlaceInString {
  testId: number;
  title: string;
  place: number;
  mohm: number;
  expandedMohm: number | null;
  standsOut: boolean;
  /** Neighbours in the string that stand out too. */
  badNeighbours: string[];
  at: Date;
}

/** Where a cell stood in load tests of strings, newest first. */
export async function placesInStrings(lab: Lab, cellId: number): Promise<PlaceInString[]> {
  const { bench, cells } = lab.store;
  const own = await bench.stringTestCells.find({ cellId });
  if (own.length === 0) return [];
  const rows = await bench.stringTests.find(
    { id: own.map(({ stringTestId }) => stringTestId) },
    { order: [['id', 'DESC']] },
  );
  const logged = await loggedOf(lab, rows);
  const all = await bench.stringTestCells.find({ stringTestId: rows.map(({ id }) => id) });
  const names = new Map(
    (await cells.find({ id: all.map((one) => one.cellId) }, { columns: ['id', 'number'] })).map(
      (cell) => [cell.id, cell.number],
    ),
  );
  return rows.flatMap((row): PlaceInString[] => {
    const { place } = own.find(({ stringTestId }) => stringTestId === row.id)!;
    const results = row.steps.map(resultOf);
    const log = row.runId === null ? null : (logged.get(row.runId) ?? null);
    const said = atPlace(results, log, place);
    if (!said) return [];
    const badNeighbours = [place - 1, place + 1]
      .filter((beside) => atPlace(results, log, beside)?.standsOut)
      .map((beside) => {
        const cell = all.find((one) => one.stringTestId === row.id && one.place === beside);
        return (cell && names.get(cell.cellId)) ?? `cell ${beside}`;
      });
    return [{ testId: row.id, title: row.title, place, ...said, badNeighbours, at: row.updatedAt }];
  });
}

/** Lots a string can be made of, newest first, with the torque of their model’s data sheet. */
export const stringLots = question({
  role: 'technician',
  input: z.object({}),
  run: async (
    lab,
  ): Promise<{ id: number; code: string; title: string; torqueNm: number | null }[]> => {
    const [lots, models] = await Promise.all([
      lab.store.lots.find({ cancelledAt: null }, { order: [['id', 'DESC']] }),
      lab.store.cellModels.find({}, { columns: ['id', 'terminalTorqueNm'] }),
    ]);
    const torque = new Map(models.map((model) => [model.id, model.terminalTorqueNm]));
    return lots.map(({ id, code, title, modelId }) => ({
      id,
      code,
      title,
      torqueNm: torque.get(modelId) ?? null,
    }));
  },
});

/** The string a log holds. @throws LabError where it holds none. */
export const stringOfRun = question({
  role: 'technician',
  input: z.object({ runId: z.int() }),
  run: async (lab, { runId }): Promise<{ runId: number; lotId: number; string: Logged }> => {
    const run = found(
      await lab.store.runs.one({ id: runId }, { columns: ['id', 'lotId', 'summary'] }),
      'That log',
    );
    const string = found(run.summary.string, 'A string in that log');
    return { runId, lotId: run.lotId, string };
  },
});

/** The load test that says which cells a log’s string is made of; null where none does. */
export async function testOfRun(
  lab: Lab,
  runId: number,
): Promise<{ id: number; cells: string[] } | null> {
  const { bench, cells } = lab.store;
  const test = await bench.stringTests.one({ runId }, { columns: ['id'] });
  if (!test) return null;
  const places = await bench.stringTestCells.find(
    { stringTestId: test.id },
    { order: [['place', 'ASC']] },
  );
  const rows = await cells.find(
    { id: [...places.map(({ cellId }) => cellId)] },
    { columns: ['id', 'number'] },
  );
  const names = new Map(rows.map((cell) => [cell.id, cell.number]));
  return { id: test.id, cells: places.map(({ cellId }) => names.get(cellId) ?? '') };
}
